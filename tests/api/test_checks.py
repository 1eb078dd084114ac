import unittest

from tests.api.making import WithServer


class Checks(WithServer):
    def found(self, shot: str = "jetty-walk-swaying") -> dict:  # type: ignore[type-arg]
        answer = self.client.get(f"/api/shots/{shot}/checks")
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def test_a_finding_its_fix_and_meant_so(self) -> None:
        shot = "jetty-walk-swaying"
        self.assertEqual([each["says"] for each in self.found()["findings"] if each["weight"]], [])
        self.edit({"type": "set_values", "values": [{"at": "layer:sway-1.weight", "value": 0}]}, shot)
        (found,) = self.found()["findings"]
        self.assertEqual((found["check"], found["at"], found["weight"]), ("silent", "layer:sway-1", True))
        meant = {"type": "mean_so", "check": "silent", "at": "layer:sway-1", "amount": found["amount"]}
        state = self.edit(meant, shot)
        self.assertEqual([each["at"] for each in self.found()["meant"]], ["layer:sway-1"])
        self.assertEqual(self.found()["findings"], [])
        self.assertEqual(self.found()["revision"], state["revision"])
        self.edit({**meant, "meant": False}, shot)
        self.edit(found["fix"]["command"], shot)
        self.assertEqual(self.found()["findings"], [])

    def test_a_shot_that_is_not_there(self) -> None:
        self.problem(self.client.get("/api/shots/nowhere/checks"), 404, "nowhere")


if __name__ == "__main__":
    unittest.main()

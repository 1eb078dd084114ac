import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

from tests.api.making import WithServer
from tools.demo.shots import SHOTS
from zittern.checking import pieces_for
from zittern.core.checks.table import check, named
from zittern.core.numbers.param import keyed
from zittern.formats.set_meshes import pieces_of
from zittern.store.sets import SHIPPED


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
        ignored = {"type": "ignore_finding", "check": "silent", "at": "layer:sway-1", "amount": found["amount"]}
        state = self.edit(ignored, shot)
        self.assertEqual([each["at"] for each in self.found()["ignored"]], ["layer:sway-1"])
        self.assertEqual(self.found()["findings"], [])
        self.assertEqual(self.found()["revision"], state["revision"])
        self.edit({**ignored, "ignored": False}, shot)
        self.edit(found["fix"]["command"], shot)
        self.assertEqual(self.found()["findings"], [])

    def test_what_stands_in_the_set_is_looked_at(self) -> None:
        shot = "jetty-walk-swaying"
        mast = next(
            piece
            for piece in pieces_of((SHIPPED / "saltmarsh-jetty.glb").read_bytes()).pieces
            if piece.name == "signal mast"
        ).triangles_m.reshape(-1, 3)
        x, _, z = mast[mast[:, 1] < 0.0].mean(axis=0).tolist()
        keys = [(1, x - 4.0), (192, x + 4.0)]
        self.edit(
            {
                "type": "set_values",
                "values": [
                    {"at": "mount:camera.x_m", "value": keyed(*keys, interp="linear").model_dump()},
                    *({"at": f"mount:camera.{name}", "value": value} for name, value in (("y_m", 2.0), ("z_m", z))),
                ],
            },
            shot,
        )
        through = [each for each in self.found()["findings"] if each["check"] == "through"]
        self.assertTrue(any("signal mast" in each["says"] and each["at"] == "shot.set_id" for each in through), through)

    def test_a_set_that_cannot_be_read_is_a_finding(self) -> None:
        shot = SHOTS["jetty-walk"]().replace(set_id="torn")
        with TemporaryDirectory() as folder:
            (Path(folder) / "sets").mkdir()
            self.assertIsNone(pieces_for(Path(folder), shot), "a set that is elsewhere is none")
            (Path(folder) / "sets" / "torn.glb").write_bytes(b"glTF torn")
            (found,) = check(shot, named(["coverage"]), pieces=pieces_for(Path(folder), shot)).findings
        self.assertEqual((found.at, found.weight), ("shot.set_id", True))
        self.assertRegex(found.says, "the set cannot be checked: .")

    def test_where_a_picture_looks_past_the_edge_of_the_set(self) -> None:
        where = "/api/shots/jetty-walk-swaying/past-set"
        told = self.client.get(where, params={"frame": 40}).json()
        self.assertEqual((told["frame"], told["strips"]), (40.0, []))
        for frame in ("nan", "inf", "1e308", "-1e308", "9223372036854775808", "x", ""):
            answer = self.client.get(where, params={"frame": frame})
            self.problem(answer, 422, "expected (a number|a finite number|at least -?[0-9]+|-?[0-9]+ or less)", "frame")
        self.problem(self.client.get("/api/shots/nowhere/past-set"), 404, "nowhere")

    def test_a_shot_that_is_not_there(self) -> None:
        self.problem(self.client.get("/api/shots/nowhere/checks"), 404, "nowhere")


if __name__ == "__main__":
    unittest.main()

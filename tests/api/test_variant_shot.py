"""Which variant a request is about, named in its envelope."""

import numpy as np

from tests.api.making import WithServer, unpack
from tests.core.shot.test_changes import applied
from tools.demo.shots import SHOTS

SHOT = "signal-run"
OTHER = {"zittern-variant": "variant-1"}
MUTE = {"type": "set_values", "values": [{"at": "clip:clip-5.mute", "value": True}]}


class Envelopes(WithServer):
    def ask(self, headers: dict[str, str], **body: object) -> dict[str, np.ndarray]:
        answer = self.client.post(f"/api/shots/{SHOT}/motion", json={"frame": 1, **body}, headers=headers)
        self.assertEqual(answer.status_code, 200, answer.text)
        return unpack(answer.content)[1]

    def test_a_shot_its_motion_and_checks_are_those_of_the_variant(self) -> None:
        main, other = self.state(SHOT), self.client.get(f"/api/shots/{SHOT}", headers=OTHER).json()
        self.assertEqual(
            (main["variant"], other["variant"], main["revision"]), ("main", "variant-1", other["revision"])
        )
        self.assertEqual([lane["name"] for lane in other["document"]["lanes"]], ["Breath", "Stand to walk to run"])
        self.assertFalse(np.array_equal(self.ask({})["sum"], self.ask(OTHER)["sum"]))
        np.testing.assert_array_equal(self.ask({})["bare"], self.ask(OTHER)["bare"])
        tried = self.ask(
            OTHER, commands=[{"type": "set_values", "values": [{"at": "clip:clip-5.amount", "value": 0.0}]}]
        )
        self.assertFalse(np.array_equal(tried["sum"], self.ask(OTHER)["sum"]))
        self.assertEqual(self.client.get(f"/api/shots/{SHOT}/checks", headers=OTHER).status_code, 200)

    def test_an_edit_lands_in_its_variant_and_tells_what_differs_there(self) -> None:
        before = self.client.get(f"/api/shots/{SHOT}", headers=OTHER).json()
        headers = {**OTHER, "zittern-have": str(before["revision"])}
        body = {"base_revision": before["revision"], "command": MUTE}
        answer = self.client.post(f"/api/shots/{SHOT}/edits", json=body, headers=headers).json()
        self.assertEqual(set(answer["changes"]), {"lanes"})
        self.assertEqual(answer["label"], "Mute “Breath” · Stand to run")
        after = self.client.get(f"/api/shots/{SHOT}", headers=OTHER).json()
        whole = applied(before["document"], answer["changes"])
        self.assertEqual(whole["lanes"], after["document"]["lanes"])
        self.assertEqual(self.state(SHOT)["document"]["lanes"], SHOTS[SHOT]().model_dump(mode="json")["lanes"])
        again = {"base_revision": after["revision"], "command": MUTE}
        self.problem(self.client.post(f"/api/shots/{SHOT}/edits", json=again), 422, "no clip 'clip-5'")

    def test_a_new_one_is_seen_and_undoing_it_shows_the_main_one(self) -> None:
        made = self.edit({"type": "add_variant", "name": "Calm"}, SHOT)
        self.assertEqual((made["variant"], made["made"]), ("variant-2", ["variant:variant-2"]))
        calm = {"zittern-variant": "variant-2"}
        undone = self.client.post(
            f"/api/shots/{SHOT}/undo", json={"base_revision": made["revision"]}, headers=calm
        ).json()
        self.assertEqual((undone["variant"], len(undone["document"]["variants"])), ("main", 2))

    def test_what_is_about_a_variant_that_is_gone_says_so_and_changes_nothing(self) -> None:
        revision = self.edit({"type": "remove_variant", "variant": "variant-1"}, SHOT)["revision"]
        for path, body in (("motion", {"frame": 1}), ("edits", {"base_revision": revision, "command": MUTE})):
            answer = self.client.post(f"/api/shots/{SHOT}/{path}", json=body, headers=OTHER)
            self.problem(answer, 404, "no variant 'variant-1'; it may have been deleted. There are: “Main”")
        self.assertEqual(self.client.get(f"/api/shots/{SHOT}", headers=OTHER).json()["variant"], "main")
        self.assertEqual(self.state(SHOT)["revision"], revision)

    def test_odd_names_in_the_envelope(self) -> None:
        for name in ("", " ", "x" * 121, "Ünï".encode(), b"\xff\x80", "main\x7f", "../main"):
            answer = self.client.post(
                f"/api/shots/{SHOT}/motion", json={"frame": 1}, headers={b"zittern-variant": name}
            )
            self.assertIn(answer.status_code, (404, 422), name)

    def test_each_exported_file_has_the_name_of_its_variant(self) -> None:
        body = {"format": "csv", "step": 1}
        names = [
            self.client.post(f"/api/shots/{SHOT}/exports", json=body, headers=headers).json()["filename"]
            for headers in ({}, OTHER)
        ]
        self.assertEqual(names, ["signal-run-main.csv", "signal-run-stand-to-run.csv"])
        alone = self.client.post("/api/shots/jetty-walk/exports", json=body).json()["filename"]
        self.assertEqual(alone, "jetty-walk.csv")

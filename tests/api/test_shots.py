import base64

from tests.api.making import WithServer
from tests.core.shot.test_changes import applied
from zittern.core.sources.table import SOURCES

SWING = {"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": 0.9}]}


class Projects(WithServer):
    def test_list_add_rename_remove(self) -> None:
        self.assertEqual(
            self.client.get("/api/projects").json(), [{"slug": "saltmarsh-post", "name": "Saltmarsh Post", "shots": 10}]
        )
        made = self.client.post("/api/projects", json={"name": "Second"})
        self.assertEqual((made.status_code, made.json()["slug"]), (201, "second"))
        self.assertEqual(self.client.patch("/api/projects/second", json={"name": "Other"}).json()["name"], "Other")
        self.assertEqual(self.client.delete("/api/projects/second").status_code, 204)
        self.problem(self.client.delete("/api/projects/saltmarsh-post"), 422, "still has shots")
        self.problem(self.client.post("/api/projects", json={"name": "  "}), 422, "1 to 120", "name")

    def test_shots_are_listed_made_copied_removed(self) -> None:
        cards = self.client.get("/api/projects/saltmarsh-post/shots").json()
        self.assertEqual(
            [(c["slug"], c["frames"], c["layers"]) for c in cards],
            [
                ("empty-dune", 144, 0),
                ("jetty-walk", 192, 0),
                ("jetty-walk-handheld", 192, 3),
                ("jetty-walk-swaying", 192, 2),
                ("kite-pass", 216, 3),
                ("lamp-close", 240, 3),
                ("mast-fall", 168, 3),
                ("signal-run", 192, 7),
                ("sled-run", 168, 6),
                ("surge-plates", 192, 2),
            ],
        )
        made = self.client.post(
            "/api/projects/saltmarsh-post/shots", json={"name": "Empty", "fps": "30000/1001", "frames": 90}
        ).json()
        self.assertEqual((made["document"]["last_frame"], made["document"]["fps"]), (90, {"num": 30000, "den": 1001}))
        copy = self.client.post(
            "/api/projects/saltmarsh-post/shots", json={"name": "Copy", "copy_of": "jetty-walk-swaying"}
        ).json()
        self.assertEqual(len(copy["document"]["lanes"][0]["clips"][0]["layers"]), 2)
        original = self.state("jetty-walk-swaying")["document"]
        self.assertEqual(copy["document"]["lanes"], original["lanes"])  # it moves alike until something is added
        self.assertEqual(len({made["document"]["seed"], copy["document"]["seed"], original["seed"]}), 3)
        again = self.client.post(
            "/api/projects/saltmarsh-post/shots", json={"name": "Empty", "fps": "30000/1001", "frames": 90}
        ).json()
        self.assertNotEqual(again["document"]["seed"], made["document"]["seed"])
        self.assertEqual(self.client.delete("/api/shots/empty").status_code, 204)
        self.problem(self.client.get("/api/shots/empty"), 404, "no shot 'empty'")
        self.problem(self.client.get("/api/projects/none/shots"), 404, "no project")
        self.problem(
            self.client.post("/api/projects/saltmarsh-post/shots", json={"name": "X", "fps": 0}), 422, "above 0", "fps"
        )


class Cards(WithServer):
    def test_what_a_card_shows_is_kept_and_follows_the_shot(self) -> None:
        def card(slug: str) -> dict:  # type: ignore[type-arg]
            return next(
                each for each in self.client.get("/api/projects/saltmarsh-post/shots").json() if each["slug"] == slug
            )

        drawn = card("jetty-walk-swaying")["scribble"]
        self.assertEqual(len(base64.b64decode(drawn)), 2 * 192)
        self.edit({"type": "new_seeds", "layers": ["sway-1"]}, "jetty-walk-swaying")
        self.assertIsNone(card("jetty-walk-swaying")["scribble"])
        anew = self.client.get("/api/shots/jetty-walk-swaying/scribble").json()["scribble"]
        self.assertNotEqual(anew, drawn)
        self.assertEqual(card("jetty-walk-swaying")["scribble"], anew)

    def test_a_shot_that_cannot_be_read(self) -> None:
        with self.library._engine.begin() as connection:
            connection.exec_driver_sql(
                "UPDATE revisions SET document = x'00' WHERE shot_id = (SELECT id FROM shots WHERE slug = 'lamp-close')"
            )
        cards = {each["slug"]: each for each in self.client.get("/api/projects/saltmarsh-post/shots").json()}
        self.assertEqual([slug for slug, each in cards.items() if each["problem"]], ["lamp-close"])
        self.problem(self.client.get("/api/shots/lamp-close"), 422, "cannot be read.*Export it raw")
        raw = self.client.get("/api/shots/lamp-close/raw")
        self.assertEqual(
            (raw.content, raw.headers["content-disposition"]), (b"\0", 'attachment; filename="lamp-close.raw"')
        )
        self.assertEqual(self.client.get("/api/shots/jetty-walk/raw").json()["name"], "Jetty walk")
        self.assertEqual(self.client.delete("/api/shots/lamp-close").status_code, 204)


class Edits(WithServer):
    def test_edit_undo_redo(self) -> None:
        before = self.state("jetty-walk-swaying")
        after = self.edit(SWING, "jetty-walk-swaying")
        self.assertEqual(
            after["document"]["lanes"][0]["clips"][0]["layers"][0]["axes"]["pan"]["swing"],
            {"state": "fixed", "value": 0.9},
        )
        self.assertEqual(after["undo_label"], "Set swing of pan in “Slow sway”")
        undone = self.client.post(
            "/api/shots/jetty-walk-swaying/undo", json={"base_revision": after["revision"]}
        ).json()
        self.assertEqual((undone["document"], undone["redo_label"]), (before["document"], after["undo_label"]))
        redone = self.client.post(
            "/api/shots/jetty-walk-swaying/redo", json={"base_revision": undone["revision"]}
        ).json()
        self.assertEqual(redone["document"], after["document"])
        labels = [row["label"] for row in self.client.get("/api/shots/jetty-walk-swaying/revisions").json()["rows"]]
        self.assertEqual(labels, ["Set swing of pan in “Slow sway”", "Demo shot"])

    def test_history_names_and_jumps(self) -> None:
        first = self.state()["revision"]
        after = self.edit({"type": "add_handheld"})
        self.assertEqual(
            self.client.patch(f"/api/shots/jetty-walk/revisions/{first}", json={"name": "before the gull"}).status_code,
            204,
        )
        back = self.client.post(
            "/api/shots/jetty-walk/goto", json={"base_revision": after["revision"], "revision": first}
        ).json()
        self.assertEqual((back["revision"], back["redo_label"]), (first, "Add handheld feel"))
        rows = self.client.get("/api/shots/jetty-walk/revisions").json()["rows"]
        self.assertEqual([(row["name"], row["current"]) for row in rows], [(None, False), ("before the gull", True)])

    def test_history_is_read_page_by_page_and_tidied_on_wish(self) -> None:
        for i in range(6):
            self.edit({"type": "set_values", "values": [{"at": "shot.name", "value": f"N{i}"}]})
        path = "/api/shots/jetty-walk"
        page = self.client.get(f"{path}/revisions?most=4").json()
        rest = self.client.get(f"{path}/revisions?most=4&before={page['older']}").json()
        self.assertEqual(
            ([len(each["rows"]) for each in (page, rest)], rest["older"], rest["count"]), ([4, 3], None, 7)
        )
        planned = self.client.get(f"{path}/tidy?keep=2").json()
        self.assertEqual((planned["revisions"], planned["of"]), (5, 7))
        self.assertEqual(self.client.post(f"{path}/tidy", json={"keep": 2}).json()["revisions"], 5)
        self.assertEqual(self.client.get(f"{path}/revisions").json()["count"], 2)
        self.problem(self.client.post(f"{path}/tidy", json={"keep": 0}), 422, "expected at least 1", "keep")

    def test_numbers_past_all_limits_are_refused_and_what_is_saved_can_be_evaluated(self) -> None:
        path, base = "/api/shots/jetty-walk", self.state()["revision"]
        for call, body in (
            ("undo", {"base_revision": 2**63}),
            ("goto", {"base_revision": base, "revision": 2**64}),
            ("motion", {"revision": 2**63}),
        ):
            self.problem(self.client.post(f"{path}/{call}", json=body), 422, "or less|expected a whole number")
        self.problem(self.client.patch(f"{path}/revisions/{2**63}", json={"name": "x"}), 422, "or less")
        head = {"Content-Type": "application/json"}
        for number in ("NaN", "1e400", "1e308", "-1e308"):
            self.problem(self.client.post(f"{path}/motion", content=f'{{"frame": {number}}}', headers=head), 422, ".")
        keyed = {"frame": 74, "handle_in": [-1, 1e308]}
        for command in (
            {"type": "set_values", "values": [{"at": "mount:camera.pivot_m", "value": [1e308, 0, 0]}]},
            {"type": "set_handles", "at": "mount:camera.pan_deg", **keyed},
            {"type": "set_span", "at": ["layer:sway-1"], "first_frame": -1e300},
        ):
            self.problem(self.client.post(f"{path}/edits", json={"base_revision": base, "command": command}), 422, ".")
        move = dict.fromkeys(("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"), 0.0)
        for last in (0, -5, 20_001, 10_000_000):
            command = {"type": "add_move", "name": "far", "move": {**move, "last_frame": last}}
            self.problem(
                self.client.post(f"{path}/edits", json={"base_revision": base, "command": command}),
                422,
                ".",
                "last_frame",
            )
        self.assertEqual(self.state()["revision"], base)

    def test_a_late_edit_is_a_conflict_that_says_what_came_first(self) -> None:
        old = self.state()["revision"]
        new = self.edit({"type": "add_handheld"})
        late = self.client.post(
            "/api/shots/jetty-walk/edits", json={"base_revision": old, "command": {"type": "add_handheld"}}
        )
        body = self.problem(late, 409, "changed elsewhere")
        self.assertEqual((body["current_revision"], body["current_label"]), (new["revision"], "Add handheld feel"))
        self.assertEqual(self.state()["revision"], new["revision"])

    def test_faults_name_the_field_and_change_nothing(self) -> None:
        before = self.state("jetty-walk-swaying")
        base = before["revision"]
        for command, pattern, where in (
            (
                {"type": "set_values", "values": [{"at": "layer:sway-1.source.octaves", "value": 10**9}]},
                "expected 8 or less",
                "layer:sway-1.source.octaves",
            ),
            (
                {"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": "big"}]},
                "expected an object with fields, got 'big'",
                "layer:sway-1.axes.pan.swing",
            ),
            ({"type": "set_values", "values": [{"at": "shot.fps", "value": 0}]}, "above 0", "shot.fps"),
            ({"type": "remove_layers", "layers": ["gone"]}, "no layer 'gone'", "layer"),
            ({"type": "explode"}, "there is no 'type' 'explode'; there are 'add_blend'", "command"),
            ({"type": "add_layer", "source": "noise", "extra": 1}, "there is no such field", "command.extra"),
            (
                {"type": "scale_swings", "layers": ["sway-1"], "factor": -1},
                "expected at least 0",
                "command.factor",
            ),
        ):
            answer = self.client.post(
                "/api/shots/jetty-walk-swaying/edits", json={"base_revision": base, "command": command}
            )
            self.problem(answer, 422, pattern, where)
        self.assertEqual(self.state("jetty-walk-swaying"), before)

    def test_faults_have_a_place_for_people(self) -> None:
        base = self.state("jetty-walk-swaying")["revision"]
        for at, place in (
            ("layer:sway-1.axes.pan.swing", "swing of pan in “Slow sway”"),
            ("mount:camera.pan_deg", "pan in “Camera”"),
            ("shot.focal_mm", "focal length"),
            ("layer:gone.weight", ""),
        ):
            command = {"type": "set_numbers", "frame": 1, "values": [{"at": at, "value": 1e99}]}
            answer = self.client.post(
                "/api/shots/jetty-walk-swaying/edits", json={"base_revision": base, "command": command}
            )
            self.assertEqual(self.problem(answer, 422, "got 1e\\+99|no layer")["place"], place)

    def test_bodies_that_are_no_json(self) -> None:
        for content in (b"", b"{", b"[]", b"NaN"):
            answer = self.client.post(
                "/api/shots/jetty-walk/edits", content=content, headers={"Content-Type": "application/json"}
            )
            self.assertEqual(answer.status_code, 422, content)


class Tables(WithServer):
    def test_what_the_page_needs(self) -> None:
        tables = self.client.get("/api/tables").json()
        self.assertEqual(
            [axis["name"] for axis in tables["axes"]],
            ["pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom", "shift_x", "shift_y", "focus"],
        )
        self.assertEqual([source["kind"] for source in tables["sources"]], [row.kind for row in SOURCES])
        self.assertIn({"set_id": "saltmarsh-jetty", "title": "saltmarsh jetty"}, tables["sets"])
        self.assertEqual([look["field"] for look in tables["forms"]["move"]][-1], "focal_mm")
        self.assertEqual(tables["forms"]["limits"]["aim_camera.fill"], [0.02, 4.0])

    def test_what_is_typed_into_a_number_is_worked_out(self) -> None:
        for text, before, value in (("0,4*2", 0, 0.8), ("+=2", 10, 12.0), ("1/0", 3, 0.0)):
            self.assertEqual(
                self.client.post("/api/arithmetic", json={"text": text, "before": before}).json()["value"], value
            )
        wrong = self.client.post("/api/arithmetic", json={"text": "1 + sine(2)", "before": 0}).json()
        self.assertEqual((wrong["value"], wrong["start"], wrong["stop"]), (None, 4, 8))
        self.assertIn("did you mean `sin`", wrong["fault"])
        for text in ("9" * 100_000, "(" * 50_000, "2^" * 200 + "2", "é", "\u0000", "0x10", "1_000"):
            self.assertEqual(self.client.post("/api/arithmetic", json={"text": text, "before": 0}).status_code, 200)
        for body in (
            {"text": "1", "before": 1e308},
            {"text": "1"},
            {"text": "9" * 100_001, "before": 0},
            {"text": 3, "before": 0},
        ):
            self.assertEqual(self.client.post("/api/arithmetic", json=body).status_code, 422)

    def test_what_an_edit_made_is_told(self) -> None:
        base = self.client.get("/api/shots/jetty-walk").json()["revision"]
        command = {"type": "add_layer", "source": "wave"}
        state = self.client.post("/api/shots/jetty-walk/edits", json={"base_revision": base, "command": command}).json()
        self.assertEqual(state["made"], ["lane:main", "clip:main", "layer:wave-1"])
        self.assertEqual(self.client.get("/api/shots/jetty-walk").json()["made"], [])

    def test_a_length_in_seconds(self) -> None:
        body = {"name": "Half", "fps": "24000/1001", "seconds": 0.5}
        state = self.client.post("/api/projects/saltmarsh-post/shots", json=body).json()
        self.assertEqual(state["document"]["last_frame"], 12)

    def test_sets(self) -> None:
        answer = self.client.get("/api/sets/saltmarsh-jetty")
        self.assertEqual((answer.status_code, answer.content[:4]), (200, b"glTF"))
        for wrong in ("none", "..%2f..%2fsecret", "A", "x" * 200):
            self.assertEqual(self.client.get(f"/api/sets/{wrong}").status_code, 404, wrong)

    def test_unknown_addresses(self) -> None:
        self.problem(self.client.get("/api/nothing"), 404, "no address|Not Found")


class WhatDiffers(WithServer):
    def test_who_has_a_revision_hears_what_differs_from_it(self) -> None:
        before = self.state("jetty-walk-swaying")
        path, have = "/api/shots/jetty-walk-swaying", {"zittern-have": str(before["revision"])}
        body = {"base_revision": before["revision"], "command": SWING}
        told = self.client.post(f"{path}/edits", json=body, headers=have).json()
        after = self.state("jetty-walk-swaying")
        self.assertEqual(
            (told["changed_from"], told["revision"], told["label"]),
            (before["revision"], after["revision"], after["label"]),
        )
        self.assertNotIn("document", told)
        self.assertEqual(applied(before["document"], told["changes"]), after["document"])
        self.assertEqual(set(told["changes"]), {"lanes"})
        undone = self.client.post(
            f"{path}/undo", json={"base_revision": after["revision"]}, headers={"zittern-have": str(after["revision"])}
        ).json()
        self.assertEqual(applied(after["document"], undone["changes"]), before["document"])

    def test_who_has_none_that_is_here_hears_all(self) -> None:
        before = self.state("jetty-walk-swaying")
        body = {"base_revision": before["revision"], "command": SWING}
        told = self.client.post(
            "/api/shots/jetty-walk-swaying/edits", json=body, headers={"zittern-have": "987654321"}
        ).json()
        self.assertEqual(told["document"], self.state("jetty-walk-swaying")["document"])
        bad = self.client.post(
            "/api/shots/jetty-walk-swaying/undo",
            json={"base_revision": told["revision"]},
            headers={"zittern-have": "-1"},
        )
        self.problem(bad, 422, "expected at least 0", "zittern-have")

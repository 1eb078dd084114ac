from tests.api.making import WithServer

SWING = {"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": 0.9}]}


class Projects(WithServer):
    def test_list_add_rename_remove(self) -> None:
        self.assertEqual(self.client.get("/api/projects").json(), [{"slug": "saltmarsh-post", "name": "Saltmarsh Post", "shots": 4}])
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
            [("empty-dune", 144, 0), ("jetty-walk", 192, 0), ("jetty-walk-handheld", 192, 2), ("lamp-close", 240, 3)],
        )
        made = self.client.post("/api/projects/saltmarsh-post/shots", json={"name": "Empty", "fps": "30000/1001", "frames": 90}).json()
        self.assertEqual((made["document"]["last_frame"], made["document"]["fps"]), (90, {"num": 30000, "den": 1001}))
        copy = self.client.post("/api/projects/saltmarsh-post/shots", json={"name": "Copy", "copy_of": "jetty-walk-handheld"}).json()
        self.assertEqual(len(copy["document"]["clips"][0]["layers"]), 2)
        self.assertEqual(self.client.delete("/api/shots/empty").status_code, 204)
        self.problem(self.client.get("/api/shots/empty"), 404, "no shot 'empty'")
        self.problem(self.client.get("/api/projects/none/shots"), 404, "no project")
        self.problem(self.client.post("/api/projects/saltmarsh-post/shots", json={"name": "X", "fps": 0}), 422, "above 0", "fps")


class Edits(WithServer):
    def test_edit_undo_redo(self) -> None:
        before = self.state("jetty-walk-handheld")
        after = self.edit(SWING, "jetty-walk-handheld")
        self.assertEqual(after["document"]["clips"][0]["layers"][0]["axes"]["pan"]["swing"], {"state": "fixed", "value": 0.9})
        self.assertEqual(after["undo_label"], "Set swing of pan in “Slow sway”")
        undone = self.client.post("/api/shots/jetty-walk-handheld/undo", json={"base_revision": after["revision"]}).json()
        self.assertEqual((undone["document"], undone["redo_label"]), (before["document"], after["undo_label"]))
        redone = self.client.post("/api/shots/jetty-walk-handheld/redo", json={"base_revision": undone["revision"]}).json()
        self.assertEqual(redone["document"], after["document"])
        labels = [row["label"] for row in self.client.get("/api/shots/jetty-walk-handheld/revisions").json()["rows"]]
        self.assertEqual(labels, ["Set swing of pan in “Slow sway”", "Demo shot"])

    def test_history_names_and_jumps(self) -> None:
        first = self.state()["revision"]
        after = self.edit({"type": "add_handheld"})
        self.assertEqual(self.client.patch(f"/api/shots/jetty-walk/revisions/{first}", json={"name": "before the gull"}).status_code, 204)
        back = self.client.post("/api/shots/jetty-walk/goto", json={"base_revision": after["revision"], "revision": first}).json()
        self.assertEqual((back["revision"], back["redo_label"]), (first, "Add handheld feel"))
        rows = self.client.get("/api/shots/jetty-walk/revisions").json()["rows"]
        self.assertEqual([(row["name"], row["current"]) for row in rows], [(None, False), ("before the gull", True)])

    def test_a_late_edit_is_a_conflict_that_says_what_came_first(self) -> None:
        old = self.state()["revision"]
        new = self.edit({"type": "add_handheld"})
        late = self.client.post("/api/shots/jetty-walk/edits", json={"base_revision": old, "command": {"type": "add_handheld"}})
        body = self.problem(late, 409, "changed elsewhere")
        self.assertEqual((body["current_revision"], body["current_label"]), (new["revision"], "Add handheld feel"))
        self.assertEqual(self.state()["revision"], new["revision"])

    def test_faults_name_the_field_and_change_nothing(self) -> None:
        before = self.state("jetty-walk-handheld")
        base = before["revision"]
        for command, pattern, where in (
            (
                {"type": "set_values", "values": [{"at": "layer:sway-1.source.octaves", "value": 10**9}]},
                "less than or equal to 8",
                "layer:sway-1.source.octaves",
            ),
            (
                {"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": "big"}]},
                "valid|dictionary|number",
                "layer:sway-1.axes.pan.swing",
            ),
            ({"type": "set_values", "values": [{"at": "shot.fps", "value": 0}]}, "above 0", "shot.fps"),
            ({"type": "remove_layers", "layers": ["gone"]}, "no layer 'gone'", "layer"),
            ({"type": "explode"}, "does not match|tag", "command"),
            ({"type": "add_layer", "source": "noise", "extra": 1}, "Extra inputs", "command.extra"),
            ({"type": "scale_swings", "layers": ["sway-1"], "factor": -1}, "greater than or equal to 0", "command.factor"),
        ):
            answer = self.client.post("/api/shots/jetty-walk-handheld/edits", json={"base_revision": base, "command": command})
            self.problem(answer, 422, pattern, where)
        self.assertEqual(self.state("jetty-walk-handheld"), before)

    def test_faults_have_a_place_for_people(self) -> None:
        base = self.state("jetty-walk-handheld")["revision"]
        for at, place in (
            ("layer:sway-1.axes.pan.swing", "swing of pan in “Slow sway”"),
            ("mount:camera.pan_deg", "pan in “Camera”"),
            ("shot.focal_mm", "focal length"),
            ("layer:gone.weight", ""),
        ):
            command = {"type": "set_numbers", "frame": 1, "values": [{"at": at, "value": 1e99}]}
            answer = self.client.post("/api/shots/jetty-walk-handheld/edits", json={"base_revision": base, "command": command})
            self.assertEqual(self.problem(answer, 422, "got 1e\\+99|no layer")["place"], place)

    def test_bodies_that_are_no_json(self) -> None:
        for content in (b"", b"{", b"[]", b"NaN"):
            answer = self.client.post("/api/shots/jetty-walk/edits", content=content, headers={"Content-Type": "application/json"})
            self.assertEqual(answer.status_code, 422, content)


class Tables(WithServer):
    def test_what_the_page_needs(self) -> None:
        tables = self.client.get("/api/tables").json()
        self.assertEqual([axis["name"] for axis in tables["axes"]], ["pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom"])
        self.assertEqual([source["kind"] for source in tables["sources"]], ["noise", "wave", "drift", "tremor", "breath", "cycle", "keys"])
        self.assertIn("saltmarsh-jetty", tables["sets"])

    def test_sets(self) -> None:
        answer = self.client.get("/api/sets/saltmarsh-jetty")
        self.assertEqual((answer.status_code, answer.content[:4]), (200, b"glTF"))
        for wrong in ("none", "..%2f..%2fsecret", "A", "x" * 200):
            self.assertEqual(self.client.get(f"/api/sets/{wrong}").status_code, 404, wrong)

    def test_unknown_addresses(self) -> None:
        self.problem(self.client.get("/api/nothing"), 404, "no address|Not Found")

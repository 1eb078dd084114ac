from tests.api.making import WithServer


class Presets(WithServer):
    def test_each_shows_what_it_does_and_can_be_placed(self) -> None:
        swatches = self.client.get("/api/presets").json()
        self.assertEqual(len(swatches), 16)
        for swatch in swatches:
            self.assertEqual((len(swatch["scribble"]) % 2, swatch["swing_px"] > 0), (0, True))
        path, preset = "/api/shots/jetty-walk/edits", swatches[3]["preset"]
        placed = self.client.post(path, json={"base_revision": self.state()["revision"], "command": {"type": "place_preset", "preset": preset}}).json()
        self.assertEqual((placed["undo_label"], "clip:clip-1" in placed["made"]), ("Place “Brisk walk”", True))

    def test_one_that_cannot_be_placed_says_where(self) -> None:
        preset = self.client.get("/api/presets").json()[0]["preset"]
        path, base = "/api/shots/jetty-walk/edits", self.state()["revision"]
        for wrong, pattern in (
            ({"layers": []}, "layers"),
            ({"layers": preset["layers"] * 40}, "layers"),
            ({"schema_version": 2}, "schema_version"),
            ({"length_s": 1e308}, "length_s"),
            ({"name": ""}, "name"),
        ):
            answer = self.client.post(path, json={"base_revision": base, "command": {"type": "place_preset", "preset": preset | wrong}})
            self.problem(answer, 422, ".", pattern)
        self.assertEqual(self.state()["revision"], base)

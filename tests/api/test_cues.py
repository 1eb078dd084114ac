from tests.api.making import WithServer


class Cues(WithServer):
    def test_in_from_a_file_and_out_again(self) -> None:
        path = "/api/shots/jetty-walk/cues"
        base = self.state()["revision"]

        def drop(text: str, revision: int):  # type: ignore[no-untyped-def]
            return self.client.post(path, files={"file": ("cues.csv", text)}, data={"base_revision": str(revision)})

        state = drop("frame,name\n24,Thud\n48.5,", base).json()
        self.assertEqual(
            ([cue["frame"] for cue in state["document"]["cues"]], state["undo_label"]), ([24.0, 48.5], "Add 2 cues")
        )
        self.assertEqual(state["made"], ["cue:cue-1", "cue:cue-2"])
        out = self.client.get(path)
        self.assertEqual(out.headers["content-disposition"], 'attachment; filename="jetty-walk-cues.csv"')
        self.assertEqual(out.text.splitlines()[1], "24.0,0.958333333,Thud,1.0,,,")
        self.problem(drop("frame\n1", base), 409, ".")
        self.problem(drop("frame\nlate", state["revision"]), 422, "a number is expected", "line 2, column frame")
        self.problem(self.client.get("/api/shots/gone/cues"), 404, "no shot")

    def test_a_cue_moves_the_camera(self) -> None:
        before = self.client.post("/api/shots/jetty-walk/motion", json={"frame": 30}).content
        self.edit({"type": "add_layer", "source": "hit"})
        self.edit({"type": "set_values", "values": [{"at": "layer:hit-1.source.at_start", "value": False}]})
        self.edit({"type": "add_cues", "cues": [{"frame": 24, "place_m": [2, 0, -3]}]})
        self.assertNotEqual(self.client.post("/api/shots/jetty-walk/motion", json={"frame": 30}).content, before)

import io

from tests.api.making import WithServer


class Takes(WithServer):
    def shipped(self, **fields: object):  # type: ignore[no-untyped-def]
        return self.client.post(
            "/api/shots/jetty-walk/takes/shipped", data={"base_revision": self.state()["revision"], **fields}
        )

    def file(self, data: bytes, name: str = "hand.csv", **fields: object):  # type: ignore[no-untyped-def]
        form = {"base_revision": self.state()["revision"], **fields}
        return self.client.post("/api/shots/jetty-walk/takes", data=form, files={"file": (name, io.BytesIO(data))})

    def test_a_shipped_take_becomes_a_layer_and_gives_way_to_another(self) -> None:
        names = self.client.get("/api/tables").json()["takes"]
        self.assertEqual(names, ["small-boat", "standing-tired", "walking-along"])
        state = self.shipped(name="small-boat").json()
        [layer] = state["document"]["lanes"][0]["clips"][0]["layers"]
        self.assertEqual((layer["name"], layer["source"]["recording"]["name"]), ("small boat", "small boat"))
        again = self.shipped(name="walking-along", layer=layer["id"]).json()
        self.assertEqual(
            again["document"]["lanes"][0]["clips"][0]["layers"][0]["source"]["recording"]["name"], "walking along"
        )

    def test_a_file_becomes_a_layer(self) -> None:
        state = self.file(b"time_s,pan_deg\n0,0\n1,1\n2,0\n").json()
        self.assertEqual(state["label"], "Play “hand”")
        self.assertEqual(state["document"]["lanes"][0]["clips"][0]["layers"][0]["source"]["recording"]["rate_hz"], 1.0)

    def test_times_out_of_reach_are_refused_and_nothing_is_lost(self) -> None:
        before = self.state()["revision"]
        for rows in (b"-1.7e308,0\n1.7e308,1\n", b"0,0\n1e-310,1\n", b"1.7e308,1\n0,0\n"):
            self.problem(self.file(b"time_s,pan_deg\n" + rows), 422, "times are within|two different times")
        self.assertEqual(self.state()["revision"], before)

    def test_what_cannot_be_played(self) -> None:
        self.problem(self.shipped(name="nothing"), 404, "no take is called 'nothing'")
        self.problem(self.shipped(name="small-boat", layer="nobody"), 422, "there is no layer 'nobody'")
        self.problem(self.file(b"time_s,pan_deg\n0,x\n"), 422, "a number is expected", "line 2")
        self.problem(self.file(b"time_s,pan_deg\n0,0\n1,0\n"), 422, "nothing was recorded")
        self.problem(self.file(b"\xff\xfe\x00"), 422, "UTF-8|line 1|text")
        self.assertEqual(self.shipped(name="small-boat", base_revision=99).status_code, 409)

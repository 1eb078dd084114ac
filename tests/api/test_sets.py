from tests.api.making import WithServer
from tests.formats.making import GltfMaker
from tools.demo.sets import SETS
from zittern.store.sets import SHIPPED

DUNES = (SHIPPED / "saltmarsh-dunes.glb").read_bytes()


class Sets(WithServer):
    def test_a_dropped_glb_becomes_a_set(self) -> None:
        made = self.client.post("/api/sets", files={"file": ("My dunes.glb", DUNES)})
        self.assertEqual(made.status_code, 201, made.text)
        set_id = made.json()["set_id"]
        self.assertRegex(set_id, "^my-dunes-[0-9a-f]{12}$")
        self.assertIn("lamp", made.json()["objects"])
        self.assertEqual(self.client.get(f"/api/sets/{set_id}").content, DUNES)
        self.assertIn({"set_id": set_id, "title": "my dunes"}, self.client.get("/api/tables").json()["sets"])
        other = self.client.post("/api/sets", files={"file": ("My dunes.glb", DUNES + b"\0")}).json()["set_id"]
        self.assertEqual((other == set_id, self.client.get(f"/api/sets/{other}").content), (False, DUNES + b"\0"))

    def test_what_cannot_be_one(self) -> None:
        for data, status, pattern in (
            (b"x", 422, "GLB file"),
            (GltfMaker({"camera": 0}).glb(), 422, "no mesh"),
            (b"glTF" + b"\0" * (2 * 2**20), 413, "1 MB"),
        ):
            self.problem(self.client.post("/api/sets", files={"file": ("a.glb", data)}), status, pattern)
        self.assertEqual({each["set_id"] for each in self.client.get("/api/tables").json()["sets"]}, set(SETS))

    def test_the_subject_is_marked_and_unmarked(self) -> None:
        path = "/api/shots/jetty-walk/subject"
        marked = self.client.post(
            path, json={"base_revision": self.state()["revision"], "object": "signal mast"}
        ).json()
        self.assertEqual((marked["document"]["subject"]["name"], marked["undo_label"]), ("signal mast", "Set subject"))
        picked = {"object": "signal mast", "point_m": [0.5, 3.0, -19.0], "frame": 10}
        marked = self.client.post(path, json={"base_revision": marked["revision"], **picked}).json()
        self.assertEqual(
            [marked["document"]["subject"][axis]["value"] for axis in ("x_m", "y_m", "z_m")], [0.5, 3.0, -19.0]
        )
        none = self.client.post(path, json={"base_revision": marked["revision"], "object": None}).json()
        self.assertIsNone(none["document"]["subject"])
        self.problem(
            self.client.post(path, json={"base_revision": none["revision"], "object": "whale"}),
            422,
            "no object 'whale'",
            "subject.object",
        )

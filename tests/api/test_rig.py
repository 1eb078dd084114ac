import numpy as np

from tests.api.making import WithServer, unpack
from tests.core.making import use_rig
from tools.demo.courier import place_m
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.targets import cue_places_m, position_m
from zittern.core.shot.upgrades import shot_from


class Rides(WithServer):
    def ride(self, **fields: object):  # type: ignore[no-untyped-def]
        body = {"base_revision": self.state()["revision"], "mount": "camera", "object": "courier", **fields}
        return self.client.post("/api/shots/jetty-walk/ride", json=body)

    def test_a_mount_rides_on_an_object_of_the_set_and_gets_off(self) -> None:
        answer = self.ride()
        self.assertEqual(answer.status_code, 200, answer.text)
        shot = shot_from(answer.json()["document"])
        before = shot.replace(mounts=(shot.mounts[0].replace(ride=None),))
        moved = evaluate(shot).pose.position_m - evaluate(before).pose.position_m
        feet = place_m(np.arange(192) / 24.0)
        np.testing.assert_allclose(moved[::24], (feet - feet[0])[::24], atol=0.02)
        off = self.ride(object=None, base_revision=answer.json()["revision"])
        self.assertIsNone(off.json()["document"]["mounts"][0]["ride"])

    def test_what_cannot_be_ridden(self) -> None:
        self.problem(self.ride(object="nothing like it"), 422, "has no object 'nothing like it'")
        self.problem(self.ride(object="planks"), 422, "stands still in this set, so nothing rides on it")
        self.problem(self.ride(mount="nobody"), 422, "nothing is called 'mount:nobody'")
        self.problem(self.ride(object=""), 422, "no object")
        self.edit({"type": "set_shot", "set_id": None})
        self.problem(self.ride(), 422, "the shot has no set")

    def test_a_ride_goes_on_when_its_object_has_gone(self) -> None:
        self.ride()
        state = self.edit({"type": "set_shot", "set_id": "saltmarsh-dunes"})
        self.assertEqual(state["document"]["mounts"][0]["ride"]["object"], "courier")
        answer = self.client.post("/api/shots/jetty-walk/motion", json={})
        self.assertEqual(answer.status_code, 200)
        self.assertTrue(np.all(np.isfinite(unpack(answer.content)[1]["pose"])))


class Following(WithServer):
    def follow(self, **fields: object):  # type: ignore[no-untyped-def]
        body = {"base_revision": self.state()["revision"], "at": "shot.hold", "objects": ["courier"], **fields}
        return self.client.post("/api/shots/jetty-walk/follow", json=body)

    def test_objects_of_the_set_and_the_middle_of_two_from_a_frame_on(self) -> None:
        self.problem(self.follow(), 422, "no operator or hold follows a target here")
        self.edit({"type": "set_values", "values": [{"at": "shot.hold", "value": {}}]})
        answer = self.follow(frame=48, between={"kind": "mount", "mount": "camera"})
        self.assertEqual(answer.status_code, 200, answer.text)
        self.assertEqual(answer.json()["label"], "Follow “courier and Camera” from frame 48")
        shot = shot_from(answer.json()["document"])
        assert shot.hold is not None
        feet = place_m(np.array([95.0]) / 24.0)[0]
        eye = evaluate(shot, np.array([96.0])).bare.position_m[0]
        told = position_m(shot, shot.hold, shot.scope(np.array([96.0])))[0]
        np.testing.assert_allclose(told[[0, 2]], (0.5 * (feet + eye))[[0, 2]], atol=0.1)

    def test_cues_happen_at_an_object_of_the_set_wherever_it_is(self) -> None:
        self.edit({"type": "add_cues", "cues": [{"frame": 24}, {"frame": 96}, {"frame": 100}]})
        body = {"base_revision": self.state()["revision"], "cues": ["cue-1", "cue-2"], "objects": ["courier"]}
        answer = self.client.post("/api/shots/jetty-walk/cues/at", json=body)
        self.assertEqual((answer.status_code, answer.json().get("label")), (200, "Set 2 cues"), answer.text)
        shot = shot_from(answer.json()["document"])
        first, second, nowhere = cue_places_m(shot, shot.scope(1.0))
        for place, frame in ((first, 24), (second, 96)):
            feet = place_m(np.array([(frame - 1) / 24.0]))[0]
            np.testing.assert_allclose(place[[0, 2]], feet[[0, 2]], atol=0.1)
        self.assertTrue(np.all(np.isnan(nowhere)))
        for fields, words in (
            ({"cues": ["cue-9"]}, "there is no cue 'cue-9'"),
            ({"cues": []}, "at least 1"),
            ({"objects": ["nothing like it"]}, "has no object 'nothing like it'"),
            ({"between": {"kind": "mount", "mount": "gone"}}, "does not exist"),
        ):
            fresh = body | {"base_revision": self.state()["revision"]} | fields
            with self.subTest(words):
                self.problem(self.client.post("/api/shots/jetty-walk/cues/at", json=fresh), 422, words)

    def test_what_cannot_be_followed(self) -> None:
        self.edit({"type": "set_values", "values": [{"at": "shot.hold", "value": {}}]})
        for fields, words in (
            ({"objects": ["nothing like it"]}, "has no object 'nothing like it'"),
            ({"objects": []}, "at least 1"),
            ({"objects": ["courier"] * 3}, "2 or fewer"),
            ({"at": "mount:camera.operator"}, "no operator or hold follows a target here"),
            ({"at": "layer:gone"}, "gone"),
            ({"frame": 1e308}, "or less"),
            ({"frame": 2**63}, "or less"),
            ({"between": {"kind": "mount", "mount": "gone"}}, "does not exist"),
        ):
            with self.subTest(words):
                self.problem(self.follow(**fields), 422, words)


class Poses(WithServer):
    def poses(self, **fields: object):  # type: ignore[no-untyped-def]
        return self.client.post("/api/shots/jetty-walk/object-poses", json={"object": "courier", "frame": 1, **fields})

    def test_of_an_object_at_one_frame_and_from_one_on(self) -> None:
        poses = self.poses(frame=49, count=3).json()["poses"]
        self.assertEqual([pose["frame"] for pose in poses], [49, 50, 51])
        middles, feet = np.array([pose["position_m"] for pose in poses]), place_m(np.array([48, 49, 50]) / 24.0)
        np.testing.assert_allclose(middles[:, [0, 2]], feet[:, [0, 2]], atol=0.1)
        np.testing.assert_allclose(middles - middles[0], feet - feet[0], atol=0.01)

    def test_every_kind_of_value(self) -> None:
        for fields in (
            {"frame": 1e308},
            {"frame": "x"},
            {"count": 0},
            {"count": 10**9},
            {"object": "x" * 300},
            {"count": 2**63},
        ):
            self.assertEqual(self.poses(**fields).status_code, 422, fields)
        self.assertEqual(self.poses(frame=1e7, count=20_000).status_code, 422)


class Readings(WithServer):
    def test_rig_framing_and_what_moves_the_picture_come_with_the_motion(self) -> None:
        self.edit(use_rig("shoulder"))
        self.edit({"type": "set_values", "values": [{"at": "mount:hands.operator", "value": {}}]})
        head, arrays = unpack(self.client.post("/api/shots/jetty-walk/motion", json={"frame": 96}).content)
        self.assertLessEqual(
            {"rig:camera", "rig:shoulder", "rig:hands", "framing", "moves:mount:camera", "moves:mount:hands"},
            set(arrays),
        )
        self.assertEqual((arrays["rig:hands"].shape[1], arrays["framing"].shape[1]), (7, 3))
        np.testing.assert_allclose(np.linalg.norm(arrays["rig:hands"][:, 3:], axis=1), 1.0, atol=1e-6)
        for name, array in arrays.items():
            self.assertTrue(np.all(np.isfinite(array)), name)
        told = head["readings"]["framing"]
        self.assertEqual(told["reaction_frames"], 6.0)
        self.assertGreater(told["largest_px"], told["rms_px"])

    def test_commands_that_would_change_the_picture_say_that_keys_can_keep_it(self) -> None:
        body = {
            "base_revision": self.state()["revision"],
            "command": {"type": "set_pivot", "mount": "camera", "pivot_m": [0, 0, 0.3]},
        }
        problem = self.problem(
            self.client.post("/api/shots/jetty-walk/edits", json=body), 422, "Keys on every frame keep it"
        )
        self.assertIs(problem["bake"], True)

    def test_frequencies_that_cannot_be(self) -> None:
        for springs in (
            {"shift_hz": 0},
            {"turn_hz": -1},
            {"shift_damping": 0},
            {"shift_hz": 1e308},
            {"shift_stop_cm": 0},
        ):
            body = {
                "base_revision": self.state()["revision"],
                "command": {"type": "set_values", "values": [{"at": "mount:camera.springs", "value": springs}]},
            }
            answer = self.client.post("/api/shots/jetty-walk/edits", json=body)
            self.assertEqual(answer.status_code, 422, springs)
            self.assertIn(next(iter(springs)), answer.json()["detail"] + answer.json()["where"])

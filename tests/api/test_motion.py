import gc

import numpy as np

from tests.api.making import WithServer, unpack
from zittern.core.motion.evaluate import evaluate

POSE = "/api/shots/jetty-walk-swaying/motion"
SWING = {"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": 2.0}]}


class Garbage(WithServer):
    def test_drags_are_hardly_held_up_by_looking_for_it(self) -> None:
        usual, looks = gc.get_threshold(), []
        note = lambda phase, info: looks.append(info["generation"]) if phase == "start" else None  # noqa: E731
        with self.client:
            self.addCleanup(gc.unfreeze)
            self.addCleanup(gc.set_threshold, *usual)
            gc.callbacks.append(note)
            self.addCleanup(gc.callbacks.remove, note)
            for n in range(40):
                drag = [{"type": "set_values", "values": [{"at": "layer:sway-1.weight", "value": 0.5 + 0.01 * n}]}]
                asked = {"commands": drag, "have": {}, "frame": 1}
                answer = self.client.post("/api/shots/jetty-walk-swaying/motion", json=asked)
                self.assertEqual(answer.status_code, 200, answer.text)
        self.assertLess(len(looks), 20, "not one a drag")
        self.assertNotIn(2, looks)


class Packets(WithServer):
    def ask(self, **body: object) -> tuple[dict, dict[str, np.ndarray]]:  # type: ignore[type-arg]
        answer = self.client.post(POSE, json=body)
        self.assertEqual(answer.status_code, 200, answer.text)
        return unpack(answer.content)

    def test_arrays_are_the_motion_in_float32(self) -> None:
        head, arrays = self.ask()
        motion = evaluate(self.library.state("jetty-walk-swaying").document)
        self.assertEqual((head["first_frame"], head["rows"]), (1, 192))
        np.testing.assert_array_equal(arrays["pose"][:, :3], motion.pose.position_m.astype("<f4"))
        np.testing.assert_array_equal(arrays["pose"][:, 3:6], motion.pose.angles_deg.astype("<f4"))
        np.testing.assert_array_equal(arrays["bare"][:, 3:6], motion.bare.angles_deg.astype("<f4"))
        np.testing.assert_allclose(arrays["pose"][0, 6:], [35.0, 32.269, 0.0, 0.0, 0.0, 0.0, 4.0], atol=1e-3)
        np.testing.assert_array_equal(arrays["layer:sway-1"], motion.layers["sway-1"].astype("<f4"))
        np.testing.assert_allclose(arrays["sum"], arrays["layer:sway-1"] + arrays["layer:shake-1"], atol=1e-6)

    def test_the_lens_comes_along_and_what_it_does_at_the_corners(self) -> None:
        bend = {"type": "bend_corner", "frame": 1, "percent": -3.0}
        head, arrays = self.ask(commands=[bend])
        k1 = -0.03 / ((960.0**2 + 540.0**2) / (35.0 / 36.0 * 1920.0) ** 2)
        np.testing.assert_allclose(arrays["pose"][:, 10:12], np.tile([k1, 0.0], (192, 1)), atol=1e-6)
        corner = head["readings"]["corner"]
        self.assertAlmostEqual(corner["share"], -0.03)
        self.assertAlmostEqual(corner["px"], -0.03 * np.hypot(960.0, 540.0))
        self.assertEqual(corner["breath"], 1.0)
        self.assertIsNone(self.ask()[0]["readings"]["corner"])

    def test_only_what_changed_comes_back(self) -> None:
        head, _ = self.ask()
        have = {each["name"]: each["tag"] for each in head["arrays"]}
        self.assertEqual(self.ask(have=have)[1], {})
        self.assertEqual(
            set(self.ask(have=have, commands=[SWING])[1]),
            {"flow", "framing", "pose", "sum", "layer:sway-1", "moves:layer:sway-1", "moves:mount:camera"},
        )

    def test_only_readings_of_layers_that_changed_come_back(self) -> None:
        head, _ = self.ask()
        have = {each["layer"]: each["tag"] for each in head["layers"]}
        self.assertEqual([each["layer"] for each in head["readings"]["layers"]], ["sway-1", "shake-1"])
        self.assertEqual(self.ask(have_layers=have)[0]["readings"]["layers"], [])
        tried = self.ask(have_layers=have, commands=[SWING])[0]
        self.assertEqual([each["layer"] for each in tried["readings"]["layers"]], ["sway-1"])
        self.assertEqual([each["layer"] for each in tried["layers"]], ["sway-1", "shake-1"])

    def test_what_was_accepted_can_be_shown(self) -> None:
        """A focal length and a place of the hold that read the path; a clip of no length on a shared lane."""
        hold = {"below_hz": 0.4, "across_percent": {"state": "formula", "text": "40 + speed"}}
        tried = [
            {
                "type": "set_values",
                "values": [{"at": "shot.focal_mm", "value": {"state": "formula", "text": "20 + distance"}}],
            },
            {"type": "set_values", "values": [{"at": "shot.hold", "value": hold}]},
            {"type": "set_span", "at": ["clip:main"], "first_frame": 1, "last_frame": 150},
            {"type": "add_clip", "first_frame": 100, "last_frame": 100, "lane": "main"},
        ]
        for count in range(1, len(tried) + 1):
            _, arrays = self.ask(commands=tried[:count])
            self.assertTrue(np.all(np.isfinite(arrays["pose"])))
        self.assertGreater(float(np.ptp(arrays["pose"][:, 6])), 0.5)

    def test_commands_are_tried_on_and_not_kept(self) -> None:
        before = self.ask()
        tried = self.ask(commands=[SWING])
        self.assertGreater(np.abs(tried[1]["sum"][:, 0]).max(), np.abs(before[1]["sum"][:, 0]).max())
        self.assertEqual(self.ask()[0]["arrays"], before[0]["arrays"])
        self.assertEqual(self.library.history("jetty-walk-swaying").count, 1)

    def test_muted_layers_still_have_a_waveform(self) -> None:
        self.edit({"type": "set_values", "values": [{"at": "layer:sway-1.mute", "value": True}]}, "jetty-walk-swaying")
        _, arrays = self.ask()
        self.assertGreater(np.abs(arrays["layer:sway-1"]).max(), 0)
        np.testing.assert_allclose(arrays["sum"], arrays["layer:shake-1"], atol=1e-6)

    def test_readings_belong_to_the_frame_asked_for(self) -> None:
        first, last = (self.ask(frame=frame)[0]["readings"] for frame in (1, 192))
        self.assertNotEqual(first["subject_distance_m"], last["subject_distance_m"])
        self.assertGreater(first["layers"][0]["axes"][0]["swing_px"], 5)

    def test_older_revisions_can_be_looked_at(self) -> None:
        first = self.state("jetty-walk-swaying")["revision"]
        before = self.ask()[1]["sum"]
        self.edit(SWING, "jetty-walk-swaying")
        self.assertFalse(np.array_equal(self.ask()[1]["sum"], before))
        np.testing.assert_array_equal(self.ask(revision=first)[1]["sum"], before)
        self.problem(self.client.post(POSE, json={"revision": 999}), 404, "no revision 999")

    def test_weights_with_their_ramps(self) -> None:
        weight = self.ask()[1]["weight:sway-1"][:, 0]
        np.testing.assert_allclose(weight[[0, 73, 191]], [0.7, 1.0, 0.6], atol=1e-6)

    def test_curves_of_numbers_on_request(self) -> None:
        address = "mount:camera.pan_deg"
        _, arrays = self.ask(curves=[address])
        np.testing.assert_allclose(arrays[f"curve:{address}"][:, 0], arrays["bare"][:, 3], atol=1e-5)

    def test_curves_that_are_gone_are_left_out(self) -> None:
        head, arrays = self.ask(curves=["mount:camera.name", "layer:gone.weight", "mount:camera.z_m"])
        self.assertEqual(
            [each["name"] for each in head["arrays"] if each["name"].startswith("curve:")], ["curve:mount:camera.z_m"]
        )
        self.assertEqual(arrays["curve:mount:camera.z_m"].shape, (head["rows"], 1))

    def test_a_long_shot_comes_thinned_and_whole_where_it_is_looked_at(self) -> None:
        long = self.library.state("jetty-walk-swaying").document.replace(name="Long", last_frame=100_000)
        self.library.add_shot("saltmarsh-post", long, slug="long")

        def ask(**body: object) -> tuple[dict, dict[str, np.ndarray]]:  # type: ignore[type-arg]
            return unpack(self.client.post("/api/shots/long/motion", json=body).content)

        head, arrays = ask(frame=50_000, window=[20_000, 21_000])
        frames = arrays["frames"][:, 0]
        self.assertLess(head["rows"], 20_000)
        self.assertEqual((frames[0], frames[-1], head["last_frame"]), (1, 100_000, 100_000))
        for wanted in (np.arange(20_000, 21_001), np.arange(50_000, 50_900)):
            self.assertTrue(np.isin(wanted, frames).all())
        exact = evaluate(long, frames[::97].astype(float))
        np.testing.assert_allclose(arrays["sum"][::97], exact.total, atol=1e-5)
        np.testing.assert_allclose(arrays["pose"][::97, :3], exact.pose.position_m, atol=1e-5)
        have = {each["name"]: each["tag"] for each in head["arrays"]}
        self.assertEqual(ask(frame=50_000, window=[20_000, 21_000], have=have)[1], {})
        whole = evaluate(long).total
        self.assertAlmostEqual(
            head["readings"]["typical_px"] / (np.sqrt(np.mean(np.sum(whole[:, :2] ** 2, axis=1))) * 33),
            1.0,
            delta=0.15,
        )

    def test_spectrum(self) -> None:
        bands = self.client.get("/api/shots/jetty-walk-swaying/spectrum/sway-1").json()
        self.assertEqual({len(bands[name]) for name in ("rate_hz", "layer_px", "sum_px")}, {len(bands["rate_hz"])})
        self.assertGreater(max(bands["layer_px"]), 5)
        self.problem(self.client.get("/api/shots/jetty-walk-swaying/spectrum/gone"), 404, "no layer 'gone'")

    def test_a_wrong_trial_is_a_problem_with_its_place(self) -> None:
        bad = {"type": "set_values", "values": [{"at": "layer:sway-1.weight", "value": -1}]}
        self.problem(self.client.post(POSE, json={"commands": [bad]}), 422, "expected 0 to 10", "layer:sway-1.weight")
        self.problem(
            self.client.post(POSE, json={"commands": [{"type": "x"}]}), 422, "there is no 'type' 'x'", "commands[0]"
        )

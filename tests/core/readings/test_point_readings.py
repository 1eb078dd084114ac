import unittest

import numpy as np

from tests.core.making import edited, layer, moved_px, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import DEFAULT_DISTANCE_M
from zittern.core.numbers.param import fixed, keyed
from zittern.core.readings.flow import flowing
from zittern.core.readings.point_readings import read
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Subject
from zittern.core.sources.gait import Gait
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.hit import Hit
from zittern.core.sources.noise import Noise
from zittern.core.sources.wave import Wave


class OfALayer(unittest.TestCase):
    def test_swing_px_and_rate_of_each_axis(self) -> None:
        shot = edited(shot_with(layer()), {"type": "set_axis_rate", "layer": "sway", "axes": ["tilt"], "rate_hz": 3.0})
        rows = read(shot, evaluate(shot), 10).layers[0].axes
        self.assertEqual(rows[0].swing, 0.5)
        self.assertAlmostEqual(rows[0].swing_px, moved_px("pan", 0.5, 35, DEFAULT_DISTANCE_M))
        self.assertAlmostEqual(rows[0].swing_share * 1920, rows[0].swing_px)
        self.assertAlmostEqual(rows[0].rate_hz, 0.6)
        self.assertAlmostEqual(rows[1].rate_hz, 3.0)

    def test_keyed_swing_is_read_at_the_frame(self) -> None:
        moving = layer()
        moving = moving.replace(
            axes=moving.axes.replace(pan=moving.axes.pan.replace(swing=keyed((1, 0.0), (101, 1.0), interp="linear")))
        )
        shot = shot_with(moving)
        self.assertAlmostEqual(read(shot, evaluate(shot), 51).layers[0].axes[0].swing, 0.5)

    def test_what_moves_and_pixels_a_unit_hold_for_hand_keys_too(self) -> None:
        keys = layer("keys", source=HandKeys(tracks=Tracks(pan=1.0, dolly=2.0)), swings={})
        shot = shot_with(layer(swings={"tilt": 0.5}), keys)
        first, second = read(shot, evaluate(shot), 1).layers
        self.assertEqual([row.axis for row in first.axes if row.moves], ["tilt"])
        self.assertEqual([row.axis for row in second.axes if row.moves], ["pan", "dolly"])
        for row in (*first.axes, *second.axes):
            small = moved_px(row.axis, 0.1, 35, DEFAULT_DISTANCE_M)
            self.assertAlmostEqual(row.px_per_unit * 0.1, small, delta=1e-4 * small)

    def test_keys_and_formulas_are_measured_for_they_have_no_swing(self) -> None:
        track = keyed((1, 0.0), (49, -1.5), (97, 0.5), interp="linear")
        shot = shot_with(layer("keys", source=HandKeys(tracks=Tracks(pan=track)), swings={}), last_frame=97)
        motion = evaluate(shot)
        row = read(shot, motion, 1).layers[0].axes[0]
        self.assertEqual((row.measured, row.swing), (True, 1.5))
        self.assertAlmostEqual(row.swing_px, moved_px("pan", 1.5, 35, DEFAULT_DISTANCE_M))
        part = read(shot, motion, 1, loop=(73, 97)).layers[0].axes[0]
        self.assertAlmostEqual(part.swing, 0.5, places=9)
        self.assertFalse(read(shot_with(layer()), motion, 1).layers[0].axes[0].measured)

    def test_switched_off_axes_tell_no_pixels(self) -> None:
        shot = edited(
            shot_with(layer()), {"type": "set_values", "values": [{"at": "layer:sway.axes.pan.on", "value": False}]}
        )
        row = read(shot, evaluate(shot), 1).layers[0].axes[0]
        self.assertEqual((row.swing, row.swing_px, row.swing_share, row.moves), (0.5, 0.0, 0.0, False))

    def test_faster_than_half_the_frame_rate_cannot_be_seen(self) -> None:
        shot = edited(
            shot_with(layer()),
            *(
                {"type": "set_axis_rate", "layer": "sway", "axes": [axis], "rate_hz": rate}
                for axis, rate in (("pan", 11.9), ("tilt", 12.1))
            ),
        )
        rows = read(shot, evaluate(shot), 1).layers[0].axes
        self.assertEqual([row.unseen for row in rows[:3]], [False, True, False])


class Heard(unittest.TestCase):
    def test_mute_and_solo_of_layers_and_clips(self) -> None:
        shot = shot_with(layer(), layer("fast", seed=2), layer("slow", seed=3))
        for change, expected in (
            ({}, [True, True, True]),
            ({"layer:fast.mute": True}, [True, False, True]),
            ({"layer:fast.solo": True}, [False, True, False]),
            ({"layer:fast.solo": True, "layer:fast.mute": True}, [False, False, False]),
            ({"clip:main.mute": True}, [False, False, False]),
        ):
            changed = edited(
                shot, *({"type": "set_values", "values": [{"at": at, "value": value}]} for at, value in change.items())
            )
            self.assertEqual([each.heard for each in read(changed, evaluate(changed), 1).layers], expected, change)

    def test_beats_that_are_too_fast_are_told_where_they_are(self) -> None:
        for source in (
            Hit(rhythm_hz=keyed((1, 1.0), (101, 9.0), interp="linear")),
            Gait(cadence_hz=keyed((1, 1.0), (101, 6.0), interp="linear")),
        ):
            shot = shot_with(layer(source=source, speed=fixed(40.0)), layer("other"), last_frame=101)
            findings = [[each.finding for each in read(shot, evaluate(shot), frame).layers] for frame in (1, 101)]
            self.assertEqual(findings[0], ["", ""])
            self.assertRegex(findings[1][0], r"^1[05](\.\d+)? beats per frame here; above 8 per frame none")
            self.assertEqual(findings[1][1], "")

    def test_spans_as_set_or_all_of_the_shot(self) -> None:
        shot = shot_with(
            layer(span_frames=(20, 80), ramp_in_frames=6), clip={"ramp_out_frames": 9}, first_frame=5, last_frame=90
        )
        readings = read(shot, evaluate(shot), 5)
        spans = [readings.layers[0].span, readings.clips[0].span]
        self.assertEqual(
            [(s.first_frame, s.last_frame, s.ramp_in_frames, s.ramp_out_frames) for s in spans],
            [(20, 80, 6, 0), (5, 90, 0, 9)],
        )


class Flowing(unittest.TestCase):
    def test_each_row_is_what_is_read_at_its_frame(self) -> None:
        walk = Mount(id="camera", name="Camera", z_m=keyed((1, 0.0), (60, -9.0)), y_m=keyed((1, 1.0), (60, 2.0)))
        shot = shot_with(layer(), mounts=(walk,), subject=Subject.at("Post", (0.0, 1.0, -20.0)), last_frame=60)
        motion = evaluate(shot)
        rows = flowing(shot, motion)
        for i in (0, 1, 29, 59):
            readings = read(shot, motion, i + 1)
            told = [
                readings.streak_px,
                readings.subject_distance_m,
                readings.camera_height_m,
                readings.camera_speed_m_s,
            ]
            np.testing.assert_allclose(rows[i], told, atol=1e-9)
        way = np.linalg.norm(motion.bare.position_m[30] - motion.bare.position_m[28])
        self.assertAlmostEqual(rows[29, 3], way / 2 * 24, delta=1e-3)
        np.testing.assert_allclose(rows[:, 2], motion.pose.position_m[:, 1])

    def test_where_no_neighbour_is_there_nothing_is_made_up(self) -> None:
        shot = shot_with(layer())
        rows = flowing(shot, evaluate(shot, np.array([3.0, 4.0, 5.0, 90.0, 180.0])))
        np.testing.assert_array_equal(np.isnan(rows[:, 0]), [False, False, True, True, True])
        np.testing.assert_array_equal(np.isnan(rows[:, 3]), [False, False, True, True, True])
        self.assertFalse(np.isnan(rows[:, 2]).any())
        self.assertEqual(flowing(shot, evaluate(shot, np.array([7.0])))[0, 0], 0.0)


class OfTheShot(unittest.TestCase):
    def test_distance_is_to_the_subject_where_it_is_then(self) -> None:
        subject = Subject(name="Post", z_m=keyed((1, -2.0), (240, -10.0), interp="linear"), y_m=fixed(1.6))
        shot = shot_with(subject=subject)
        motion = evaluate(shot)
        self.assertAlmostEqual(read(shot, motion, 1).subject_distance_m, 2.0)
        self.assertAlmostEqual(read(shot, motion, 240).subject_distance_m, 10.0)

    def test_typical_motion_of_a_known_wave(self) -> None:
        shot = shot_with(layer(source=Wave(rate_hz=1.0), swings={"pan": 0.5}), last_frame=240)
        expected = moved_px("pan", 0.5, 35, 4.0)
        self.assertAlmostEqual(read(shot, evaluate(shot), 1).typical_px / expected, 0.5, places=3)

    def test_a_blow_has_its_peak(self) -> None:
        blow = keyed((1, 0.0), (100, 0.0), (101, 2.0), (102, 0.0), (240, 0.0), interp="linear")
        shot = shot_with(layer("keys", source=HandKeys(tracks=Tracks(pan=blow)), swings={}), last_frame=240)
        reading = read(shot, evaluate(shot), 1)
        most = moved_px("pan", 2.0, 35, 4.0)
        self.assertAlmostEqual(reading.peak_px, most)
        self.assertLess(reading.typical_px, 0.1 * most)

    def test_over_the_loop_where_there_is_one(self) -> None:
        rise = keyed((1, 0.0), (120, 0.0), (121, 3.0), (240, 3.0), interp="hold")
        shot = shot_with(layer("keys", source=HandKeys(tracks=Tracks(pan=rise)), swings={}), last_frame=240)
        motion = evaluate(shot)
        still, held = (read(shot, motion, 1, loop=loop) for loop in ((1, 119), (130, 200)))
        self.assertEqual((still.typical_px, still.peak_px, still.margin_px), (0.0, 0.0, 0.0))
        self.assertAlmostEqual(held.typical_px, moved_px("pan", 3.0, 35, 4.0))
        for outside in ((300, 400), (-50, 0)):
            self.assertTrue(np.isfinite(read(shot, motion, 1, loop=outside).typical_px))

    def test_a_clip_is_measured_over_its_own_span_whether_it_counts_or_not(self) -> None:
        lane = layer(source=Wave(rate_hz=1.0), swings={"pan": 0.5})
        shot = shot_with(lane, clip={"span_frames": (1, 48), "mute": True}, last_frame=240)
        size = read(shot, evaluate(shot), 1).clips[0].size
        self.assertAlmostEqual(size.typical_px / moved_px("pan", 0.5, 35, 4.0), 0.5, places=2)
        # A sway to the right and a shift to the right take the picture opposite ways.
        both = layer(source=HandKeys(tracks=Tracks(pan=1.0, truck=5.0)), swings={})
        shot = shot_with(both)
        gone = moved_px("pan", 1.0, 35, 4.0) - moved_px("truck", 5.0, 35, 4.0)
        self.assertAlmostEqual(read(shot, evaluate(shot), 1).clips[0].size.peak_px, abs(gone), delta=0.02)

    def test_streak_is_half_of_what_the_picture_moves_in_a_frame(self) -> None:
        shot = shot_with(layer(source=Wave(rate_hz=0.1), swings={"pan": 1.0}))
        motion = evaluate(shot)
        step_deg = abs(motion.total[1, 0] - motion.total[0, 0])
        self.assertAlmostEqual(
            read(shot, motion, 1).streak_px, 0.5 * step_deg * np.pi / 180 * 35 / 36 * 1920, delta=0.01
        )

    def test_no_distance_is_told_without_a_subject(self) -> None:
        shot = shot_with(layer())
        motion = evaluate(shot)
        self.assertIsNone(read(shot, motion, 1).subject_distance_m)
        self.assertTrue(np.isnan(flowing(shot, motion)[:, 1]).all())

    def test_speed_and_height_of_the_camera(self) -> None:
        dolly = (Mount(id="camera", name="Camera", y_m=1.5, z_m=keyed((1, 0.0), (25, -2.0), interp="linear")),)
        shot = shot_with(mounts=dolly, last_frame=25)
        reading = read(shot, evaluate(shot), 12)
        self.assertAlmostEqual(reading.camera_speed_m_s, 2.0)
        self.assertAlmostEqual(reading.camera_height_m, 1.5)

    def test_one_frame_is_enough(self) -> None:
        shot = shot_with(layer(), last_frame=1)
        self.assertEqual(read(shot, evaluate(shot), 1).camera_speed_m_s, 0.0)


class Rates(unittest.TestCase):
    def test_speeds_of_layer_and_clip_count(self) -> None:
        shot = shot_with(layer(source=Noise(rate_hz=0.5), speed=2.0), clip={"speed": 3.0})
        rows = read(shot, evaluate(shot), 1.0).layers[0].axes
        self.assertEqual({row.rate_hz for row in rows}, {3.0})

    def test_a_rate_that_was_set_is_the_rate_shown(self) -> None:
        shot = shot_with(layer(source=Noise(rate_hz=0.5), speed=2.0), clip={"speed": 3.0})
        shot = edited(
            shot,
            {"type": "link_axes", "layer": "sway", "axes": ["tilt"], "to": "pan"},
            {"type": "set_axis_rate", "layer": "sway", "axes": ["tilt"], "rate_hz": 1.2},
        )
        rows = {row.axis: row.rate_hz for row in read(shot, evaluate(shot), 1.0).layers[0].axes}
        self.assertAlmostEqual(rows["tilt"], 1.2)
        self.assertAlmostEqual(rows["pan"], 1.2)
        self.assertAlmostEqual(rows["roll"], 3.0)

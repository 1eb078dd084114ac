import unittest

import numpy as np

from tests.core.making import edited, layer, over, shot_with
from zittern.core.axes import axis_index, axis_info
from zittern.core.checks.table import check
from zittern.core.edits.writing import state_of
from zittern.core.errors import DocumentError, EditError
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import margins_px, places_px, scale_at, tangents
from zittern.core.numbers.param import fixed, keyed
from zittern.core.optics.lens import focal_px
from zittern.core.rig import rotations
from zittern.core.shot.glass import NEAREST_FOCUS_M, Glass
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.shot import Shot, Subject
from zittern.core.sources.hand_keys import HandKeys, Tracks

HEAD = Mount(id="camera", name="Camera", y_m=fixed(1.6))
BARREL = Glass(k1=fixed(-0.12), k2=fixed(0.02))


def seen_px(shot: Shot) -> np.ndarray:
    """Where the subject is on screen, by the way of the page: pose, polynomial, pixels."""
    motion = evaluate(shot)
    assert shot.subject is not None and shot.glass is not None
    away = shot.subject.position_m(shot.scope(motion.frames)) - motion.pose.position_m
    seen = np.einsum("fji,fj->fi", rotations.matrices(motion.pose.angles_deg), away)
    flat = seen[:, :2] / -seen[:, 2:]
    r2 = np.sum(flat**2, axis=1)
    share = 1.0 + shot.glass.k1.sample(over(motion.frames)) * r2 + shot.glass.k2.sample(over(motion.frames)) * r2**2
    return flat * (share * motion.pose.focal_mm / shot.sensor_mm * shot.picture.width_px)[:, None]


class Breathing(unittest.TestCase):
    def test_it_grows_with_the_nearness_of_the_focus(self) -> None:
        glass = Glass(breathing_percent=fixed(3.5), focus_m=keyed((1, 1.0), (11, 7.0)))
        motion = evaluate(shot_with(focal_mm=fixed(35.0), glass=glass, last_frame=11))
        self.assertAlmostEqual(motion.pose.focal_mm[0], 35.0 * 1.035)
        self.assertAlmostEqual(motion.pose.focal_mm[-1], 35.0 * 1.005)
        # A lens that is moved as a whole: f u / (u - f).
        np.testing.assert_allclose(motion.pose.focal_mm[-1], 35.0 * 7.0 / (7.0 - 0.035), rtol=1e-4)

    def test_the_focus_may_follow_the_subject(self) -> None:
        subject = Subject.at("Kite", (0.0, 1.6, -2.0))
        shot = shot_with(mounts=(HEAD.replace(z_m=keyed((1, 2.0), (11, 0.0))),), subject=subject, last_frame=11)
        shot = edited(shot, {"type": "set_values", "values": [{"at": "shot.glass", "value": {}}]})
        self.assertIsNone(state_of(shot, "shot.glass.focus_m", "distance").fault)
        formula = {"state": "formula", "text": "distance", "before": {"state": "fixed", "value": 4.0}}
        values = [
            {"at": "shot.glass.focus_m", "value": formula},
            {"at": "shot.glass.breathing_percent", "value": {"state": "fixed", "value": 4.0}},
        ]
        shot = edited(shot, {"type": "set_values", "values": values})
        focal = evaluate(shot).pose.focal_mm
        np.testing.assert_allclose(focal[[0, -1]], [35.0 * 1.01, 35.0 * 1.02], rtol=1e-9)

    def test_focus_hunting_breathes_with_the_lens(self) -> None:
        glass = Glass(breathing_percent=fixed(5.0), focus_m=fixed(2.0))
        motion = evaluate(shot_with(layer(swings={"focus": 30.0}), glass=glass, last_frame=100))
        hunting = motion.total[:, axis_index("focus")] / 100.0
        np.testing.assert_allclose(motion.pose.focus_m, 2.0 * (1.0 + hunting), rtol=1e-12)
        np.testing.assert_allclose(motion.pose.focal_mm, 35.0 * (1.0 + 0.05 / motion.pose.focus_m), rtol=1e-12)
        self.assertGreater(np.ptp(motion.pose.focal_mm), 0.05)
        for name in ("position_m", "angles_deg", "shift_percent"):
            np.testing.assert_array_equal(getattr(motion.pose, name), getattr(motion.bare, name), name)

    def test_its_size_in_the_picture_is_that_of_the_change_of_scale(self) -> None:
        glass = Glass(breathing_percent=fixed(-8.0), focus_m=fixed(0.8))
        shot = shot_with(glass=glass)
        small = 0.01
        keys = HandKeys(tracks=Tracks(focus=small))
        focal = evaluate(shot_with(layer("keys", source=keys, swings={}), glass=glass)).pose.focal_mm[0]
        scaled = abs(focal / evaluate(shot).pose.focal_mm[0] - 1.0) * 960.0
        px = axis_info("focus").swing_px(small, scale_at(shot, shot.scope(1.0), 4.0))
        self.assertAlmostEqual(px / scaled, 1.0, places=3)

    def test_no_layer_focuses_nearer_than_a_lens_can(self) -> None:
        shot = shot_with(layer(swings={"focus": 90.0}), glass=Glass(focus_m=fixed(0.5)))
        self.assertEqual(evaluate(shot).pose.focus_m.min(), NEAREST_FOCUS_M)
        findings = [each for each in check(shot).findings if each.check == "limits"]
        self.assertEqual([each.at for each in findings], ["shot.glass.focus_m"])
        self.assertIn("focus is at its stop of 0.3 m", findings[0].says)

    def test_a_layer_of_focus_alone_says_why_nothing_is_seen(self) -> None:
        hunting = layer(swings={"focus": 5.0})
        for glass, quiet in ((None, True), (Glass(), True), (Glass(breathing_percent=fixed(6.0)), False)):
            findings = [each for each in check(shot_with(hunting, glass=glass)).findings if each.check == "silent"]
            self.assertEqual([("breathing" in each.says, each.weight) for each in findings], [(True, False)] * quiet)

    def test_focus_leaves_the_random_start_of_other_axes(self) -> None:
        swings = {"pan": 0.5, "shift_y": 1.0}
        plain, hunting = (
            evaluate(shot_with(layer(swings=each))).layers["sway"] for each in (swings, {**swings, "focus": 4.0})
        )
        np.testing.assert_array_equal(plain[:, :9], hunting[:, :9])

    def test_a_cache_sees_every_change(self) -> None:
        cache, shot = Cache(), shot_with(layer(steady=True), mounts=(HEAD,), glass=BARREL, last_frame=5)
        for glass in (BARREL, BARREL.replace(breathing_percent=fixed(8.0)), BARREL.replace(k1=fixed(0.1)), None):
            each = shot.replace(glass=glass)
            beside, fresh = evaluate(each, cache=cache), evaluate(each)
            for field in ("focal_mm", "distortion", "angles_deg"):
                np.testing.assert_array_equal(getattr(beside.pose, field), getattr(fresh.pose, field))


class Bent(unittest.TestCase):
    def test_who_frames_sees_the_bent_picture(self) -> None:
        stiff = Operator(
            reaction_s=0.0, pan_hz=10_000.0, tilt_hz=10_000.0, pan_slack_percent=0.0, tilt_slack_percent=0.0,
            across_percent=fixed(80.0), up_percent=fixed(65.0),
        )  # fmt: skip
        subject = Subject.at("Kite", (2.0, 2.5, -7.0))
        wanted = (0.3 * 1920, 0.15 * 1080)
        keys = Glass(k1=keyed((1, -0.2), (24, 0.1)), k2=fixed(0.05))
        for shot in (
            shot_with(mounts=(HEAD.replace(operator=stiff),), subject=subject, glass=keys, last_frame=24),
            shot_with(
                mounts=(HEAD.replace(pan_deg=fixed(-10.0), tilt_deg=fixed(3.0)),), subject=subject, glass=BARREL,
                hold=HoldFraming(across_percent=fixed(80.0), up_percent=fixed(65.0)), last_frame=24,
            ),
        ):  # fmt: skip
            np.testing.assert_allclose(seen_px(shot), np.broadcast_to(wanted, (24, 2)), atol=0.2)

    def test_places_and_rays_are_each_others_inverse(self) -> None:
        shot = shot_with(layer(), mounts=(HEAD,), glass=Glass(k1=fixed(-0.4), k2=fixed(0.3)), last_frame=6)
        pose = evaluate(shot).pose
        places = np.random.default_rng(2).uniform(-0.6, 0.6, (6, 2)) * [1920, 1080]
        flat = np.stack([tangents(shot, pose, place)[n] for n, place in enumerate(places[:, None])])[:, 0]
        seen = np.concatenate([flat, -np.ones((6, 1))], axis=1) * 3.0
        np.testing.assert_allclose(places_px(shot, pose, seen), places, atol=1e-8)

    def test_the_margin_of_a_bent_picture_is_what_its_border_sees_more_than_the_bare_one(self) -> None:
        pan = layer("keys", swings={"pan": 2.0})
        straight, bent = (
            shot_with(pan, mounts=(HEAD,), glass=glass, last_frame=24) for glass in (None, Glass(k1=fixed(-0.1)))
        )
        still = shot_with(mounts=(HEAD,), glass=Glass(k1=fixed(-0.1)), last_frame=2)
        self.assertAlmostEqual(float(margins_px(still, evaluate(still), 5.0).max()), 0.0, places=6)
        plain, more = (margins_px(each, evaluate(each), 5.0).max() for each in (straight, bent))
        self.assertGreater(plain, 5.0)
        # A barrel sees more of the world, at a steeper angle.
        self.assertGreater(more, plain)


class Corners(unittest.TestCase):
    def test_the_corner_comes_to_lie_as_was_asked(self) -> None:
        for focal, percent in ((18.0, -12.0), (35.0, 4.0), (85.0, -1.5)):
            shot = edited(shot_with(focal_mm=fixed(focal)), {"type": "bend_corner", "frame": 1, "percent": percent})
            corner = np.array([960.0, 540.0]) / focal_px(focal, 36.0, 1920)
            px = places_px(shot, evaluate(shot, np.array([1.0])).pose, np.array([[*corner, -1.0]]))[0]
            np.testing.assert_allclose(px, np.array([960.0, 540.0]) * (1.0 + percent / 100.0), rtol=1e-9)

    def test_a_keyed_one_gets_a_key_and_k2_stays(self) -> None:
        shot = shot_with(glass=Glass(k1=keyed((1, 0.0), (20, 0.1)), k2=fixed(0.3)))
        shot = edited(shot, {"type": "bend_corner", "frame": 10, "percent": -5.0})
        assert shot.glass is not None and shot.glass.k1.curve is not None
        self.assertEqual([key.frame for key in shot.glass.k1.curve.keys], [1.0, 10.0, 20.0])
        self.assertEqual(shot.glass.k2.constant, 0.3)

    def test_what_no_glass_can_do_is_refused_with_its_place(self) -> None:
        with self.assertRaisesRegex(EditError, "would need k1"):
            edited(shot_with(focal_mm=fixed(2000.0)), {"type": "bend_corner", "frame": 1, "percent": -20.0})
        for field, value in (("k1", 10.5), ("k2", -1e308), ("focus_m", 0.0), ("breathing_percent", 2.0**63)):
            with self.assertRaises(DocumentError, msg=field):
                Glass().replace(**{field: fixed(value)})


class Reading(unittest.TestCase):
    def test_a_dial_that_glass_and_plates_read_is_renamed_there_too(self) -> None:
        formula = {"state": "formula", "text": "bend", "before": {"state": "fixed", "value": 0.0}}
        picture = {"name": "Shore", "picture": "0" * 64, "width_px": 192, "height_px": 108}
        shot = edited(
            shot_with(),
            {"type": "add_dial", "name": "bend", "minimum": -1.0, "value": -0.1},
            {"type": "hang_plates", "plates": [picture]},
            {"type": "set_values", "values": [
                {"at": "shot.glass", "value": {"k1": formula}}, {"at": "plate:plate-1.x_m", "value": formula},
            ]},
            {"type": "set_dial", "dial": "bend", "name": "barrel"},
        )  # fmt: skip
        assert shot.glass is not None
        self.assertEqual([each.reads for each in (shot.glass.k1, shot.plates[0].x_m)], [{"barrel"}, {"barrel"}])
        self.assertEqual(evaluate(shot).pose.distortion[0, 0], -0.1)
        with self.assertRaisesRegex(EditError, "the glass"):
            edited(shot.replace(plates=()), {"type": "remove_dial", "dial": "barrel"})

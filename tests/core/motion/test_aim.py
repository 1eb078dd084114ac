import unittest

import numpy as np

from tests.core.making import shot_with
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import Number, fixed, keyed, on_curve
from zittern.core.readings.framing import misses_px
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.timebase import Fps

STIFF = Operator(reaction_s=0.0, pan_hz=10_000.0, tilt_hz=10_000.0, pan_slack_percent=0.0, tilt_slack_percent=0.0)
# Round the camera at 5 m, 20 degrees a second to the left.
ROUND_DEG_S = 20.0


def circling(first: int = 1, last: int = 240, fps: float = 24.0) -> Subject:
    frames = np.linspace(first, last, 400)
    angle = np.radians(ROUND_DEG_S) * (frames - first) / fps
    points = np.stack([-5.0 * np.sin(angle), np.full(len(frames), 1.6), -5.0 * np.cos(angle)])
    return Subject(name="Kite", x_m=line(frames, points[0]), y_m=fixed(1.6), z_m=line(frames, points[2]))


def line(frames: np.ndarray, values: np.ndarray, interp: str = "smooth") -> Number:
    return on_curve(
        Curve(
            keys=tuple(
                Key(frame=f, value=v, interp=interp) for f, v in zip(frames.tolist(), values.tolist(), strict=True)
            )
        )
    )  # type: ignore[arg-type]


def shot(operator: Operator, subject: Subject | None = None, *more: Mount, **fields: object) -> Shot:
    head = Mount(id="head", name="Head", y_m=fixed(1.6), operator=operator)
    return shot_with(mounts=(head, *more), subject=subject or circling(), **{"last_frame": 240, **fields})


def pan(motion: Motion) -> np.ndarray:
    return motion.pose.angles_deg[:, 0]


class Following(unittest.TestCase):
    def test_lag_is_reaction_and_2z_over_w(self) -> None:
        for reaction, hz, damping, ahead in ((0.25, 0.9, 0.7, 0.0), (0.0, 1.5, 0.5, 0.0), (0.5, 2.0, 1.0, 0.3)):
            operator = STIFF.replace(reaction_s=reaction, pan_hz=hz, pan_damping=damping, anticipation_s=ahead)
            motion = evaluate(shot(operator))
            late = ROUND_DEG_S * (motion.frames - 1) / 24.0 - pan(motion)
            wanted = reaction + 2 * damping / (2 * np.pi * hz) - ahead
            np.testing.assert_allclose(late[144:200] / ROUND_DEG_S, wanted, rtol=0.05, atol=1e-3)

    def test_stiff_at_once_and_without_slack_the_subject_stays_on_its_place(self) -> None:
        rig = (Mount(id="arm", name="Arm", y_m=fixed(0.1), z_m=fixed(-0.3), pan_deg=fixed(4.0)),)
        for more in ((), rig):
            for across, up in ((50.0, 50.0), (33.3, 60.0)):
                made = shot(STIFF.replace(across_percent=fixed(across), up_percent=fixed(up)), None, *more)
                misses = misses_px(made, evaluate(made))
                self.assertLess(np.max(np.hypot(misses[:, 0], misses[:, 1])), 0.1)

    def test_a_pivot_and_a_parent_that_moves_are_seen_through(self) -> None:
        cart = Mount(id="cart", name="Cart", x_m=keyed((1, -1.0), (240, 2.0)), pan_deg=keyed((1, 0.0), (240, 40.0)))
        head = Mount(
            id="head", name="Head", y_m=fixed(1.6), pivot_m=(0.0, 0.0, 0.3), roll_deg=fixed(5.0), operator=STIFF
        )
        made = shot_with(mounts=(cart, head), subject=circling(), last_frame=240)
        self.assertLess(np.max(np.abs(misses_px(made, evaluate(made))[:, :2])), 0.1)

    def test_an_instant_turn_shows_after_the_reaction_time(self) -> None:
        x = on_curve(Curve(keys=(Key(frame=1, value=0.0, interp="hold"), Key(frame=100, value=2.0))))
        there = Subject(name="Kite", x_m=x, y_m=fixed(1.6), z_m=fixed(-5.0))
        motion = evaluate(shot(Operator(reaction_s=0.5, pan_slack_percent=0.0), there))
        began = motion.frames[np.argmax(np.abs(pan(motion)) > 1e-3)]
        self.assertLessEqual(abs(began - (100 + 12)), 1.0)

    def test_within_the_slack_nothing_moves(self) -> None:
        there = Subject(
            name="Kite", x_m=keyed((1, 0.0), (60, 0.3), (120, -0.3), (240, 0.0)), y_m=fixed(1.6), z_m=fixed(-5.0)
        )
        motion = evaluate(shot(Operator(pan_slack_percent=10.0), there))
        np.testing.assert_allclose(pan(motion), pan(motion)[0], atol=1e-9)
        moved = evaluate(shot(Operator(pan_slack_percent=1.0), there))
        self.assertGreater(np.ptp(pan(moved)), 1.0)


class Ways(unittest.TestCase):
    def test_weight_axes_and_adding(self) -> None:
        keyed_pan = Mount(id="head", name="Head", y_m=fixed(1.6), pan_deg=keyed((1, 0.0), (240, 30.0)), operator=STIFF)
        base = shot(STIFF)

        def with_(operator: Operator | None) -> np.ndarray:
            return evaluate(base.replace(mounts=(keyed_pan.replace(operator=operator),))).pose.angles_deg

        bare, full = with_(None), with_(STIFF)
        np.testing.assert_allclose(with_(STIFF.replace(weight=fixed(0.5)))[:, 0], 0.5 * (bare + full)[:, 0], atol=1e-6)
        np.testing.assert_allclose(with_(STIFF.replace(pan=False))[:, 0], bare[:, 0], atol=1e-9)
        np.testing.assert_allclose(with_(STIFF.replace(mode="add")), full, atol=0.02)

    def test_more_than_a_turn_is_followed_round(self) -> None:
        motion = evaluate(shot(STIFF, circling(1, 720), last_frame=720))
        self.assertAlmostEqual(pan(motion)[-1], ROUND_DEG_S * 719 / 24.0, delta=0.5)
        self.assertLess(np.max(np.abs(np.diff(pan(motion)))), 2.0)

    def test_a_part_is_the_whole_and_the_frame_rate_does_not_matter(self) -> None:
        made = shot(Operator())
        whole = evaluate(made)
        np.testing.assert_allclose(
            evaluate(made, np.array([50.0, 51.0])).pose.angles_deg, whole.pose.angles_deg[49:51], atol=1e-9
        )
        fast = shot(Operator(), circling(1, 479, 48.0), fps=Fps(num=48), last_frame=479)
        np.testing.assert_allclose(evaluate(fast).pose.angles_deg[::2], whole.pose.angles_deg, atol=2e-3)


class Odd(unittest.TestCase):
    def test_behind_overhead_and_in_the_camera(self) -> None:
        behind = Subject.at("Post", (0.0, 1.0, 6.0))
        overhead = Subject(
            name="Bird", x_m=fixed(0.0), y_m=fixed(9.0), z_m=keyed((1, -4.0), (240, 4.0), interp="linear")
        )
        within = Subject.at("Hand", (0.0, 1.6, 0.0))
        for subject in (behind, overhead, within):
            for operator in (STIFF, Operator()):
                motion = evaluate(shot(operator, subject))
                self.assertTrue(np.all(np.isfinite(motion.pose.angles_deg)), subject.name)
        self.assertAlmostEqual(abs(pan(evaluate(shot(STIFF, behind)))[0]), 180.0, places=3)
        np.testing.assert_allclose(pan(evaluate(shot(STIFF, within))), 0.0)

    def test_without_a_subject_nobody_aims(self) -> None:
        made = shot(Operator()).replace(subject=None)
        np.testing.assert_array_equal(evaluate(made).pose.angles_deg, 0.0)

    def test_two_operators_are_refused(self) -> None:
        with self.assertRaisesRegex(Exception, "a camera has one operator"):
            shot(Operator(), None, Mount(id="b", name="B", operator=Operator()))


class Riding(unittest.TestCase):
    def test_who_is_carried_along_sees_it(self) -> None:
        cart = Ride(object="cart", x_m=keyed((1, 0.0), (240, 3.0)), pan_deg=keyed((1, 0.0), (240, 70.0)))
        head = Mount(id="head", name="Head", y_m=fixed(1.6), x_m=fixed(0.4), operator=STIFF)
        for rig in ((head.replace(ride=cart),), (Mount(id="base", name="Base", ride=cart), head)):
            made = shot_with(mounts=rig, subject=circling(), last_frame=240)
            self.assertLess(np.max(np.abs(misses_px(made, evaluate(made))[:, :2])), 0.1)

import unittest

import numpy as np
from scipy import signal

from tests.core.making import layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.readings.framing import misses_px
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.shot import Shot, Subject
from zittern.core.sources.hand_keys import HandKeys, Tracks

POST = Subject(name="Post", x_m=keyed((1, -1.0), (300, 1.5), (600, -0.5)), y_m=fixed(1.2), z_m=fixed(-6.0))


def shot(hold: HoldFraming | None) -> Shot:
    return shot_with(
        layer(seed=5, swings={"pan": 1.0, "tilt": 0.8, "roll": 0.6, "truck": 1.0}),
        subject=POST,
        last_frame=600,
        hold=hold,
    )


def band(values: np.ndarray, low: float, high: float) -> float:
    hz, power = signal.welch(signal.detrend(values, axis=0), fs=24.0, nperseg=600, axis=0)
    return float(np.sqrt(np.sum(power[(hz >= low) & (hz < high)])))


class Holding(unittest.TestCase):
    def test_the_slow_drift_goes_and_the_fast_shake_stays(self) -> None:
        bare, held = (
            misses_px(shot(None), evaluate(shot(None))),
            misses_px(shot(HoldFraming()), evaluate(shot(HoldFraming()))),
        )
        for axis in (0, 1):
            self.assertLess(band(held[:, axis], 0.0, 0.15), 0.15 * band(bare[:, axis], 0.0, 0.15))
            self.assertAlmostEqual(band(held[:, axis], 1.2, 12.0) / band(bare[:, axis], 1.2, 12.0), 1.0, delta=0.05)
        self.assertLess(abs(np.mean(held[:, 0])), 2.0)

    def test_the_place_is_kept_and_the_horizon_too(self) -> None:
        third = HoldFraming(across_percent=fixed(33.3), up_percent=fixed(60.0))
        motion = evaluate(shot(third))
        self.assertLess(np.max(np.abs(np.mean(misses_px(shot(third), motion)[:, :2], axis=0))), 3.0)
        np.testing.assert_allclose(motion.pose.angles_deg[:, 2], evaluate(shot(None)).pose.angles_deg[:, 2], atol=1e-6)

    def test_a_shift_of_the_picture_is_seen_and_its_slow_part_held_against(self) -> None:
        away = layer("keys", source=HandKeys(tracks=Tracks(shift_x=5.0, shift_y=-4.0)), swings={})
        ahead = Subject(name="Post", x_m=fixed(0.0), y_m=fixed(1.6), z_m=fixed(-6.0))
        bare = shot_with(away, subject=ahead, last_frame=48)
        np.testing.assert_allclose(misses_px(bare, evaluate(bare))[:, :2], [[96.0, -43.2]] * 48, atol=1e-6)
        held = bare.replace(hold=HoldFraming())
        np.testing.assert_allclose(misses_px(held, evaluate(held))[:, :2], 0.0, atol=0.5)

    def test_weight_and_parts(self) -> None:
        off, half, full = (evaluate(shot(HoldFraming(weight=fixed(each)))).pose.angles_deg for each in (0.0, 0.5, 1.0))
        np.testing.assert_allclose(off, evaluate(shot(None)).pose.angles_deg, atol=1e-12)
        np.testing.assert_allclose(half, 0.5 * (off + full), atol=1e-6)
        part = evaluate(shot(HoldFraming()), np.array([200.0, 201.0]))
        np.testing.assert_allclose(part.pose.angles_deg, full[199:201], atol=1e-9)

    def test_without_a_subject_there_is_nothing_to_hold(self) -> None:
        made = shot(HoldFraming()).replace(subject=None)
        np.testing.assert_array_equal(evaluate(made).pose.angles_deg, evaluate(made.replace(hold=None)).pose.angles_deg)

    def test_the_ends_are_held_as_the_middle_is(self) -> None:
        """A subject that goes by at constant speed, and one on a bend: from the first frame to the last."""
        ahead = {"y_m": fixed(1.6), "z_m": fixed(-8.0)}
        for below_hz in (0.15, 0.4, 1.0):
            for x_m in (keyed((1, -2.0), (240, 3.0), interp="linear"), keyed((1, -2.0), (120, 1.0), (240, 2.0))):
                made = shot_with(
                    subject=Subject(name="Post", x_m=x_m, **ahead), hold=HoldFraming(below_hz=below_hz), last_frame=240
                )  # type: ignore[arg-type]
                off = np.abs(misses_px(made, evaluate(made))[:, 0])
                middle = max(float(np.max(off[60:180])), 0.5)
                self.assertLess(float(np.max(off[200:])), 2.0 * middle + 3.0, f"{below_hz}")
                self.assertLess(float(np.max(off[:40])), 2.0 * middle + 3.0, f"{below_hz}")

    def test_a_place_and_a_lens_that_read_the_path(self) -> None:
        by_path = HoldFraming(across_percent=by_formula("40 + speed + distance", fixed(50.0)))
        made = shot(by_path).replace(focal_mm=by_formula("20 + distance", fixed(35.0)))
        motion = evaluate(made)
        self.assertTrue(np.all(np.isfinite(motion.pose.angles_deg)))
        np.testing.assert_allclose(
            motion.pose.focal_mm,
            20.0 + np.linalg.norm(made.subject.position_m(made.scope(motion.frames)) - motion.bare.position_m, axis=1),
        )

    def test_shots_of_one_frame_and_of_a_few(self) -> None:
        for last in (1, 2, 5):
            made = shot(HoldFraming(below_hz=0.02)).replace(last_frame=last)
            self.assertTrue(np.all(np.isfinite(evaluate(made).pose.angles_deg)))

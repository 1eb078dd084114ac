import unittest

import numpy as np
from scipy import signal

from tests.core.making import layer, shot_with
from zittern.core.framing import misses_px
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.shot import Shot, Subject

POST = Subject(name="Post", x_m=keyed((1, -1.0), (300, 1.5), (600, -0.5)), y_m=fixed(1.2), z_m=fixed(-6.0))


def shot(hold: HoldFraming | None) -> Shot:
    return shot_with(layer(seed=5, swings={"pan": 1.0, "tilt": 0.8, "roll": 0.6, "truck": 1.0}), subject=POST, last_frame=600, hold=hold)


def band(values: np.ndarray, low: float, high: float) -> float:
    hz, power = signal.welch(signal.detrend(values, axis=0), fs=24.0, nperseg=600, axis=0)
    return float(np.sqrt(np.sum(power[(hz >= low) & (hz < high)])))


class Holding(unittest.TestCase):
    def test_the_slow_drift_goes_and_the_fast_shake_stays(self) -> None:
        bare, held = misses_px(shot(None), evaluate(shot(None))), misses_px(shot(HoldFraming()), evaluate(shot(HoldFraming())))
        for axis in (0, 1):
            self.assertLess(band(held[:, axis], 0.0, 0.15), 0.15 * band(bare[:, axis], 0.0, 0.15))
            self.assertAlmostEqual(band(held[:, axis], 1.2, 12.0) / band(bare[:, axis], 1.2, 12.0), 1.0, delta=0.05)
        self.assertLess(abs(np.mean(held[:, 0])), 2.0)

    def test_the_place_is_kept_and_the_horizon_too(self) -> None:
        third = HoldFraming(across_percent=fixed(33.3), up_percent=fixed(60.0))
        motion = evaluate(shot(third))
        self.assertLess(np.max(np.abs(np.mean(misses_px(shot(third), motion)[:, :2], axis=0))), 3.0)
        np.testing.assert_allclose(motion.pose.angles_deg[:, 2], evaluate(shot(None)).pose.angles_deg[:, 2], atol=1e-6)

    def test_weight_and_parts(self) -> None:
        off, half, full = (evaluate(shot(HoldFraming(weight=fixed(each)))).pose.angles_deg for each in (0.0, 0.5, 1.0))
        np.testing.assert_allclose(off, evaluate(shot(None)).pose.angles_deg, atol=1e-12)
        np.testing.assert_allclose(half, 0.5 * (off + full), atol=1e-6)
        part = evaluate(shot(HoldFraming()), np.array([200.0, 201.0]))
        np.testing.assert_allclose(part.pose.angles_deg, full[199:201], atol=1e-9)

    def test_without_a_subject_there_is_nothing_to_hold(self) -> None:
        made = shot(HoldFraming()).replace(subject=None)
        np.testing.assert_array_equal(evaluate(made).pose.angles_deg, evaluate(made.replace(hold=None)).pose.angles_deg)

import unittest

import numpy as np

from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.numbers.scope import Scope
from zittern.core.numbers.smoothing import moving_mean
from zittern.core.timebase import Fps

FRAMES = np.arange(1.0, 121.0, 0.25)


def scope(frames: np.ndarray = FRAMES, fps: float = 24.0) -> Scope:
    return Scope(frames, Fps(num=int(fps)), 1.0, (1.0, 120.0))


class MovingMean(unittest.TestCase):
    def test_against_a_sum_of_very_many_places(self) -> None:
        for number in (
            keyed((10, 0.0), (30, 80.0), (31, 20.0), (90, 60.0)),
            keyed((10, 0.0), (40, 100.0), (41.5, 3.0), interp="hold"),
            by_formula("50 + 40 * sin(3 * t)", fixed(0.0)),
        ):
            for fps in (24.0, 240.0):
                around = np.linspace(-0.05, 0.05, 20_001) * fps
                at = np.array([11.25, 29.9, 30.5, 40.0, 41.0, 60.0])
                fine = number.sample(scope((at[:, None] + around).ravel(), fps)).reshape(len(at), -1).mean(axis=1)
                np.testing.assert_allclose(moving_mean(number, scope(at, fps), 0.1), fine, atol=0.02)

    def test_a_jump_takes_as_long_as_the_stretch_and_is_straight(self) -> None:
        found = moving_mean(keyed((10, 0.0), (60, 100.0), interp="hold"), scope(), 0.1)
        rate = np.diff(found) / np.diff(FRAMES)
        self.assertLessEqual(rate.max(), 100.0 / 2.4 + 1e-9)
        np.testing.assert_array_equal(found[FRAMES <= 58.5], 0.0)
        np.testing.assert_allclose(found[FRAMES >= 61.5], 100.0)

    def test_what_stands_still_stays_and_a_part_is_as_the_whole(self) -> None:
        np.testing.assert_array_equal(moving_mean(fixed(37.0), scope(), 0.1), 37.0)
        number = keyed(*((frame, float(frame % 7)) for frame in range(1, 100)))
        whole = moving_mean(number, scope(), 0.1)
        np.testing.assert_array_equal(moving_mean(number, scope(FRAMES[100:140]), 0.1), whole[100:140])
        self.assertEqual(len(moving_mean(number, scope(np.empty(0)), 0.1)), 0)

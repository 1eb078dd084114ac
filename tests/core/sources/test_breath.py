import unittest

import numpy as np
from scipy.signal import welch

from tests.core.making import rms
from tests.core.sources.making import FPS, SWINGS, meets, values
from zittern.core.sources.breath import Breath


class Breathing(unittest.TestCase):
    RESTING = values(Breath(rate_hz=0.25, exertion=0.0), 400)

    def test_period_is_the_rate(self) -> None:
        frequency, power = welch(self.RESTING[:, 4], fs=FPS, nperseg=60 * FPS)
        self.assertAlmostEqual(frequency[np.argmax(power)], 0.25, delta=0.03)

    def test_uneven_rising_faster_than_falling_and_resting(self) -> None:
        slope = np.diff(self.RESTING[:, 4])
        moving = np.abs(slope) > 1e-4
        self.assertLess(np.sum(slope[moving] > 0), 0.9 * np.sum(slope[moving] < 0))
        self.assertGreater(np.mean(~moving), 0.05)

    def test_never_twice_the_same(self) -> None:
        breaths = self.RESTING[:, 4].reshape(-1, 4 * FPS)
        tops = breaths.max(axis=1)
        self.assertGreater(np.ptp(tops), 0.2 * np.abs(tops).mean())
        self.assertEqual(len(np.unique(np.round(tops, 9))), len(tops))

    def test_exertion_makes_it_even(self) -> None:
        hard = values(Breath(rate_hz=0.25, exertion=1.0), 400)[:, 4]
        slope = np.diff(hard)
        self.assertAlmostEqual(np.sum(slope > 0) / np.sum(slope < 0), 0.47 / 0.53, delta=0.08)

    def test_pedestal_and_tilt_breathe_together_tilt_a_little_later(self) -> None:
        pedestal, tilt = self.RESTING[:, 4], self.RESTING[:, 1]
        self.assertGreater(np.corrcoef(pedestal, tilt)[0, 1], 0.9)
        lags = [np.corrcoef(pedestal[: -60 or None], np.roll(tilt, -k)[:-60])[0, 1] for k in range(40)]
        self.assertAlmostEqual(int(np.argmax(lags)) / FPS, 0.05 / 0.25, delta=0.06)

    def test_no_jumps(self) -> None:
        self.assertLess(np.abs(np.diff(self.RESTING, axis=0)).max() / SWINGS.max(), 0.06)

    def test_swing_is_twice_the_rms(self) -> None:
        np.testing.assert_allclose(2 * rms(values(Breath(rate_hz=1.0), 400)), SWINGS, rtol=0.1)

    def test_loops(self) -> None:
        meets(Breath(loop=True))

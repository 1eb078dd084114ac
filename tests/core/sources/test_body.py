"""Drift, tremor and breath: what a body does."""

import unittest

import numpy as np
from scipy.signal import welch

from tests.core.making import contribution, layer, rms, shot_with
from zittern.core.numbers.param import keyed
from zittern.core.sources.breath import Breath
from zittern.core.sources.drift import Drift
from zittern.core.sources.source import SourceDoc
from zittern.core.sources.tremor import Tremor

FPS = 60
SWINGS = np.array([0.5, 0.4, 0.3, 1.0, 0.8, 0.6, 2.0])


def values(source: SourceDoc, seconds: float, **fields: object) -> np.ndarray:
    return contribution(shot_with(layer(source=source, **fields), fps=FPS, last_frame=int(seconds * FPS)))


def share(source: SourceDoc, low_hz: float, high_hz: float, seconds: float) -> float:
    """Share of the power within a band."""
    frequency, power = welch(values(source, seconds), fs=FPS, nperseg=min(int(seconds * FPS), 2**13), axis=0)
    inside = (frequency >= low_hz) & (frequency <= high_hz)
    return float(power[inside].sum() / power.sum())


def seam(source: SourceDoc, **fields: object) -> tuple[np.ndarray, np.ndarray]:
    shot = shot_with(layer(source=source, **fields))
    h = 1e-4
    at = contribution(shot, frames=np.array([1.0, 1.0 + h, 241.0, 241.0 + h]))
    return at[2] - at[0], (at[3] - at[2] - at[1] + at[0]) / h


class Bands(unittest.TestCase):
    def test_drift_lies_where_standing_bodies_sway(self) -> None:
        self.assertGreater(share(Drift(), 0.04, 0.55, 1200), 0.98)

    def test_tremor_lies_where_muscles_shake(self) -> None:
        self.assertGreater(share(Tremor(), 7.5, 11.5, 120), 0.98)
        self.assertGreater(share(Tremor(centre_hz=4.0, width_hz=0.5), 3.3, 4.7, 120), 0.98)

    def test_swing_is_twice_the_rms(self) -> None:
        np.testing.assert_allclose(2 * rms(values(Drift(rate_hz=1.0), 600)), SWINGS, rtol=0.1)
        np.testing.assert_allclose(2 * rms(values(Tremor(), 120)), SWINGS, rtol=0.1)
        np.testing.assert_allclose(2 * rms(values(Breath(rate_hz=1.0), 400)), SWINGS, rtol=0.1)

    def test_axes_and_seeds_of_drift_and_tremor_are_unrelated(self) -> None:
        for source in (Drift(rate_hz=2.0), Tremor()):
            moved = np.concatenate([values(source, 1500, seed=s) for s in (1, 2)], axis=1)
            self.assertLess(np.abs(np.corrcoef(moved.T) - np.eye(14)).max(), 0.15)

    def test_tremor_swells_and_fades(self) -> None:
        loud = np.abs(values(Tremor(), 60)[:, 0]).reshape(-1, FPS).max(axis=1)
        self.assertGreater(loud.max() / loud.min(), 1.8)


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


class Loops(unittest.TestCase):
    def test_value_and_slope_meet_with_and_without_a_keyed_speed(self) -> None:
        for source in (Drift(loop=True), Tremor(loop=True), Breath(loop=True)):
            for fields in ({}, {"speed": keyed((1, 1.0), (120, 3.0), (240, 1.0))}):
                with self.subTest(source.kind, keyed=bool(fields)):
                    jump, kink = seam(source, **fields)
                    np.testing.assert_allclose(jump, 0, atol=1e-9)
                    np.testing.assert_allclose(kink, 0, atol=1e-5)

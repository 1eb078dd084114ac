"""The facts that noise promises, each measured."""

import unittest

import numpy as np
from scipy.integrate import quad
from scipy.optimize import minimize_scalar
from scipy.signal import welch

from tests.core.making import ALL_SWINGS, contribution, layer, rms, shot_with
from zittern.core.axes import AXES
from zittern.core.noise import octave
from zittern.core.numbers.param import keyed
from zittern.core.shot.layers import AxisSetting
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.core.sources.noise import Noise
from zittern.core.timebase import Fps

RATE_HZ = 2.0
PERIODS = 400
FRAMES = int(PERIODS / RATE_HZ * 24)


def long_shot(**source: object) -> object:
    return shot_with(layer(source=Noise(rate_hz=RATE_HZ, **source)), last_frame=FRAMES)  # type: ignore[arg-type]


class Constants(unittest.TestCase):
    @staticmethod
    def kernel(d: float) -> float:
        u = abs(d)
        return d * (1 - (6 * u**5 - 15 * u**4 + 10 * u**3))

    def test_rms_of_one_octave(self) -> None:
        mean_square = 2 / 3 * quad(lambda d: self.kernel(d) ** 2, 0, 1)[0]
        self.assertAlmostEqual(octave.OCTAVE_RMS, np.sqrt(mean_square), places=12)

    def test_peak_of_the_kernels_spectrum(self) -> None:
        def spectrum(f: float) -> float:
            return abs(quad(lambda d: self.kernel(d) * np.sin(2 * np.pi * f * d), 0, 1)[0])

        peak = minimize_scalar(lambda f: -spectrum(f), bounds=(0.2, 1.0), method="bounded", options={"xatol": 1e-10})
        self.assertAlmostEqual(octave.PEAK_CYCLES_PER_STEP, peak.x, places=6)


class Size(unittest.TestCase):
    def test_swing_is_twice_the_rms_whatever_octaves_and_persistence(self) -> None:
        swings = np.array(list(ALL_SWINGS.values()))
        for octaves, persistence in ((1, 0.5), (2, 0.2), (4, 0.5), (8, 0.9), (3, 1.0), (5, 0.0)):
            with self.subTest(octaves=octaves, persistence=persistence):
                values = contribution(long_shot(octaves=octaves, persistence=persistence))
                np.testing.assert_allclose(2 * rms(values), swings, rtol=0.1)

    def test_keyed_persistence_keeps_the_size(self) -> None:
        values = contribution(long_shot(octaves=4, persistence=keyed((1, 0.0), (FRAMES, 1.0))))
        np.testing.assert_allclose(2 * rms(values)[0], 0.5, rtol=0.1)

    def test_about_95_percent_stays_inside_the_swing(self) -> None:
        inside = np.mean(np.abs(contribution(long_shot(octaves=2))[:, 0]) <= 0.5)
        self.assertGreater(inside, 0.92)
        self.assertLess(inside, 0.985)


class Rate(unittest.TestCase):
    def peak_hz(self, fps: Fps, rate_hz: float) -> float:
        """Peak of the mean spectrum of many seeds: one run's own spectrum is itself random."""
        total = 0.0
        for seed in range(1, 9):
            shot = shot_with(
                layer(source=Noise(rate_hz=rate_hz, octaves=1), seed=seed),
                fps=fps,
                last_frame=int(PERIODS / rate_hz * fps.value),
            )
            frequency, power = welch(contribution(shot), fs=fps.value, nperseg=int(10 * fps.value / rate_hz), axis=0)
            total = total + power.mean(axis=1) / power.sum(axis=0).mean()
        return float(frequency[np.argmax(total)])

    def test_spectrum_peaks_at_the_rate(self) -> None:
        for rate in (0.5, 2.0, 5.0):
            for fps in (Fps(num=24), Fps(num=60)):
                with self.subTest(rate=rate, fps=str(fps)):
                    self.assertAlmostEqual(self.peak_hz(fps, rate) / rate, 1.0, delta=0.2)


class Independence(unittest.TestCase):
    def test_axes_are_unrelated(self) -> None:
        r = np.corrcoef(contribution(long_shot(octaves=3)).T)
        self.assertLess(np.abs(r - np.eye(len(AXES))).max(), 0.1)

    def test_seeds_and_layers_are_unrelated(self) -> None:
        values = [
            contribution(shot_with(layer(source=Noise(rate_hz=RATE_HZ), seed=s), last_frame=FRAMES))[:, 0]
            for s in (1, 2, 3, 2**53 - 1)
        ]
        r = np.corrcoef(values)
        self.assertLess(np.abs(r - np.eye(4)).max(), 0.1)

    def test_an_axis_own_seed_changes_that_axis_alone(self) -> None:
        before = long_shot()
        changed = layer(source=Noise(rate_hz=RATE_HZ))
        changed = changed.replace(axes=changed.axes.replace(tilt=changed.axes.tilt.replace(seed=9)))
        a, b = contribution(before), contribution(shot_with(changed, last_frame=FRAMES))
        np.testing.assert_array_equal(np.delete(a, 1, axis=1), np.delete(b, 1, axis=1))
        self.assertLess(abs(np.corrcoef(a[:, 1], b[:, 1])[0, 1]), 0.1)

    def test_a_linked_axis_moves_as_the_other_does(self) -> None:
        linked = layer(source=Noise(rate_hz=RATE_HZ))
        linked = linked.replace(axes=linked.axes.replace(tilt=AxisSetting(swing=1.0, linked_to="pan")))
        values = contribution(shot_with(linked, last_frame=FRAMES))
        np.testing.assert_allclose(values[:, 1], 2.0 * values[:, 0], atol=1e-12)


class Time(unittest.TestCase):
    def test_a_sub_range_equals_the_same_rows(self) -> None:
        shot = long_shot(octaves=4)
        whole = contribution(shot)
        for part in (slice(0, 5), slice(1000, 1500), slice(FRAMES - 1, FRAMES)):
            frames = np.arange(1.0, FRAMES + 1)[part]
            np.testing.assert_allclose(contribution(shot, frames=frames), whole[part], atol=1e-9)

    def test_the_same_second_has_the_same_value_at_every_frame_rate(self) -> None:
        values = []
        for fps in (24, 25, 60):
            shot = shot_with(layer(source=Noise(rate_hz=RATE_HZ, octaves=4)), fps=Fps(num=fps), last_frame=fps * 10 + 1)
            values.append(contribution(shot, frames=1.0 + fps * np.linspace(0, 10, 41)))
        np.testing.assert_allclose(values[1], values[0], atol=1e-9)
        np.testing.assert_allclose(values[2], values[0], atol=1e-9)

    def test_keyed_speed_never_makes_a_jump(self) -> None:
        fine = np.arange(1.0, 200.0, 0.05)
        fastest = 6.0
        bursts = layer(
            source=Noise(rate_hz=1.0, octaves=1),
            speed=keyed((1, 1.0), (60, fastest), (61, 0.1), (150, 4.0), interp="hold"),
        )
        steady = layer(source=Noise(rate_hz=1.0, octaves=1), speed=fastest)
        step = np.abs(np.diff(contribution(shot_with(bursts), frames=fine)[:, 0])).max()
        allowed = np.abs(np.diff(contribution(shot_with(steady), frames=np.arange(1.0, 2000.0, 0.05))[:, 0])).max()
        self.assertLessEqual(step, allowed * 1.05)
        self.assertGreater(step, 0)

    def test_save_and_load_gives_the_same_samples(self) -> None:
        shot = long_shot(octaves=3)
        np.testing.assert_array_equal(contribution(read_shot(write_shot(shot))), contribution(shot))

    def test_very_fast_noise_stays_exact_and_bounded(self) -> None:
        shot = shot_with(layer(source=Noise(rate_hz=400.0, octaves=8)))
        whole = contribution(shot)
        np.testing.assert_allclose(contribution(shot, frames=np.array([100.0])), whole[99:100], atol=1e-9)
        self.assertLess(np.abs(whole[:, 0]).max(), 5 * 0.5)


class Loop(unittest.TestCase):
    def seam(self, **fields: object) -> tuple[np.ndarray, np.ndarray]:
        shot = shot_with(layer(source=Noise(rate_hz=0.7, octaves=3, loop=True), **fields))
        h = 1e-4
        at = contribution(shot, frames=np.array([1.0, 1.0 + h, 241.0, 241.0 + h]))
        return at[2] - at[0], (at[3] - at[2] - at[1] + at[0]) / h

    def test_value_and_slope_meet(self) -> None:
        jump, kink = self.seam()
        np.testing.assert_allclose(jump, 0, atol=1e-9)
        np.testing.assert_allclose(kink, 0, atol=1e-6)  # differences of 1e-9 over h

    def test_with_a_keyed_speed_too(self) -> None:
        jump, kink = self.seam(speed=keyed((1, 1.0), (120, 4.0), (240, 1.0)))
        np.testing.assert_allclose(jump, 0, atol=1e-9)
        np.testing.assert_allclose(kink, 0, atol=1e-6)

    def test_size_is_kept(self) -> None:
        shot = shot_with(layer(source=Noise(rate_hz=RATE_HZ, octaves=2, loop=True)), last_frame=FRAMES)
        np.testing.assert_allclose(2 * rms(contribution(shot))[0], 0.5, rtol=0.1)

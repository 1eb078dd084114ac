import unittest

import numpy as np

from tests.core.making import contribution, layer, rms, shot_with
from zittern.core.sources.wave import SHAPES, Phases, Wave

# Ten whole periods of a 1 Hz wave, sampled so that no frame repeats within a period.
FRAMES = 1.0 + np.linspace(0.0, 240.0, 24_001)[:-1]


def wave(swings: dict[str, float] | None = None, **fields: object) -> np.ndarray:
    return contribution(
        shot_with(layer(source=Wave.model_validate({"rate_hz": 1.0, **fields}), swings=swings)), frames=FRAMES
    )


class Shapes(unittest.TestCase):
    def test_every_shape_has_unit_rms_and_no_mean(self) -> None:
        turn = np.linspace(0.0, 2 * np.pi, 100_001)[:-1]
        for name, shape in SHAPES.items():
            values = shape(turn)
            self.assertAlmostEqual(float(np.sqrt(np.mean(values**2))), 1.0, places=4, msg=name)
            self.assertAlmostEqual(float(np.mean(values)), 0.0, places=4, msg=name)

    def test_swing_is_twice_the_rms(self) -> None:
        for shape in SHAPES:
            np.testing.assert_allclose(2 * rms(wave(shape=shape))[:2], [0.5, 0.4], rtol=1e-3)

    def test_period_is_one_over_the_rate(self) -> None:
        for shape in SHAPES:
            values = wave(shape=shape)[:, 0]
            np.testing.assert_allclose(values[2400:], values[:-2400], atol=1e-9)

    def test_spectrum_peaks_at_the_rate(self) -> None:
        for shape in SHAPES:
            power = np.abs(np.fft.rfft(wave(shape=shape)[:, 0]))
            self.assertEqual(int(np.argmax(power)), 10, shape)


class PhaseOfEachAxis(unittest.TestCase):
    def test_a_quarter_turn_apart_draws_a_circle(self) -> None:
        values = wave({"pan": 1.0, "tilt": 1.0}, phase_deg=Phases(pan=0.0, tilt=90.0))
        radius = np.hypot(values[:, 0], values[:, 1])
        np.testing.assert_allclose(radius, np.sqrt(2) / 2, rtol=1e-9)

    def test_the_same_phase_draws_a_line(self) -> None:
        values = wave({"pan": 1.0, "tilt": 2.0}, phase_deg=Phases(pan=30.0, tilt=30.0))
        np.testing.assert_allclose(values[:, 1], 2 * values[:, 0], atol=1e-9)

    def test_twice_the_pace_runs_twice_as_fast(self) -> None:
        doubled = layer(source=Wave(rate_hz=1.0), swings={"pan": 1.0, "tilt": 1.0})
        doubled = doubled.replace(axes=doubled.axes.replace(tilt=doubled.axes.tilt.replace(pace=2.0)))
        values = contribution(shot_with(doubled), frames=FRAMES)
        self.assertEqual(int(np.argmax(np.abs(np.fft.rfft(values[:, 1])))), 20)

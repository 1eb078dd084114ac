import unittest

import numpy as np
from scipy.integrate import quad

from tests.core.making import over
from zittern.core.numbers.param import Fixed, Keyed, by_formula, keyed
from zittern.core.numbers.phase import integrate, phase_table
from zittern.core.timebase import Fps

FPS = Fps(num=24)
FRAMES = np.linspace(1.0, 90.0, 357)
SPEED = keyed((1, 1.0), (30.5, 3.0), (60, 0.2), (90, 1.0))


def naive(factors: list[Fixed | Keyed], frame: float, start: float) -> float:
    def product(f: float) -> float:
        return float(np.prod([p.sample(over(f))[0] for p in factors]))

    return (
        quad(product, start, frame, limit=400, points=[k for k in (30.5, 60.0) if start < k < frame], epsabs=1e-11)[0]
        / FPS.value
    )


class Integral(unittest.TestCase):
    def test_fixed_factors_are_a_product(self) -> None:
        np.testing.assert_allclose(
            integrate([Fixed(value=2.0), Fixed(value=0.5)], over(FRAMES), 1.0), (FRAMES - 1) / 24, atol=1e-12
        )

    def test_against_slow_quadrature(self) -> None:
        factors: list[Fixed | Keyed] = [Fixed(value=1.5), SPEED]
        got = integrate(factors, over(FRAMES[::40]), 1.0)
        np.testing.assert_allclose(got, [naive(factors, f, 1.0) for f in FRAMES[::40]], atol=1e-9)

    def test_product_of_two_keyed_factors(self) -> None:
        rate = keyed((1, 0.5), (90, 2.0))
        got = integrate([rate, SPEED], over(np.array([45.25])), 1.0)[0]
        self.assertAlmostEqual(got, naive([rate, SPEED], 45.25, 1.0), places=9)

    def test_a_frame_does_not_depend_on_the_others_asked_for(self) -> None:
        whole = integrate([SPEED], over(FRAMES), 1.0)
        np.testing.assert_allclose(integrate([SPEED], over(FRAMES[100:130]), 1.0), whole[100:130], atol=1e-12)
        np.testing.assert_allclose(integrate([SPEED], over(FRAMES[::-1]), 1.0), whole[::-1], atol=1e-12)

    def test_runs_backwards_before_the_start(self) -> None:
        before = integrate([SPEED], over(np.array([10.0])), 40.0)[0]
        after = integrate([SPEED], over(np.array([40.0])), 10.0)[0]
        self.assertAlmostEqual(before, -after, places=12)

    def test_steps_never_exceed_what_the_speed_allows(self) -> None:
        jumpy = keyed((1, 0.5), (40, 8.0), (50, 0.1), interp="hold")
        steps = np.diff(integrate([jumpy], over(FRAMES), 1.0)) / np.diff(FRAMES) * 24
        self.assertLessEqual(steps.max(), 8.0 + 1e-9)
        self.assertGreaterEqual(steps.min(), 0.1 - 1e-9)

    def test_no_frames(self) -> None:
        self.assertEqual(integrate([SPEED], over(np.empty(0)), 1.0).shape, (0,))


class Tables(unittest.TestCase):
    RATE = keyed((1, 0.5), (90, 3.0), (200, 1.0))

    def test_from_a_start_outside_the_way_there_is_added_frame_by_frame(self) -> None:
        sways = by_formula("1 + 0.9 * sin(5 * t)", Fixed(value=1.0))
        for start, reach in ((1.0, (200.0, 210.0)), (300.0, (200.0, 210.0))):
            frames = np.linspace(*reach, 21)
            near = integrate([sways], over(frames), start, phase_table([sways], over(frames), start, reach))
            seconds = (frames - 1.0) / 24.0
            whole = seconds - 0.18 * np.cos(5.0 * seconds)
            begun = (start - 1.0) / 24.0 - 0.18 * np.cos(5.0 * (start - 1.0) / 24.0)
            np.testing.assert_allclose(near, whole - begun, atol=1e-9)

    def test_one_table_serves_every_part(self) -> None:
        frames = np.linspace(-5.0, 260.0, 700)
        whole = integrate((self.RATE,), over(frames), 12.5)
        table = phase_table((self.RATE,), over(1.0), 12.5, (1.0, 241.0))
        parts = np.concatenate(
            [integrate((self.RATE,), over(frames[i : i + 50]), 12.5, table) for i in range(0, 700, 50)]
        )
        np.testing.assert_allclose(parts, whole, atol=1e-9)

    def test_a_start_far_outside_costs_little_and_changes_only_the_start(self) -> None:
        frames = np.arange(1.0, 240.0)
        near, far = (
            integrate((self.RATE,), over(frames), start, phase_table((self.RATE,), over(1.0), start, (1.0, 241.0)))
            for start in (1.0, -9e6)
        )
        np.testing.assert_allclose(far - far[0], near - near[0], atol=1e-6)
        self.assertAlmostEqual(far[0] / ((1.0 + 9e6) * 0.5 / FPS.value), 1.0, places=9)
        self.assertLess(phase_table((self.RATE,), over(1.0), -9e6, (1.0, 241.0)).shape[1], 70_000)

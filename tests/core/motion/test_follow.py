import unittest

import numpy as np

from zittern.core.motion.follow import backlash, base_excited, grounded_damper, step_response
from zittern.core.motion.memory import Grid, at_frames

STEP = 1.0 / 120.0
TIMES = np.arange(0.0, 10.0, STEP)
# Only its steps count where nothing swings slowly.
GRID = Grid(TIMES, np.empty(0), STEP, 1.0 / 30.0)


def column(values: np.ndarray) -> np.ndarray:
    return np.asarray(values)[:, None]


class BaseExcited(unittest.TestCase):
    def test_no_lag_at_constant_speed(self) -> None:
        got = base_excited(column(3.0 * TIMES), 1.5, 0.6, GRID)
        np.testing.assert_allclose(got[-100:, 0], 3.0 * TIMES[-100:], atol=1e-9)

    def test_a_lag_of_a_over_w_squared_under_acceleration(self) -> None:
        got = base_excited(column(0.5 * 2.0 * TIMES**2), 1.5, 0.6, GRID)
        np.testing.assert_allclose(TIMES[-50:] ** 2 - got[-50:, 0], 2.0 / (2 * np.pi * 1.5) ** 2, rtol=1e-3)

    def test_a_step_answers_as_the_closed_form(self) -> None:
        # x(t) = 1 - exp(-zwt) (cos(wd t) - z w / wd sin(wd t)) for a carried damper; the step rises within one grid
        # step.
        hz, z = 1.0, 0.2
        w, wd = 2 * np.pi * hz, 2 * np.pi * hz * np.sqrt(1 - z * z)
        got = base_excited(column(np.where(TIMES < 1.0, 0.0, 1.0)), hz, z, GRID)[:, 0]
        t = TIMES[TIMES >= 1.0] - 1.0 + STEP / 2
        np.testing.assert_allclose(
            got[TIMES >= 1.0], 1 - np.exp(-z * w * t) * (np.cos(wd * t) - z * w / wd * np.sin(wd * t)), atol=4e-3
        )

    def test_transmissibility(self) -> None:
        # Within two hundredths: straight lines between grid points cut the crests of what is fast.
        for hz, z in ((1.2, 0.15), (2.0, 0.5), (0.8, 1.5)):
            for r in (0.2, 0.7, 1.0, np.sqrt(2.0), 2.5, 4.0):
                t = np.arange(0.0, 60.0, STEP)
                got = base_excited(column(np.sin(2 * np.pi * hz * r * t)), hz, z, GRID)[len(t) // 2 :, 0]
                wanted = np.sqrt((1 + (2 * z * r) ** 2) / ((1 - r * r) ** 2 + (2 * z * r) ** 2))
                self.assertAlmostEqual(np.max(np.abs(got)) / wanted, 1.0, delta=0.02, msg=f"{hz} Hz, {z}, r = {r}")

    def test_what_rests_stays_and_no_frequency_is_too_high(self) -> None:
        np.testing.assert_allclose(base_excited(np.full((500, 2), 7.0), 0.4, 0.9, GRID), 7.0, atol=1e-9)
        walk = np.cumsum(np.sin(TIMES * 7.0))[:, None] * STEP
        for hz, z in ((0.05, 0.02), (60.0, 0.02), (60.0, 5.0)):
            self.assertTrue(np.all(np.isfinite(base_excited(walk, hz, z, GRID))))
        np.testing.assert_allclose(grounded_damper(walk, 10_000.0, 0.7, GRID), walk, atol=1e-3)


class StepResponse(unittest.TestCase):
    def test_as_integrated_numerically(self) -> None:
        fine = 1.0 / 20_000.0
        t = np.arange(0.0, 4.0, fine)
        for hz, z in ((1.2, 0.3), (1.2, 1.0), (0.7, 2.5)):
            w = 2 * np.pi * hz
            x, v, out = 0.0, 2 * z * w, []  # the base's jump gives the mass a speed of 2 z w at once
            for _ in t:
                out.append(x)
                v += fine * (w * w * (1.0 - x) - 2 * z * w * v)
                x += fine * v
            np.testing.assert_allclose(step_response(t, hz, z), out, atol=2e-3)

    def test_it_is_the_limit_of_base_excited(self) -> None:
        for z in (0.2, 1.0, 3.0):
            got = base_excited(column(np.where(TIMES < 1.0, 0.0, 1.0)), 1.0, z, GRID)[:, 0]
            after = TIMES > 1.1
            np.testing.assert_allclose(got[after], step_response(TIMES[after] - 1.0 + STEP / 2, 1.0, z), atol=5e-3)


class FarLead(unittest.TestCase):
    def test_a_coarse_lead_comes_to_what_a_fine_one_does(self) -> None:
        near = np.arange(0.0, 6.0, STEP)
        far = np.arange(-1800, 1) / 30.0
        fine = np.arange(-60.0, 6.0 - 1e-9, STEP)

        def path(t: np.ndarray) -> np.ndarray:
            return np.stack([np.sin(0.4 * t), np.cos(0.09 * t)], axis=1)

        split = Grid(near, far, STEP, 1.0 / 30.0)
        for hz, z in ((0.06, 0.4), (0.3, 4.0)):
            whole = base_excited(path(fine), hz, z, Grid(fine, np.empty(0), STEP, 1.0 / 30.0))
            np.testing.assert_allclose(
                base_excited(path(split.all), hz, z, split), at_frames(fine, whole, near), atol=2e-4
            )


class GroundedDamper(unittest.TestCase):
    def test_a_lag_of_2z_over_w_at_constant_speed(self) -> None:
        for hz, z in ((0.9, 0.7), (2.0, 0.4)):
            got = grounded_damper(column(3.0 * TIMES), hz, z, GRID)[-50:, 0]
            np.testing.assert_allclose(TIMES[-50:] - got / 3.0, 2 * z / (2 * np.pi * hz), rtol=1e-3)

    def test_it_sets_out_gently(self) -> None:
        got = grounded_damper(column(np.where(TIMES < 1.0, 0.0, 1.0)), 1.0, 0.7, GRID)[:, 0]
        first = np.diff(got)[TIMES[1:] >= 1.0][:3] / STEP
        self.assertLess(np.max(np.abs(first)), 0.25 * np.max(np.abs(np.diff(got))) / STEP)


class Backlash(unittest.TestCase):
    def test_as_one_step_after_another(self) -> None:
        rng = np.random.default_rng(4)
        values = np.cumsum(rng.normal(size=3001))
        slack = 1.5 + np.sin(np.arange(3001) / 200.0)
        wanted = [values[0]]
        for value, each in zip(values[1:], slack[1:], strict=True):
            wanted.append(min(max(wanted[-1], value - each), value + each))
        np.testing.assert_allclose(backlash(values, slack), wanted, atol=1e-12)

    def test_within_the_slack_nothing_moves_and_without_slack_all_does(self) -> None:
        values = np.sin(TIMES)
        np.testing.assert_array_equal(backlash(values, np.full(len(values), 1.0)), 0.0)
        np.testing.assert_array_equal(backlash(values, np.zeros(len(values))), values)

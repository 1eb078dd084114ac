import unittest

import numpy as np

from zittern.core.motion.follow import carried, led, played

STEP = 1.0 / 120.0
TIMES = np.arange(0.0, 10.0, STEP)


def column(values: np.ndarray) -> np.ndarray:
    return np.asarray(values)[:, None]


class Carried(unittest.TestCase):
    def test_no_lag_at_constant_speed(self) -> None:
        got = carried(column(3.0 * TIMES), 1.5, 0.6, STEP)
        np.testing.assert_allclose(got[-100:, 0], 3.0 * TIMES[-100:], atol=1e-9)

    def test_a_lag_of_a_over_w_squared_under_acceleration(self) -> None:
        got = carried(column(0.5 * 2.0 * TIMES**2), 1.5, 0.6, STEP)
        np.testing.assert_allclose(TIMES[-50:] ** 2 - got[-50:, 0], 2.0 / (2 * np.pi * 1.5) ** 2, rtol=1e-3)

    def test_a_step_answers_as_the_closed_form(self) -> None:
        # x(t) = 1 - exp(-zwt) (cos(wd t) - z w / wd sin(wd t)) for a carried damper; the step rises within one grid step.
        hz, z = 1.0, 0.2
        w, wd = 2 * np.pi * hz, 2 * np.pi * hz * np.sqrt(1 - z * z)
        got = carried(column(np.where(TIMES < 1.0, 0.0, 1.0)), hz, z, STEP)[:, 0]
        t = TIMES[TIMES >= 1.0] - 1.0 + STEP / 2
        np.testing.assert_allclose(got[TIMES >= 1.0], 1 - np.exp(-z * w * t) * (np.cos(wd * t) - z * w / wd * np.sin(wd * t)), atol=4e-3)

    def test_transmissibility(self) -> None:
        # Within two hundredths: straight lines between grid points cut the crests of what is fast.
        for hz, z in ((1.2, 0.15), (2.0, 0.5), (0.8, 1.5)):
            for r in (0.2, 0.7, 1.0, np.sqrt(2.0), 2.5, 4.0):
                t = np.arange(0.0, 60.0, STEP)
                got = carried(column(np.sin(2 * np.pi * hz * r * t)), hz, z, STEP)[len(t) // 2 :, 0]
                wanted = np.sqrt((1 + (2 * z * r) ** 2) / ((1 - r * r) ** 2 + (2 * z * r) ** 2))
                self.assertAlmostEqual(np.max(np.abs(got)) / wanted, 1.0, delta=0.02, msg=f"{hz} Hz, {z}, r = {r}")

    def test_what_rests_stays_and_no_frequency_is_too_high(self) -> None:
        np.testing.assert_allclose(carried(np.full((500, 2), 7.0), 0.4, 0.9, STEP), 7.0, atol=1e-9)
        walk = np.cumsum(np.sin(TIMES * 7.0))[:, None] * STEP
        for hz, z in ((0.05, 0.02), (60.0, 0.02), (60.0, 5.0)):
            self.assertTrue(np.all(np.isfinite(carried(walk, hz, z, STEP))))
        np.testing.assert_allclose(led(walk, 10_000.0, 0.7, STEP), walk, atol=1e-3)


class Led(unittest.TestCase):
    def test_a_lag_of_2z_over_w_at_constant_speed(self) -> None:
        for hz, z in ((0.9, 0.7), (2.0, 0.4)):
            got = led(column(3.0 * TIMES), hz, z, STEP)[-50:, 0]
            np.testing.assert_allclose(TIMES[-50:] - got / 3.0, 2 * z / (2 * np.pi * hz), rtol=1e-3)

    def test_it_sets_out_gently(self) -> None:
        got = led(column(np.where(TIMES < 1.0, 0.0, 1.0)), 1.0, 0.7, STEP)[:, 0]
        first = np.diff(got)[TIMES[1:] >= 1.0][:3] / STEP
        self.assertLess(np.max(np.abs(first)), 0.25 * np.max(np.abs(np.diff(got))) / STEP)


class Played(unittest.TestCase):
    def test_as_one_step_after_another(self) -> None:
        rng = np.random.default_rng(4)
        values = np.cumsum(rng.normal(size=3001))
        slack = 1.5 + np.sin(np.arange(3001) / 200.0)
        wanted = [values[0]]
        for value, each in zip(values[1:], slack[1:], strict=True):
            wanted.append(min(max(wanted[-1], value - each), value + each))
        np.testing.assert_allclose(played(values, slack), wanted, atol=1e-12)

    def test_within_the_slack_nothing_moves_and_without_slack_all_does(self) -> None:
        values = np.sin(TIMES)
        np.testing.assert_array_equal(played(values, np.full(len(values), 1.0)), 0.0)
        np.testing.assert_array_equal(played(values, np.zeros(len(values))), values)

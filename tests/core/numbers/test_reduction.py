import unittest

import numpy as np
from scipy.interpolate import BPoly

from zittern.core.numbers.curves import Curve
from zittern.core.numbers.reduction import Spline, fit, fitted_keys

AT = np.arange(0.0, 200.25, 0.25)
WHOLE = np.round(AT) == AT


def independent(spline: Spline, at: np.ndarray) -> np.ndarray:
    """The same curve in Bernstein form, by scipy."""
    third = np.diff(spline.at)[:, None] / 3.0
    inner = spline.values[:-1] + third * spline.slope_out[:-1], spline.values[1:] - third * spline.slope_in[1:]
    return np.asarray(BPoly(np.stack([spline.values[:-1], *inner, spline.values[1:]]), spline.at)(at))


def noise(seed: int, columns: int = 3) -> np.ndarray:
    random = np.random.default_rng(seed)
    waves = (np.sin(AT[:, None] * random.uniform(0.01, 0.8, columns) + random.uniform(0, 6, columns)) for _ in range(5))
    return np.asarray(sum(waves))


class Fit(unittest.TestCase):
    def test_every_sample_is_within_the_tolerance(self) -> None:
        for seed in range(12):
            values, tolerance = noise(seed), 10.0 ** np.random.default_rng(seed).uniform(-3, -1)
            spline = fit(AT, values, np.full(len(AT), 1.0 / tolerance), WHOLE)
            off = np.linalg.norm(independent(spline, AT) - values, axis=1)
            self.assertLessEqual(off.max(), tolerance * (1.0 + 1e-9), seed)
            self.assertGreater(off.max(), 0.3 * tolerance, seed)
            np.testing.assert_allclose(spline.sample(AT), independent(spline, AT), atol=1e-9)
            self.assertLess(len(spline.at), WHOLE.sum())

    def test_a_larger_tolerance_takes_fewer_keys(self) -> None:
        values = noise(3)
        counts = [len(fit(AT, values, np.full(len(AT), 1.0 / each), WHOLE).at) for each in (1e-4, 1e-3, 1e-2, 1e-1)]
        self.assertEqual(counts, sorted(counts, reverse=True))
        self.assertGreater(counts[0], 2 * counts[-1])

    def test_cubics_need_only_their_own_keys(self) -> None:
        first = (AT - 20.0) ** 3 / 1000.0 + AT
        second = 57.0**3 / 1000.0 + 77.0 + (AT - 77.0) ** 2 / 9.0
        values = np.where(AT < 77.0, first, second)
        spline = fit(AT, values[:, None], np.full(len(AT), 1e6), WHOLE)
        self.assertEqual(list(spline.at), [0.0, 77.0, 200.0])

    def test_keys_lie_on_preferred_samples_unless_those_are_not_enough(self) -> None:
        values = noise(5)
        values[300:310] += np.where(np.arange(10)[:, None] % 2, 1.0, -1.0)
        spline = fit(AT, values, np.full(len(AT), 100.0), WHOLE)
        between = spline.at[spline.at != np.round(spline.at)]
        self.assertTrue(len(between))
        self.assertTrue(np.all((between > 74.0) & (between < 78.0)))

    def test_a_jump_stays_a_jump(self) -> None:
        values = np.where(AT < 50.0, 0.0, 5.0)[:, None]
        spline = fit(AT, values, np.full(len(AT), 1e3), WHOLE)
        self.assertEqual(list(spline.at), [0.0, 49.75, 50.0, 200.0])
        np.testing.assert_array_equal(spline.values[:, 0], [0.0, 0.0, 5.0, 5.0])

    def test_weights_vary_along_the_samples(self) -> None:
        values, weight = noise(9), np.where(AT < 100.0, 1e3, 1.0)
        spline = fit(AT, values, weight, WHOLE)
        self.assertGreater(np.sum(spline.at < 100.0), 4 * np.sum(spline.at > 100.0))

    def test_one_and_two_samples(self) -> None:
        one = fit(AT[:1], np.ones((1, 2)), np.ones(1), WHOLE[:1])
        np.testing.assert_array_equal(one.sample(np.array([-1.0, 0.0, 3.0])), np.ones((3, 2)))
        two = fit(AT[:2], np.array([[0.0], [1.0]]), np.ones(2), WHOLE[:2])
        np.testing.assert_allclose(two.sample(np.array([0.125])), [[0.5]])

    def test_keys_with_handles_follow_the_same_curve(self) -> None:
        values = noise(4, 1)[:, 0]
        keys = fitted_keys(AT, values, 0.01)
        sampled = Curve(keys=keys).sample(AT)
        self.assertLessEqual(np.max(np.abs(sampled - values)), 0.01 + 1e-9)
        self.assertLess(len(keys), len(AT) / 10)
        self.assertEqual((keys[0].handle_in, keys[-1].handle_out), (None, None))

import unittest

import numpy as np

from zittern.core.sources import bands

SEEDS = np.array([1, 2, 3], dtype=np.uint64)


class Sines(unittest.TestCase):
    def test_unit_rms_over_whole_cycles(self) -> None:
        t = np.linspace(0, 1, 4000, endpoint=False)
        cycles = t[:, None, None] * np.arange(1.0, 9.0) * np.ones((1, 3, 1))
        values = bands.sines(cycles, np.tile(np.linspace(1, 0.2, 8), (3, 1)), SEEDS)
        np.testing.assert_allclose(np.sqrt(np.mean(values**2, axis=0)), 1.0, atol=1e-9)

    def test_seeds_start_elsewhere(self) -> None:
        values = bands.sines(np.zeros((1, 3, 4)), np.ones((3, 4)), SEEDS)[0]
        self.assertEqual(len(np.unique(np.round(values, 9))), 3)


class Scattered(unittest.TestCase):
    def test_one_in_each_stretch_and_other_ones_for_each_seed(self) -> None:
        places = bands.scattered(10, SEEDS)
        edges = np.linspace(-1, 1, 11)
        self.assertTrue(np.all(places >= edges[:-1]) and np.all(places <= edges[1:]))
        self.assertFalse(np.any(np.isclose(places[0], places[1])))


class Loops(unittest.TestCase):
    def test_totals_become_whole_and_at_least_one(self) -> None:
        totals = np.array([[0.2, 1.4, 7.6, 0.0]])
        np.testing.assert_allclose(totals * bands.whole_cycles(totals), [[1, 1, 8, 0]])

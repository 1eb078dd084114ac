import unittest

import numpy as np

from zittern.core.shot.pad import FEWEST_CORNERS, MOST_CORNERS, corners, powers, shares

COUNTS = range(FEWEST_CORNERS, MOST_CORNERS + 1)
PLACES = np.random.default_rng(1).uniform(-0.4, 1.4, (3000, 2))


def inside(count: int, places: np.ndarray) -> np.ndarray:
    at = corners(count)
    edges = np.roll(at, -1, axis=0) - at
    away = places[:, None] - at
    return np.all(edges[:, 0] * away[..., 1] - edges[:, 1] * away[..., 0] > 1e-9, axis=1)


class Shares(unittest.TestCase):
    def test_one_at_its_corner_and_nothing_at_the_others(self) -> None:
        for count in COUNTS:
            np.testing.assert_allclose(shares(count, corners(count)), np.eye(count), atol=1e-12)

    def test_never_negative_and_one_together_wherever_the_place_is(self) -> None:
        for count in COUNTS:
            found = shares(count, PLACES)
            self.assertGreaterEqual(found.min(), 0.0)
            np.testing.assert_allclose(found.sum(axis=1), 1.0, atol=1e-12)
            np.testing.assert_allclose((powers(found) ** 2).sum(axis=1), 1.0, atol=1e-12)

    def test_inside_the_corners_balance_at_the_place(self) -> None:
        for count in COUNTS[1:]:
            within = PLACES[inside(count, PLACES)]
            np.testing.assert_allclose(shares(count, within) @ corners(count), within, atol=1e-9)

    def test_outside_counts_as_the_nearest_point_of_the_edge(self) -> None:
        np.testing.assert_allclose(shares(4, np.array([[0.3, -5.0], [2.0, 2.0]])), [[0.7, 0.3, 0, 0], [0, 0, 1, 0]])
        np.testing.assert_allclose(shares(2, np.array([[-1.0, 0.2], [7.0, 0.9]])), np.eye(2))
        for count in COUNTS[1:]:
            outside = PLACES[~inside(count, PLACES)]
            self.assertTrue(np.all((shares(count, outside) > 1e-9).sum(axis=1) <= 2))

    def test_a_small_step_changes_little(self) -> None:
        step = 1e-5
        for count in COUNTS:
            for way in np.eye(2):
                moved = np.abs(powers(shares(count, PLACES + step * way)) - powers(shares(count, PLACES)))
                self.assertLess(moved.max() / step, 8.0, count)

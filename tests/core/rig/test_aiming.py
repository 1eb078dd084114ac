import unittest

import numpy as np

from zittern.core.rig import rotations
from zittern.core.rig.aiming import pan_tilt_deg

RNG = np.random.default_rng(5)
AWAY = RNG.normal(size=(300, 3)) * 6.0
BEHIND = RNG.normal(size=(300, 3)) * 0.3
RAY = RNG.normal(size=(300, 3)) * (0.3, 0.2, 0.0) + (0.0, 0.0, -1.0)
RAY /= np.linalg.norm(RAY, axis=1)[:, None]
ROLL = RNG.uniform(-30.0, 30.0, size=300)


def seen(away: np.ndarray, behind: np.ndarray, pan_tilt: np.ndarray, roll: np.ndarray) -> np.ndarray:
    """Direction in which a lens so turned sees the point."""
    turn = rotations.matrices(np.column_stack([pan_tilt, roll]))
    ray = np.einsum("fji,fj->fi", turn, away) - behind
    return np.asarray(ray / np.linalg.norm(ray, axis=1)[:, None])


class Aiming(unittest.TestCase):
    def test_the_point_is_seen_where_it_should(self) -> None:
        away = AWAY[np.abs(AWAY[:, 1]) < 0.6 * np.linalg.norm(AWAY, axis=1)]
        n = len(away)
        got = pan_tilt_deg(away, BEHIND[:n], RAY[:n], ROLL[:n])
        np.testing.assert_allclose(seen(away, BEHIND[:n], got, ROLL[:n]), RAY[:n], atol=1e-9)
        self.assertGreater(n, 100)

    def test_out_of_reach_it_is_as_near_as_can_be(self) -> None:
        up = np.array([[0.0, 5.0, -1e-9]])
        aside = np.array([[0.6, 0.0, -0.8]])
        got = pan_tilt_deg(up, np.zeros((1, 3)), aside, np.zeros(1))
        self.assertTrue(np.all(np.isfinite(got)))
        self.assertAlmostEqual(got[0, 1], 90.0, places=3)

    def test_no_direction_at_the_turning_point(self) -> None:
        self.assertTrue(np.all(np.isnan(pan_tilt_deg(np.zeros((1, 3)), BEHIND[:1], RAY[:1], ROLL[:1]))))

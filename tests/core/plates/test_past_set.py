import unittest

import numpy as np

from tests.core.checks.test_set_pieces import ground, wall
from tests.core.making import shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed
from zittern.core.plates.past_set import bare_strips
from zittern.core.plates.set_pieces import Piece, SetPieces
from zittern.core.shot.mounts import Mount

TILT_DEG, HIGH_M, FAR_M = -12.0, 3.0, 20.0
F_PX = 35.0 / 36.0 * 1920


def strips(*pieces: Piece, **angles: float) -> np.ndarray:
    """Of a camera over the origin that looks along -Z, down a little."""
    given = {"tilt_deg": TILT_DEG, **angles}
    camera = Mount(
        id="camera", name="Camera", y_m=fixed(HIGH_M), **{name: fixed(value) for name, value in given.items()}
    )
    shot = shot_with(mounts=(camera,), subject=None, set_id="a-set")
    return bare_strips(shot, SetPieces(pieces), evaluate(shot, np.array([1.0])).pose, 1.0)


def from_top(below_deg: float) -> float:
    """Where a direction so far below the horizon is in the middle of the picture, as a share from its top."""
    return 0.5 + F_PX * np.tan(np.radians(below_deg + TILT_DEG)) / 1080.0


class Strips(unittest.TestCase):
    def test_from_below_the_horizon_to_where_the_ground_ends(self) -> None:
        found = strips(ground(FAR_M))
        self.assertEqual(len(found), 64)
        np.testing.assert_allclose(found[:, [0, 2]], np.stack([np.arange(64), np.arange(1, 65)], axis=1) / 64)
        end_deg = np.degrees(np.arctan(HIGH_M / FAR_M))
        np.testing.assert_allclose(found[31, [1, 3]], [from_top(2.0), from_top(end_deg)], atol=1e-3)

    def test_what_stands_before_the_edge_fills_the_picture_there(self) -> None:
        found = strips(ground(FAR_M), wall(-19.0, half_m=2.0))
        # The wall's foot is two metres to each side, nineteen away.
        half = 2.0 / 19.0 * F_PX / 1920 / np.cos(np.radians(TILT_DEG))
        middle = (found[:, 0] + found[:, 2]) / 2
        self.assertTrue(np.all(np.abs(middle - 0.5) > half - 1 / 64))
        self.assertAlmostEqual(
            float(np.ptp(middle[[np.argmin(middle < 0.5) - 1, np.argmin(middle < 0.5)]])), 2 * half, delta=2 / 64
        )

    def test_down_to_the_lower_edge_and_nothing_on_wide_ground(self) -> None:
        behind = strips(ground(FAR_M), tilt_deg=-3.0, z_m=-FAR_M - 1.0)
        np.testing.assert_allclose(behind[:, 3], 1.0)
        self.assertEqual(strips(ground(300.0)).shape, (0, 4))
        self.assertEqual(strips(tilt_deg=60.0).shape, (0, 4))

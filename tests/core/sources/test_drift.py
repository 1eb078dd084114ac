import unittest

import numpy as np

from tests.core.making import rms
from tests.core.sources.making import SWINGS, meets, share, values
from zittern.core.sources.drift import Drift


class Drifting(unittest.TestCase):
    def test_lies_where_standing_bodies_sway(self) -> None:
        self.assertGreater(share(Drift(), 0.04, 0.55, 1200), 0.98)

    def test_swing_is_twice_the_rms(self) -> None:
        np.testing.assert_allclose(2 * rms(values(Drift(rate_hz=1.0), 600)), SWINGS, rtol=0.1)

    def test_axes_and_seeds_are_unrelated(self) -> None:
        moved = np.concatenate([values(Drift(rate_hz=2.0), 1500, seed=s) for s in (1, 2)], axis=1)
        self.assertLess(np.abs(np.corrcoef(moved.T) - np.eye(2 * len(SWINGS))).max(), 0.15)

    def test_loops(self) -> None:
        meets(Drift(loop=True))

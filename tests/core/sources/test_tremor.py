import unittest

import numpy as np

from tests.core.making import rms
from tests.core.sources.making import FPS, SWINGS, meets, share, values
from zittern.core.sources.tremor import Tremor


class Trembling(unittest.TestCase):
    def test_lies_where_muscles_shake(self) -> None:
        self.assertGreater(share(Tremor(), 7.5, 11.5, 120), 0.98)
        self.assertGreater(share(Tremor(centre_hz=4.0, width_hz=0.5), 3.3, 4.7, 120), 0.98)

    def test_swing_is_twice_the_rms(self) -> None:
        np.testing.assert_allclose(2 * rms(values(Tremor(), 120)), SWINGS, rtol=0.1)

    def test_axes_and_seeds_are_unrelated(self) -> None:
        moved = np.concatenate([values(Tremor(), 1500, seed=s) for s in (1, 2)], axis=1)
        self.assertLess(np.abs(np.corrcoef(moved.T) - np.eye(2 * len(SWINGS))).max(), 0.15)

    def test_swells_and_fades(self) -> None:
        loud = np.abs(values(Tremor(), 60)[:, 0]).reshape(-1, FPS).max(axis=1)
        self.assertGreater(loud.max() / loud.min(), 1.8)

    def test_loops(self) -> None:
        meets(Tremor(loop=True))

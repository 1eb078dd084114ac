import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.readings.scribble import scribble
from zittern.store.scribbles import packed_scribble


class Scribbles(unittest.TestCase):
    def test_bytes_are_the_points_sized_to_fill(self) -> None:
        shot = shot_with(layer())
        points = scribble(shot)
        drawn = np.frombuffer(packed_scribble(shot), np.int8).reshape(-1, 2).astype(float)
        self.assertEqual(np.abs(drawn).max(), 127)
        np.testing.assert_allclose(drawn / 127, points / np.abs(points).max(), atol=0.5 / 127 + 1e-9)

    def test_nothing_shakes(self) -> None:
        self.assertEqual(set(packed_scribble(shot_with(last_frame=5))), {0})

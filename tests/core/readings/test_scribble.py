import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.readings.scribble import scribble


class Points(unittest.TestCase):
    def test_a_short_shot_is_drawn_frame_by_frame(self) -> None:
        shot = shot_with(layer(), last_frame=100)
        np.testing.assert_allclose(scribble(shot), evaluate(shot).total[:, :2], atol=1e-12)

    def test_a_long_one_by_its_middle_and_never_coarser_than_its_motion(self) -> None:
        for last in (1, 360, 700, 5_000, 1_000_000):
            points = scribble(shot_with(layer(), last_frame=last))
            self.assertEqual(points.shape, (min(last, 360), 2))
        middle = evaluate(shot_with(layer(), last_frame=1_000_000), np.array([500_000.5 - 1.5]))
        np.testing.assert_allclose(points[179], middle.total[0, :2], atol=1e-9)

import unittest

import numpy as np

from zittern.core.movie.exposure import draws_of, frames_at
from zittern.core.movie.settings import MovieSettings


class Exposure(unittest.TestCase):
    def test_one_drawing_is_at_the_frame_itself(self) -> None:
        for settings in (MovieSettings(), MovieSettings(shutter_deg=0.0, subframes=64)):
            (draw,) = draws_of(settings, 24.0)
            self.assertEqual((draw.offset_frames, draw.top, draw.bottom, draw.weight), (0.0, 0.0, 1.0, 1.0))

    def test_sub_frames_are_the_middles_of_equal_parts_of_the_time_the_shutter_is_open(self) -> None:
        for shutter, count in ((180.0, 4), (360.0, 7), (90.0, 64)):
            draws = draws_of(MovieSettings(shutter_deg=shutter, subframes=count), 24.0)
            offsets = np.array([each.offset_frames for each in draws])
            part = shutter / 360.0 / count
            np.testing.assert_allclose(np.diff(offsets), part, atol=1e-12)
            self.assertAlmostEqual(offsets[0], -shutter / 720.0 + part / 2)
            self.assertAlmostEqual(float(offsets.mean()), 0.0)
            self.assertAlmostEqual(sum(each.weight for each in draws), 1.0)

    def test_a_rolling_shutter_reads_each_strip_at_its_own_time_and_the_middle_at_the_frames(self) -> None:
        draws = draws_of(MovieSettings(subframes=3, readout_ms=20.0, strips=5), 25.0)
        tops = (0.0, 0.2, 0.4, 0.6, 0.8)
        strips = np.array([[each.offset_frames for each in draws if each.top == top] for top in tops])
        self.assertEqual(strips.shape, (5, 3))
        np.testing.assert_allclose(np.diff(strips.mean(axis=1)), 0.020 * 25.0 / 5, atol=1e-12)
        self.assertAlmostEqual(float(strips[2].mean()), 0.0)
        for top in tops:
            self.assertAlmostEqual(sum(each.weight for each in draws if each.top == top), 1.0)
        edges = sorted({(each.top, each.bottom) for each in draws})
        self.assertEqual((edges[0][0], edges[-1][1]), (0.0, 1.0))

    def test_when_each_drawing_is(self) -> None:
        draws = draws_of(MovieSettings(subframes=2, shutter_deg=360.0), 24.0)
        np.testing.assert_allclose(frames_at(draws, np.array([5.0, 6.0])), [[4.75, 5.25], [5.75, 6.25]])

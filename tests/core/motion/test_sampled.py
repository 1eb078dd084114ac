import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.sampled import CLOSE_FRAMES, MOST_WHOLE_FRAMES, sample, stretches
from zittern.core.sources.wave import Wave

LONG = shot_with(layer(), first_frame=1001, last_frame=121_000)


class Usual(unittest.TestCase):
    def test_a_shot_of_usual_length_comes_whole(self) -> None:
        shot = shot_with(layer(), last_frame=MOST_WHOLE_FRAMES)
        got = sample(shot, 5.0, None, Cache())
        self.assertIsNone(got.order)
        self.assertEqual((got.exact, len(got.frames)), (((1, MOST_WHOLE_FRAMES),), MOST_WHOLE_FRAMES))
        self.assertEqual([len(motion.frames) for motion in stretches(shot, Cache())], [MOST_WHOLE_FRAMES])


class Long(unittest.TestCase):
    def test_rows_belong_to_their_frames(self) -> None:
        got = sample(LONG, 60_000.0, (30_000, 31_000), Cache())
        assert got.order is not None
        self.assertTrue(np.all(np.diff(got.frames) > 0))
        self.assertTrue(np.array_equal(got.frames, np.floor(got.frames)))
        total = np.concatenate([motion.total for motion in got.pieces])[got.order]
        some = np.arange(0, len(got.frames), 211)
        np.testing.assert_allclose(total[some], evaluate(LONG, got.frames[some]).total, atol=1e-9)

    def test_where_it_is_looked_at_every_frame_is_there(self) -> None:
        for frame, window in (
            (60_000.4, (30_000, 31_000)),
            (1001.0, None),
            (121_000.0, (119_000, 125_000)),
            (-5e6, (1001, 1001 + CLOSE_FRAMES - 1)),
        ):
            got = sample(LONG, frame, window, Cache())
            here = int(min(max(frame, 1001), 121_000))
            wanted = [(here, here), *([(max(window[0], 1001), min(window[1], 121_000))] if window else [])]
            for first, last in wanted:
                self.assertTrue(any(a <= first and last <= b for a, b in got.exact), (frame, window, got.exact))
                self.assertTrue(np.isin(np.arange(first, last + 1), got.frames).all())
            for first, last in got.exact:
                self.assertTrue(np.isin(np.arange(first, last + 1), got.frames).all())
            self.assertTrue(got.near.frames[0] <= here <= got.near.frames[-1])

    def test_a_wide_window_is_not_looked_at_closely(self) -> None:
        self.assertLess(len(sample(LONG, 1001.0, (1001, 1001 + CLOSE_FRAMES), Cache()).frames), 14_000)

    def test_thinning_meets_no_beat(self) -> None:
        wave = shot_with(layer(source=Wave(rate_hz=24.0 / 15.0), swings={"pan": 1.0}), last_frame=15 * 8192)
        whole = sample(wave, 1.0, None, Cache()).whole
        self.assertAlmostEqual(float(np.std(whole.total[:, 0])), 0.5, delta=0.02)

    def test_what_was_worked_out_is_met_again(self) -> None:
        cache = Cache()
        first = sample(LONG, 60_000.0, None, cache)
        again = sample(LONG, 60_010.0, None, cache)
        for one, other in zip(first.pieces, again.pieces, strict=True):
            self.assertIs(one.layers["sway"], other.layers["sway"])

    def test_stretches_are_neighbouring_frames_from_end_to_end(self) -> None:
        found = stretches(LONG, Cache())
        self.assertTrue(all(np.all(np.diff(motion.frames) == 1) for motion in found))
        self.assertEqual((found[0].frames[0], found[-1].frames[-1]), (1001, 121_000))

import unittest

import numpy as np

from tests.core.making import command, edited, shot_with
from zittern.core.edits.recording import TOLERANCE_SHARE, thinned
from zittern.core.errors import EditError

SHOT = edited(shot_with(), {"type": "add_dial", "name": "panic"})
AT = "dial:panic.value"


def record(frames: np.ndarray, values: np.ndarray) -> dict[str, object]:
    return {"type": "record_keys", "at": AT, "samples": [{"frame": f, "value": v} for f, v in zip(frames.tolist(), values.tolist(), strict=True)]}


class Thinning(unittest.TestCase):
    def test_every_sample_is_within_the_tolerance(self) -> None:
        frames = np.arange(1.0, 200.0)
        for values in (50 + 40 * np.sin(frames / 15), np.abs(frames - 80), np.random.default_rng(1).normal(size=199)):
            for tolerance in (0.0, 0.5, 5.0):
                keep = thinned(frames, values, tolerance)
                line = np.interp(frames, frames[keep], values[keep])
                self.assertLessEqual(np.abs(line - values).max(), tolerance + 1e-12)
                self.assertTrue(keep[0] and keep[-1])

    def test_straight_stretches_need_their_ends_alone(self) -> None:
        frames = np.arange(1.0, 101.0)
        self.assertEqual(int(thinned(frames, 3 * frames, 1e-9).sum()), 2)
        self.assertEqual(np.flatnonzero(thinned(frames, np.abs(frames - 40), 1e-9)).tolist(), [0, 39, 99])


class Recording(unittest.TestCase):
    def test_the_curve_goes_where_the_hand_went(self) -> None:
        frames = np.arange(20.0, 120.0)
        values = 50 + 40 * np.sin((frames - 20) / 20)
        dial = edited(SHOT, record(frames, values)).dials[0]
        sampled = dial.sample(SHOT.scope(frames))
        self.assertLessEqual(np.abs(sampled - values).max(), TOLERANCE_SHARE * np.ptp(values) + 1e-9)
        self.assertLess(len(dial.value.curve.keys), 30)

    def test_keys_outside_of_the_stretch_stay(self) -> None:
        keys = {"type": "set_keys", "keys": [{"at": AT, "frame": f, "value": v} for f, v in ((1, 10), (50, 90), (200, 20))]}
        after = edited(SHOT, keys, record(np.array([40.0, 60.0]), np.array([5.0, 6.0])))
        self.assertEqual([(key.frame, key.value) for key in after.dials[0].value.curve.keys], [(1, 10), (40, 5), (60, 6), (200, 20)])

    def test_the_last_time_round_counts(self) -> None:
        twice = record(np.array([5.0, 6.0, 5.0]), np.array([1.0, 2.0, 3.0]))
        self.assertEqual([key.value for key in edited(SHOT, twice).dials[0].value.curve.keys], [3.0, 2.0])
        self.assertEqual(command(**twice).label(SHOT), "Record value in “panic” from frame 5 to 6")

    def test_out_of_range_is_refused(self) -> None:
        with self.assertRaisesRegex(EditError, "expected 0 to 100"):
            edited(SHOT, record(np.array([1.0]), np.array([101.0])))

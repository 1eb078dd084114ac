import unittest

import numpy as np

from tests.core.making import command, edited, layer, shot_with
from zittern.core.edits.recording import TOLERANCE_SHARE, thinned
from zittern.core.errors import EditError
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.shot import Shot

SHOT = edited(shot_with(), {"type": "add_dial", "name": "panic"})
AT = "dial:panic.value"


def record(frames: np.ndarray, values: np.ndarray) -> dict[str, object]:
    return {
        "type": "record_keys",
        "at": AT,
        "samples": [{"frame": f, "value": v} for f, v in zip(frames.tolist(), values.tolist(), strict=True)],
    }


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
        keys = {
            "type": "set_keys",
            "keys": [{"at": AT, "frame": f, "value": v} for f, v in ((1, 10), (50, 90), (200, 20))],
        }
        after = edited(SHOT, keys, record(np.array([40.0, 60.0]), np.array([5.0, 6.0])))
        self.assertEqual(
            [(key.frame, key.value) for key in after.dials[0].value.curve.keys], [(1, 10), (40, 5), (60, 6), (200, 20)]
        )

    def test_the_last_time_round_counts(self) -> None:
        twice = record(np.array([5.0, 6.0, 5.0]), np.array([1.0, 2.0, 3.0]))
        self.assertEqual([key.value for key in edited(SHOT, twice).dials[0].value.curve.keys], [3.0, 2.0])
        self.assertEqual(command(**twice).label(SHOT), "Record value in “panic” from frame 5 to 6")

    def test_out_of_range_is_refused(self) -> None:
        with self.assertRaisesRegex(EditError, "expected 0 to 100"):
            edited(SHOT, record(np.array([1.0]), np.array([101.0])))


class Drawing(unittest.TestCase):
    def draw(self, shot: Shot, at: str, frames: np.ndarray, values: np.ndarray) -> Shot:
        samples = [{"frame": f, "value": v} for f, v in zip(frames.tolist(), values.tolist(), strict=True)]
        return edited(shot, {"type": "draw_keys", "at": at, "samples": samples})

    def test_a_hull_follows_the_hand_with_few_keys_and_stays_outside(self) -> None:
        shot = shot_with(layer(weight=fixed(0.8)))
        frames = np.arange(60.0, 121.0)
        values = 0.4 + 0.3 * np.sin(frames / 9) + 0.004 * np.random.default_rng(1).normal(size=61)
        after = self.draw(shot, "layer:sway.weight", frames, values)
        weight = next(after.layers())[1].weight
        self.assertLess(len(weight.curve.keys), 16)
        self.assertLess(np.abs(weight.sample(shot.scope(frames)) - values).max(), 0.025 * 0.8)
        for frame in (1.0, 59.0, 121.0, 240.0):
            self.assertEqual(weight.at(shot.scope(frame)), 0.8)
        self.assertEqual(
            command(type="draw_keys", at="layer:sway.weight", samples=[{"frame": 1, "value": 1}]).label(shot),
            "Draw weight in “Sway”",
        )

    def test_keys_within_the_stretch_go_and_the_curve_outside_is_as_it_was(self) -> None:
        shot = shot_with(layer(), clip={"amount": keyed((1, 0.0), (100, 1.0), (240, 0.5)), "span_frames": (1.0, 200.0)})
        after = self.draw(shot, "clip:main.amount", np.array([90.0, 110.0]), np.array([0.2, 0.2]))
        keys = next(after.clips()).amount.curve.keys
        self.assertEqual([key.frame for key in keys], [1.0, 89.0, 90.0, 110.0, 111.0, 240.0])
        before = next(shot.clips()).amount
        for frame in (89.0, 111.0):
            self.assertAlmostEqual(
                next(after.clips()).amount.at(shot.scope(frame)), before.at(shot.scope(frame)), places=9
            )

    def test_at_the_edge_of_the_shot_and_what_cannot_be(self) -> None:
        shot = shot_with(layer())
        after = self.draw(shot, "layer:sway.weight", np.array([1.0, 240.0]), np.array([0.0, 1.0]))
        self.assertEqual([key.frame for key in next(after.layers())[1].weight.curve.keys], [1.0, 240.0])
        for at, value, pattern in (
            ("layer:sway.weight", 11.0, "expected 0 to 10"),
            ("layer:sway.name", 1.0, "only a number"),
            ("layer:gone.weight", 1.0, "no layer"),
        ):
            with self.assertRaisesRegex(EditError, pattern):
                self.draw(shot, at, np.array([5.0]), np.array([value]))

import unittest

import numpy as np

from tests.core.making import command, edited, layer, shot_with
from zittern.core.edits.parts import find_clip, find_layer
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.noise import Noise

PLACED = shot_with(
    layer(speed=keyed((30, 0.5), (90, 2.0))),
    clip={"span_frames": (21.0, 140.0), "ramp_in_frames": 10.0, "ramp_out_frames": 20.0},
)


def stretches(shot: Shot) -> list[list[tuple[str, object]]]:
    return [[(clip.id, clip.span_frames) for clip in lane.clips] for lane in shot.lanes]


class Cutting(unittest.TestCase):
    def test_the_motion_runs_on_through_a_cut(self) -> None:
        cut = edited(PLACED, {"type": "split_clip", "clip": "main", "frame": 80})
        self.assertEqual(stretches(cut), [[("main", (21.0, 79.0)), ("main-1", (80.0, 140.0))]])
        np.testing.assert_allclose(evaluate(cut).total, evaluate(PLACED).total, atol=1e-12)
        again = edited(cut, {"type": "split_clip", "clip": "main-1", "frame": 100})
        np.testing.assert_allclose(evaluate(again).total, evaluate(PLACED).total, atol=1e-12)
        for frame in (21, 20, 140, 141, 500):
            with self.assertRaisesRegex(EditError, "not inside the clip"):
                edited(PLACED, {"type": "split_clip", "clip": "main", "frame": frame})

    def test_between_frames_too_and_loops_and_progress_as_before(self) -> None:
        """Noise that loops over the clip, a weight by u, formulas on t and f: at eight places between each two
        frames.
        """
        looped = layer("loop", Noise(loop=True), seed=4)
        ramped = layer("ramped", weight=by_formula("u", fixed(1.0)))
        timed = layer("timed", weight=by_formula("0.5 + 0.4 * sin(t) + f / 1000", fixed(1.0)))
        frames = np.linspace(30.0, 139.875, 880)
        for clip in ({"span_frames": (21.0, 140.0)}, {}):
            shot = shot_with(looped, ramped, timed, clip=clip)
            before = evaluate(shot, frames).total
            cut = edited(
                shot,
                {"type": "split_clip", "clip": "main", "frame": 80},
                {"type": "split_clip", "clip": "main", "frame": 47},
            )
            np.testing.assert_allclose(evaluate(cut, frames).total, before, atol=1e-12)
            trimmed = edited(shot, {"type": "set_span", "at": ["clip:main"], "last_frame": 100})
            within = frames < 101.0
            np.testing.assert_allclose(evaluate(trimmed, frames).total[within], before[within], atol=1e-12)
            self.assertFalse(np.any(evaluate(trimmed, frames).total[~within]))

    def test_moved_or_repeated_formulas_on_time_come_along(self) -> None:
        timed = layer("timed", HandKeys(tracks=Tracks(pan=by_formula("sin(t) + f / 100 + u", fixed(0.0)))), swings={})
        shot = shot_with(timed, clip={"span_frames": (21.0, 60.0)})
        there = evaluate(shot, np.linspace(21.0, 60.9, 300)).total
        later = np.linspace(21.0, 60.9, 300) + 40.0
        for moving in (
            {"type": "move_clip", "clip": "main", "by_frames": 40},
            {"type": "set_span", "at": ["clip:main"], "by_frames": 40},
            {"type": "duplicate_clip", "clip": "main"},
        ):
            np.testing.assert_allclose(
                evaluate(edited(shot, moving), later).total, there, atol=1e-9, err_msg=str(moving)
            )
        text = next(
            layer for _, layer in edited(shot, {"type": "move_clip", "clip": "main", "by_frames": 40}).layers()
        ).source.tracks.pan.text
        self.assertEqual(text, "sin(t) + f / 100 + u")

    def test_a_bar_takes_all_keys_inside_along_by_either_command_an_end_none(self) -> None:
        keyed_all = layer("all", weight=keyed((30, 0.0), (50, 1.0)), span_frames=(25.0, 55.0))
        shot = shot_with(keyed_all, clip={"span_frames": (21.0, 60.0), "amount": keyed((21, 1.0), (60, 0.4))})
        one, other = (
            edited(shot, moving)
            for moving in (
                {"type": "move_clip", "clip": "main", "by_frames": 12},
                {"type": "set_span", "at": ["clip:main"], "by_frames": 12},
            )
        )
        self.assertEqual(one, other)
        self.assertEqual(find_layer(one, "all")[1].weight.breaks.tolist(), [42.0, 62.0])
        self.assertEqual(find_layer(one, "all")[1].span_frames, (37.0, 67.0))
        trimmed = edited(shot, {"type": "set_span", "at": ["clip:main"], "first_frame": 26})
        self.assertEqual(find_layer(trimmed, "all")[1].weight.breaks.tolist(), [30.0, 50.0])

    def test_the_bar_of_a_keys_layer_takes_its_keys_along(self) -> None:
        keys = layer(
            "keys", HandKeys(tracks=Tracks(pan=keyed((30, 0.0), (50, 2.0)))), swings={}, span_frames=(25.0, 55.0)
        )
        moved = edited(shot_with(keys), {"type": "set_span", "at": ["layer:keys"], "by_frames": 10})
        self.assertEqual(find_layer(moved, "keys")[1].source.tracks.pan.breaks.tolist(), [40.0, 60.0])

    def test_on_a_new_lane_alone_on_its_lane_it_keeps_name_and_fade(self) -> None:
        lane = Lane(
            id="mine", name="Mine", clips=(Clip(id="main", name="Clip", span_frames=(21.0, 60.0)),), fade="linear"
        )
        moved = edited(
            shot_with(lanes=(lane,)), {"type": "move_clip", "clip": "main", "by_frames": 5, "new_lane": True}
        )
        self.assertEqual([(each.id, each.name, each.fade) for each in moved.lanes], [("mine", "Mine", "linear")])

    def test_trimmed_it_keeps_its_motion_moved_it_takes_it_along(self) -> None:
        bare = shot_with(layer(), clip={"span_frames": (21.0, 140.0)})
        trimmed = edited(bare, {"type": "set_span", "at": ["clip:main"], "first_frame": 60})
        whole, part = evaluate(bare).total, evaluate(trimmed).total
        np.testing.assert_allclose(part[59:140], whole[59:140], atol=1e-12)
        self.assertTrue(np.all(part[:59] == 0))
        moved = edited(trimmed, {"type": "set_span", "at": ["clip:main"], "by_frames": 30})
        np.testing.assert_allclose(evaluate(moved).total[89:170], part[59:140], atol=1e-12)
        self.assertIsNone(
            find_clip(edited(moved, {"type": "set_span", "at": ["clip:main"], "whole": True}), "main").clock
        )


class Placing(unittest.TestCase):
    def test_added_on_a_lane_of_its_own_or_a_given_one(self) -> None:
        shot = edited(PLACED, {"type": "add_clip", "name": "Panic", "first_frame": 100, "last_frame": 150})
        self.assertEqual(stretches(shot), [[("main", (21.0, 140.0))], [("clip-1", (100.0, 150.0))]])
        beside = edited(shot, {"type": "add_clip", "first_frame": 160, "last_frame": 170, "lane": "main"})
        self.assertEqual([name for name, _ in stretches(beside)[0]], ["main", "clip-2"])
        for fields in ({"first_frame": 9, "last_frame": 3}, {"first_frame": 1, "last_frame": 3, "lane": "gone"}):
            with self.assertRaises(EditError):
                edited(PLACED, {"type": "add_clip", **fields})

    def test_moved_with_the_keys_in_it_and_onto_other_lanes(self) -> None:
        moved = edited(PLACED, {"type": "move_clip", "clip": "main", "by_frames": 40})
        np.testing.assert_allclose(evaluate(moved).total[60:180], evaluate(PLACED).total[20:140], atol=1e-9)
        two = edited(PLACED, {"type": "add_clip", "first_frame": 1, "last_frame": 9})
        together = edited(two, {"type": "move_clip", "clip": "main", "lane": "lane-1"})
        self.assertEqual(stretches(together), [[("clip-1", (1.0, 9.0)), ("main", (21.0, 140.0))]])
        apart = edited(together, {"type": "move_clip", "clip": "main", "new_lane": True})
        self.assertEqual(len(apart.lanes), 2)
        np.testing.assert_array_equal(evaluate(apart).total, evaluate(PLACED).total)
        with self.assertRaisesRegex(EditError, "spans the whole shot"):
            edited(shot_with(layer()), {"type": "move_clip", "clip": "main", "by_frames": 3})

    def test_repeated_one_after_another_and_taken_away(self) -> None:
        three = edited(
            shot_with(layer(), clip={"span_frames": (1.0, 40.0)}),
            {"type": "duplicate_clip", "clip": "main", "times": 2},
        )
        self.assertEqual([span for _, span in stretches(three)[0]], [(1.0, 40.0), (41.0, 80.0), (81.0, 120.0)])
        total = evaluate(three).total
        np.testing.assert_allclose(total[40:80], total[:40], atol=1e-12)
        self.assertEqual(len({each.id for _, each in three.layers()}), 3)
        left = edited(three, {"type": "remove_clip", "clip": "main"})
        self.assertEqual(len(left.lanes[0].clips), 2)
        self.assertEqual(edited(PLACED, {"type": "remove_clip", "clip": "main"}).lanes, ())

    def test_labels(self) -> None:
        for fields, label in (
            ({"type": "move_clip", "clip": "main", "by_frames": -3}, "Move clip “Whole shot” by -3 frames"),
            ({"type": "split_clip", "clip": "main", "frame": 50}, "Split clip “Whole shot” at frame 50"),
            ({"type": "duplicate_clip", "clip": "main", "times": 3}, "Repeat clip “Whole shot” 3 times"),
            ({"type": "remove_clip", "clip": "main"}, "Remove clip “Whole shot”"),
        ):
            self.assertEqual(command(**fields).label(PLACED), label)


class Fading(unittest.TestCase):
    PAIR = edited(
        shot_with(layer(), clip={"span_frames": (1.0, 60.0)}),
        {"type": "add_clip", "name": "Later", "first_frame": 49, "last_frame": 120, "lane": "main"},
    )

    def moved(self, by: float) -> list[tuple[str, object]]:
        change = {"type": "move_fade", "earlier": "main", "later": "clip-1", "by_frames": by}
        return stretches(edited(self.PAIR, change))[0]

    def test_both_sides_move_together_as_far_as_there_is_room(self) -> None:
        self.assertEqual(self.moved(10), [("main", (1.0, 70.0)), ("clip-1", (59.0, 120.0))])
        self.assertEqual(self.moved(-20), [("main", (1.0, 40.0)), ("clip-1", (29.0, 120.0))])
        self.assertEqual(self.moved(500), [("main", (1.0, 130.0)), ("clip-1", (119.0, 120.0))])
        self.assertEqual(self.moved(-500), [("main", (1.0, 2.0)), ("clip-1", (-9.0, 120.0))])

    def test_what_is_heard_away_from_the_fade_stays(self) -> None:
        after = edited(self.PAIR, {"type": "move_fade", "earlier": "main", "later": "clip-1", "by_frames": 6})
        frames = np.arange(1.0, 49.0)
        np.testing.assert_allclose(evaluate(after, frames).total, evaluate(self.PAIR, frames).total, atol=1e-12)

    def test_only_neighbours_have_one(self) -> None:
        apart = edited(self.PAIR, {"type": "add_clip", "name": "Other", "first_frame": 1, "last_frame": 9})
        with self.assertRaisesRegex(EditError, "different lanes"):
            edited(apart, {"type": "move_fade", "earlier": "main", "later": "clip-2", "by_frames": 3})
        with self.assertRaisesRegex(EditError, "do not cross-fade"):
            edited(self.PAIR, {"type": "move_fade", "earlier": "clip-1", "later": "main", "by_frames": 3})
        self.assertEqual(
            command(type="move_fade", earlier="main", later="clip-1", by_frames=3).label(self.PAIR),
            "Move cross-fade of “Whole shot” and “Later” by +3 frames",
        )

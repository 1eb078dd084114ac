import unittest
from collections.abc import Iterator
from dataclasses import replace

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.axes import no_offsets
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.clips import Clip
from zittern.core.shot.cues import Cue
from zittern.core.shot.dials import Dial
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import AxisBoard
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.gait import Gait
from zittern.core.sources.noise import Noise
from zittern.core.sources.road import Road
from zittern.core.timing.curves import carried
from zittern.core.timing.time_map import TimeMap

CUT, MORE = 96, 24


def shot(*clips: Clip, **fields: object) -> Shot:
    """A keyed camera in a zooming shot of 240 frames, with clips on one lane."""
    camera = Mount(
        id="camera",
        name="Camera",
        x_m=keyed((1, 0.0), (60, 3.0), (130, -2.0), (240, 5.0)),
        pan_deg=keyed((20, 0.0), (96, 30.0), (200, -10.0)),
        tilt_deg=keyed((1, 0.0), (100, 10.0), interp="linear"),
    )
    lanes = (Lane(id="lane", name="Lane", clips=clips),) if clips else ()
    made = {"mounts": (camera,), "focal_mm": keyed((1, 24.0), (240, 50.0)), "last_frame": 240, "lanes": lanes}
    return shot_with(**made | fields).replace(lanes=lanes)  # type: ignore[arg-type]


def clip(name: str, span: tuple[float, float] | None, *layers: object, **fields: object) -> Clip:
    found = layers or (layer(f"{name}-noise", Noise(), 3),)
    return Clip(id=name, name=name.title(), span_frames=span, layers=found, **fields)  # type: ignore[arg-type]


def inserted(before: Shot, **fields: object) -> Shot:
    return edited(before, {"type": "insert_time", "frame": CUT, "frames": MORE, **fields})


def offsets(motion: Motion) -> np.ndarray:
    return sum(motion.layers.values(), no_offsets(motion.frames))


class Keyed(unittest.TestCase):
    def assert_same(self, before: Shot, after: Shot, old: np.ndarray, new: np.ndarray) -> None:
        one, other = evaluate(before, old), evaluate(after, new)
        np.testing.assert_allclose(other.bare.position_m, one.bare.position_m, atol=1e-9)
        np.testing.assert_allclose(other.bare.angles_deg, one.bare.angles_deg, atol=1e-9)
        np.testing.assert_allclose(other.bare.focal_mm, one.bare.focal_mm, atol=1e-9)

    def test_each_pose_is_at_its_moved_frame_between_frames_too(self) -> None:
        before = shot()
        left, right = np.arange(1.0, CUT, 0.3), np.arange(CUT, 240.0, 0.3)
        for gap in ("hold", "through"):
            after = inserted(before, gap=gap)
            self.assertEqual((after.first_frame, after.last_frame), (1, 264))
            if gap == "hold":
                self.assert_same(before, after, left, left)
                self.assert_same(before, after, right, right + MORE)
            else:
                later = right[right > 130.0]
                one, other = evaluate(before, later), evaluate(after, later + MORE)
                np.testing.assert_allclose(other.bare.position_m, one.bare.position_m, atol=1e-9)
        out = edited(before, {"type": "take_out_time", "first_frame": 96, "last_frame": 119})
        self.assertEqual(out.last_frame, 216)
        self.assert_same(before, out, left[left < CUT - 0.01], left[left < CUT - 0.01])
        self.assert_same(before, out, np.arange(120.0, 240.0), np.arange(96.0, 216.0))
        slow = edited(before, {"type": "stretch_time", "first_frame": 96, "last_frame": 119, "frames": 72})
        within = np.arange(96.0, 120.0, 0.25)
        self.assert_same(before, slow, within, 96.0 + 3.0 * (within - 96.0))
        self.assert_same(before, slow, np.arange(120.0, 241.0), np.arange(168.0, 289.0))

    def test_eased_it_keeps_its_keys_and_what_is_linear_is_exact(self) -> None:
        before = shot()
        after = edited(before, {"type": "ease_time", "first_frame": 60, "last_frame": 179, "ease_in": 0.3})
        warp = TimeMap.eased(60.0, 180.0, 0.3, 0.5)
        outside = np.array([1.0, 30.0, 59.5, 180.0, 200.5, 240.0])
        self.assert_same(before, after, outside, outside)
        old = np.arange(60.0, 180.0, 0.7)
        one, other = evaluate(before, old), evaluate(after, np.array([warp.at(frame) for frame in old]))
        tilts = [each.bare.angles_deg[:, 1] for each in (one, other)]
        np.testing.assert_allclose(tilts[1], tilts[0], atol=1e-9)
        for field in ("x_m", "pan_deg", "tilt_deg"):
            was, now = (getattr(each.mounts[0], field).curve for each in (before, after))
            moved = {round(warp.at(key.frame), 6): key.value for key in was.keys}
            kept = {round(key.frame, 6): key.value for key in now.keys}
            self.assertLessEqual(moved.items(), kept.items(), "each key is there, at its new time")
            self.assertLessEqual(len(now.keys), len(was.keys) + 4)

    def test_eased_nothing_is_faster_than_its_own_speed_times_that_of_the_ease(self) -> None:
        rng = np.random.default_rng(4)
        for _ in range(60):
            frames = np.sort(rng.choice(np.arange(1.0, 241.0), 4, replace=False))
            curve = keyed(*((float(frame), float(rng.normal())) for frame in frames)).curve
            warp = replace(TimeMap.eased(70.0, 150.0, 0.5, 0.5), reach=(1.0, 240.0))
            eased = carried(curve, warp)
            new = np.arange(70.0, 150.0, 0.05)
            share = (new - 70.0) / 80.0
            gone = np.where(share < 0.5, 2.0 * share**2, 1.0 - 2.0 * (1.0 - share) ** 2)
            exact, found = curve.sample(70.0 + 80.0 * gone), eased.sample(new)
            self.assertLessEqual(np.abs(np.diff(found)).max(), 1.05 * np.abs(np.diff(exact)).max() + 1e-12)

    def test_inserted_and_taken_out_again_it_is_the_same_motion(self) -> None:
        before = shot(clip("whole", None), clip("late", (120.0, 200.0)))
        there = inserted(before)
        back = edited(there, {"type": "take_out_time", "first_frame": CUT, "last_frame": CUT + MORE - 1})
        frames = np.arange(1.0, 241.0)
        self.assert_same(before, back, frames[frames != CUT], frames[frames != CUT])
        np.testing.assert_allclose(offsets(evaluate(back)), offsets(evaluate(before)), atol=1e-9)

    def test_cues_dials_and_layers_keys_go_along(self) -> None:
        cues = (Cue(id="a", frame=95.5), Cue(id="b", frame=96.0), Cue(id="c", frame=100.0))
        sway = layer(weight=keyed((50, 0.0), (150, 1.0)))
        panic = Dial(name="panic", value=keyed((80, 0.0), (160, 9.0)))
        before = shot(clip("whole", None, sway), cues=cues, dials=(panic,))
        after = inserted(before)
        self.assertEqual([cue.frame for cue in after.cues], [95.5, 120.0, 124.0])
        self.assertEqual(after.dials[0].value.breaks[-1], 184.0)
        weight = after.lanes[0].clips[0].layers[0].weight
        self.assertEqual([weight.breaks[0], weight.breaks[-1]], [50.0, 174.0])
        out = edited(before, {"type": "take_out_time", "first_frame": 96, "last_frame": 99})
        self.assertEqual([cue.id for cue in out.cues], ["a", "c"])


class Running(unittest.TestCase):
    def test_it_runs_on_as_if_the_shot_had_been_that_long(self) -> None:
        before = shot(clip("whole", None))
        longer = before.replace(last_frame=264)
        np.testing.assert_allclose(offsets(evaluate(inserted(before))), offsets(evaluate(longer)), atol=1e-9)

    def test_or_what_comes_after_is_kept_and_crossed_over_to(self) -> None:
        later_text = layer("formula", Noise(), 5, weight=by_formula("0.5 + 0.5 * sin(t)", fixed(1.0)))
        for held in (clip("whole", None), clip("bar", (30.0, 220.0), later_text, ramp_out_frames=20.0)):
            before = shot(held)
            after = inserted(before, runs="keep")
            self.assertEqual(len(after.lanes[0].clips), 2)
            was, now = offsets(evaluate(before)), offsets(evaluate(after))
            np.testing.assert_allclose(now[: CUT - 1], was[: CUT - 1], atol=1e-9)
            np.testing.assert_allclose(now[CUT - 1 + MORE :], was[CUT - 1 :], atol=1e-9)
            steps = np.abs(np.diff(now, axis=0)).max(axis=0)
            self.assertTrue(np.all(steps <= 2.0 * np.abs(np.diff(was, axis=0)).max(axis=0)), "no jump on the way over")

    def test_what_is_taken_out_of_kept_motion_leaves_no_jump(self) -> None:
        before = shot(clip("whole", None))
        after = edited(before, {"type": "take_out_time", "first_frame": 96, "last_frame": 119, "runs": "keep"})
        was, now = offsets(evaluate(before)), offsets(evaluate(after))
        np.testing.assert_allclose(now[95:], was[119:], atol=1e-9)
        np.testing.assert_allclose(now[:80], was[:80], atol=1e-9)
        steps = np.abs(np.diff(now, axis=0)).max(axis=0)
        self.assertTrue(np.all(steps <= 2.0 * np.abs(np.diff(was, axis=0)).max(axis=0)))

    def test_kept_also_where_the_edit_is_at_the_first_frame(self) -> None:
        before = shot(clip("whole", None))
        was = offsets(evaluate(before))
        later = edited(before, {"type": "insert_time", "frame": 1, "frames": 24, "runs": "keep"})
        now = offsets(evaluate(later))
        np.testing.assert_allclose(now[24:], was, atol=1e-9)
        self.assertGreater(np.abs(now[:24]).max(), 0.0, "the new frames shake too")
        out = edited(before, {"type": "take_out_time", "first_frame": 1, "last_frame": 24, "runs": "keep"})
        np.testing.assert_allclose(offsets(evaluate(out)), was[24:], atol=1e-9)

    def test_clips_after_the_cut_are_as_they_were_later_and_those_before_it_stay(self) -> None:
        timed = layer("timed", Noise(), 5, weight=by_formula("0.5 + 0.5 * sin(t)", fixed(1.0)))
        before = shot(clip("early", (10.0, 80.0)), clip("late", (120.0, 200.0), timed, ramp_in_frames=12.0))
        after = inserted(before)
        was, now = offsets(evaluate(before)), offsets(evaluate(after))
        np.testing.assert_allclose(now[:CUT], was[:CUT], atol=1e-9)
        np.testing.assert_allclose(now[CUT + MORE :], was[CUT:], atol=1e-9)
        self.assertIs(after.lanes[0].clips[0], before.lanes[0].clips[0])

    def test_clips_that_met_at_the_cut_still_meet(self) -> None:
        after = inserted(shot(clip("one", (1.0, 95.0)), clip("two", (96.0, 240.0))))
        self.assertEqual([each.span_frames for each in after.lanes[0].clips], [(1.0, 119.0), (120.0, 264.0)])

    def test_a_clip_that_lies_in_what_is_taken_out_goes_and_one_that_begins_there_keeps_its_content(self) -> None:
        before = shot(clip("inside", (100.0, 110.0)), clip("across", (105.0, 200.0)))
        after = edited(before, {"type": "take_out_time", "first_frame": 96, "last_frame": 119})
        self.assertEqual([each.id for each in after.lanes[0].clips], ["across"])
        self.assertEqual(after.lanes[0].clips[0].span_frames, (96.0, 176.0))
        alone = shot(clip("across", (105.0, 200.0)))
        cut = edited(alone, {"type": "take_out_time", "first_frame": 96, "last_frame": 119})
        np.testing.assert_allclose(offsets(evaluate(cut))[95:], offsets(evaluate(alone))[119:], atol=1e-9)

    def test_random_edits_never_jump_and_never_fail(self) -> None:
        rng = np.random.default_rng(8)
        for _ in range(25):
            ends = np.sort(rng.choice(np.arange(1.0, 241.0), 6, replace=False))
            clips = [clip(f"c{n}", (float(ends[2 * n]), float(ends[2 * n + 1])), ramp_in_frames=0.0) for n in range(3)]
            before = shot(*clips, clip("whole", None))
            first = int(rng.integers(2, 200))
            for fields in (
                {"type": "insert_time", "frame": first, "frames": int(rng.integers(1, 60))},
                {"type": "take_out_time", "first_frame": first, "last_frame": first + int(rng.integers(1, 40))},
                {"type": "stretch_time", "first_frame": first, "last_frame": first + 30, "frames": 1 + first % 90},
                {"type": "shift_after", "frame": first, "by_frames": int(rng.integers(1 - first, 40))},
            ):
                for runs in ("on", "keep"):
                    after = edited(before, {**fields, "runs": runs})
                    self.assertTrue(np.all(np.isfinite(evaluate(after).total)))


class FollowingThePath(unittest.TestCase):
    """What goes by the speed along the path: steps and roads."""

    WALK = Mount(
        id="camera", name="Camera", x_m=keyed((1, 0.0), (120, 7.0), (240, 13.0)),
        z_m=keyed((1, 0.0), (240, -3.0), interp="linear"),
    )  # fmt: skip
    SOURCES = (Gait(follows="the path"), Road(follows="the path"))

    def shots(self) -> Iterator[Shot]:
        board = AxisBoard.swings(roll=0.5, pedestal=3.0, tilt=0.4)
        for source in self.SOURCES:
            for span in (None, (20.0, 220.0)):
                yield shot(clip("follows", span, layer("layer", source, 3, axes=board)), mounts=(self.WALK,))

    def test_what_comes_after_is_kept(self) -> None:
        settled_frames = 16
        for before in self.shots():
            for fields, stop in (
                ({"type": "insert_time", "frame": CUT, "frames": 36}, CUT),
                ({"type": "take_out_time", "first_frame": CUT, "last_frame": CUT + 23}, CUT + 24),
                ({"type": "stretch_time", "first_frame": CUT, "last_frame": CUT + 23, "frames": 60}, CUT + 24),
            ):
                after = edited(before, {**fields, "runs": "keep"})
                later = after.last_frame - before.last_frame
                frames = np.arange(stop + settled_frames, 240.0, 0.25)
                was, now = offsets(evaluate(before, frames)), offsets(evaluate(after, frames + later))
                np.testing.assert_allclose(now, was, atol=1e-4)
                self.assertGreater(np.abs(was).max(), 0.2)

    def test_a_clip_after_the_edit_whose_motion_began_before_it_is_kept(self) -> None:
        for before in self.shots():
            cut = edited(before, {"type": "split_clip", "clip": "follows", "frame": 150})
            after = edited(cut, {"type": "take_out_time", "first_frame": 60, "last_frame": 79})
            frames = np.arange(160.0, 220.0)
            was, now = offsets(evaluate(cut, frames)), offsets(evaluate(after, frames - 20.0))
            np.testing.assert_allclose(now, was, atol=1e-4)

    def test_steps_and_roads_settle_where_a_hold_is_put_in(self) -> None:
        for before in self.shots():
            usual = np.abs(np.diff(offsets(evaluate(before, np.arange(1.0, 240.0, 0.25))), axis=0)).max(axis=0)
            for runs in ("on", "keep"):
                after = edited(before, {"type": "insert_time", "frame": CUT, "frames": 60, "runs": runs})
                values = offsets(evaluate(after, np.arange(CUT - 10.0, CUT + 70.0, 0.25)))
                self.assertTrue(np.all(np.abs(np.diff(values, axis=0)).max(axis=0) <= 4.0 * usual + 1e-9))
                middle = offsets(evaluate(after, np.arange(CUT + 24.0, CUT + 36.0)))
                self.assertLess(np.abs(middle).max(), 1e-3, "who holds still does not step")

    def test_before_the_edit_loops_and_progress_stay(self) -> None:
        looped = layer("loop", Noise(rate_hz=fixed(0.37), loop=True), 3)
        by_progress = layer("progress", Noise(), 4, weight=by_formula("u", fixed(1.0)), span_frames=(30.0, 200.0))
        faded = layer("faded", Noise(), 5, span_frames=(30.0, 200.0), ramp_out_frames=150.0)
        for span in (None, (20.0, 220.0)):
            before = shot(clip("clip", span, looped, by_progress, faded))
            for fields in (
                {"type": "insert_time", "frame": CUT, "frames": 36},
                {"type": "stretch_time", "first_frame": CUT, "last_frame": CUT + 23, "frames": 60},
            ):
                after = edited(before, {**fields, "runs": "keep"})
                frames = np.arange(1.0, CUT, 0.5)
                was, now = offsets(evaluate(before, frames)), offsets(evaluate(after, frames))
                np.testing.assert_allclose(now, was, atol=1e-9)


class Slipped(unittest.TestCase):
    def test_the_content_moves_under_its_bar(self) -> None:
        before = shot(clip("bar", (50.0, 150.0)))
        after = edited(before, {"type": "slip_clip", "clip": "bar", "by_frames": 10.0})
        was, now = offsets(evaluate(before)), offsets(evaluate(after))
        self.assertEqual(after.lanes[0].clips[0].span_frames, (50.0, 150.0))
        np.testing.assert_allclose(now[59:150], was[49:140], atol=1e-9)
        back = edited(after, {"type": "slip_clip", "clip": "bar", "by_frames": -10.0})
        np.testing.assert_allclose(offsets(evaluate(back)), was, atol=1e-9)


class Refused(unittest.TestCase):
    def test_one_frame_may_be_left_and_no_fewer(self) -> None:
        left = edited(shot(), {"type": "take_out_time", "first_frame": 1, "last_frame": 239})
        self.assertEqual((left.first_frame, left.last_frame), (1, 1))
        with self.assertRaisesRegex(EditError, "at least one frame"):
            edited(left, {"type": "take_out_time", "first_frame": 1, "last_frame": 1})

    def test_what_makes_no_sense_is_told_in_words(self) -> None:
        for fields, words in (
            ({"type": "insert_time", "frame": 500, "frames": 3}, "goes from frame 1 to 240"),
            ({"type": "insert_time", "frame": 1, "frames": 999_999}, "up to 1000000 frames"),
            ({"type": "take_out_time", "first_frame": 1, "last_frame": 240}, "at least one frame"),
            ({"type": "take_out_time", "first_frame": 9, "last_frame": 3}, "before it starts"),
            ({"type": "stretch_time", "first_frame": 200, "last_frame": 300, "frames": 3}, "goes from frame 1 to 240"),
            ({"type": "ease_time", "first_frame": 5, "last_frame": 9, "ease_in": 0.9, "ease_out": 0.9}, "not exceed 1"),
            ({"type": "shift_after", "frame": 10, "by_frames": -20}, "goes from frame 1 to 240"),
        ):
            with self.assertRaisesRegex(EditError, words):
                edited(shot(), fields)

    def test_counts_that_are_none_are_refused_at_the_door(self) -> None:
        for frames in (0, -1, 10**9):
            with self.assertRaises(ValueError):
                edited(shot(), {"type": "insert_time", "frame": 10, "frames": frames})


if __name__ == "__main__":
    unittest.main()

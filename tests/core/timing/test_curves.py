import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from zittern.core.errors import EditError
from zittern.core.numbers.curves import Curve, Key
from zittern.core.timing.curves import carried
from zittern.core.timing.limits import limited
from zittern.core.timing.time_map import TimeMap

REACH = (1.0, 240.0)
# Both sides of a jump at a cut, in frames: less than counts as at once.
_EDGE = 2e-3
# Frames of some hundreds are this exact.
_ROUNDING = 2e-13


@st.composite
def curves(draw: st.DrawFn) -> Curve:
    """Up to eight keys of all kinds; handles that overshoot and such as are left out; all ways to go on outside."""
    frames = np.cumsum(draw(st.lists(st.sampled_from([1.0, 2.5, 7.0, 30.0, 61.3]), min_size=1, max_size=8)))
    handles = st.none() | st.tuples(st.sampled_from([0.5, 3.0, 40.0]), st.sampled_from([-2.0, 0.0, 1.5]))
    keys = []
    for frame in frames:
        out, into = draw(handles), draw(handles)
        keys.append(
            Key(
                frame=float(frame),
                value=draw(st.sampled_from([-1.0, 0.0, 0.25, 3.0])),
                interp=draw(st.sampled_from(["hold", "linear", "smooth", "free"])),
                handle_out=out,
                handle_in=into and (-into[0], into[1]),
            )
        )
    extend = st.sampled_from(["hold", "continue", "repeat"])
    return Curve(keys=tuple(keys), before=draw(extend), after=draw(extend))


cut_frames = st.sampled_from([1.0, 1.5, 10.0, 33.0, 40.123, 91.0, 150.0, 240.0])


def within(timing: TimeMap) -> TimeMap:
    return TimeMap(timing.pieces, timing.through, REACH)


class Exact(unittest.TestCase):
    """Whatever the map: a frame that is not taken out has the value that it had, at its new place."""

    def assert_carried(self, curve: Curve, timing: TimeMap) -> None:
        try:
            moved = carried(curve, timing)
        except EditError as error:
            self.assertIn("written out", error.message)
            return
        frames = np.concatenate([np.arange(*REACH, 1.37), [key.frame for key in curve.keys]])
        apart = [np.all([abs(frame - cut) > _EDGE for cut in timing.cuts]) for frame in frames]
        frames = frames[np.array(apart) & (frames >= REACH[0]) & (frames <= REACH[1])]
        frames = np.array([frame for frame in frames if not timing.takes_out(frame)])
        there = np.array([timing.at(frame) for frame in frames])
        jumps = curve.jumps(REACH)
        near = np.array([np.any(np.abs(jumps - frame) < _EDGE) for frame in frames], dtype=bool)
        frames, there = frames[~near], there[~near]
        # Where it rises almost at once, a frame that is a rounding off is another value.
        steep = np.abs(curve.sample(frames + _ROUNDING) - curve.sample(frames - _ROUNDING))
        off = np.abs(moved.sample(there) - curve.sample(frames))
        self.assertTrue(np.all(off <= 1e-9 + 1e-9 * np.abs(curve.sample(frames)) + steep), off.max())

    def test_what_repeats_keeps_its_values_before_a_cut_where_its_ends_differ(self) -> None:
        for interp in ("linear", "smooth", "hold"):
            values = ((10.0, 0.0), (22.0, 3.0), (30.0, 1.0))
            keys = tuple(Key(frame=at, value=value, interp=interp) for at, value in values)
            curve = Curve(keys=keys, before="repeat", after="repeat")
            frames = np.arange(1.0, 95.99, 0.25)
            for timing in (TimeMap.inserted(24.0, 96.0), TimeMap.taken_out(96.0, 120.0)):
                after = carried(curve, within(timing))
                np.testing.assert_allclose(after.sample(frames), curve.sample(frames), atol=1e-9)

    def test_a_cut_within_a_segment_and_one_at_a_later_key(self) -> None:
        curve = Curve.of([(1.0, 0.0), (20.0, 2.0), (60.0, -1.0), (90.0, 1.0)])
        for start in (30.0, 10.0):
            self.assert_carried(curve, within(TimeMap.stretched(start, 60.0, 45.0)))

    @given(curves(), cut_frames, st.sampled_from([1.0, 24.0, 0.5]))
    def test_frames_put_in(self, curve: Curve, at: float, count: float) -> None:
        self.assert_carried(curve, within(TimeMap.inserted(count, at)))

    @given(curves(), cut_frames, st.sampled_from([1.0, 12.0, 70.0]))
    def test_frames_taken_out(self, curve: Curve, start: float, count: float) -> None:
        self.assert_carried(curve, within(TimeMap.taken_out(start, start + count)))

    @given(curves(), cut_frames, st.sampled_from([2.0, 50.0]), st.sampled_from([1.0, 30.0, 200.0]))
    def test_frames_stretched(self, curve: Curve, start: float, count: float, length: float) -> None:
        self.assert_carried(curve, within(TimeMap.stretched(start, start + count, length)))


class Inserted(unittest.TestCase):
    CURVE = Curve.of([(1, 0.0), (41, 4.0), (81, -2.0), (121, 0.0)])

    def test_it_holds_in_the_gap_or_runs_through_it(self) -> None:
        held = carried(self.CURVE, within(TimeMap.inserted(20.0, 60.0)))
        gap = held.sample(np.arange(60.0, 80.0))
        np.testing.assert_allclose(gap, self.CURVE.sample(np.array([60.0]))[0], atol=1e-12)
        through = carried(self.CURVE, within(TimeMap.inserted(20.0, 60.0, through=True)))
        self.assertEqual([key.frame for key in through.keys], [1.0, 41.0, 101.0, 141.0])
        before, after = np.arange(1.0, 41.0, 0.7), np.arange(81.0, 121.0, 0.7)
        np.testing.assert_allclose(through.sample(before), self.CURVE.sample(before), atol=1e-12)
        np.testing.assert_allclose(through.sample(after + 20.0), self.CURVE.sample(after), atol=1e-12)
        self.assertTrue(np.all(np.diff(through.sample(np.arange(41.0, 101.0))) <= 1e-12), "it runs through, one way")

    def test_a_key_at_the_cut_goes_with_what_comes_after(self) -> None:
        moved = carried(self.CURVE, within(TimeMap.inserted(10.0, 41.0)))
        self.assertIn(51.0, [key.frame for key in moved.keys])
        np.testing.assert_allclose(moved.sample(np.array([41.0, 46.0, 51.0])), 4.0, atol=1e-12)

    def test_keys_far_from_the_cut_stay_as_they_were_set(self) -> None:
        long = Curve.of([(10.0 * n + 1, float(n % 3)) for n in range(20)])
        moved = carried(long, within(TimeMap.inserted(5.0, 96.0)))
        kinds = [key.interp for key in moved.keys]
        self.assertEqual(kinds[:7], ["smooth"] * 7)
        self.assertEqual(kinds[-7:], ["smooth"] * 7)
        self.assertIn("free", kinds)

    def test_nothing_is_added_where_there_are_no_keys(self) -> None:
        for at in (1.0, 0.0, 125.0):
            moved = carried(self.CURVE, within(TimeMap.inserted(10.0, at)))
            self.assertEqual(len(moved.keys), 4)
            self.assertEqual({key.interp for key in moved.keys}, {"smooth"})


class TakenOut(unittest.TestCase):
    def test_keys_inside_go_and_both_edges_keep_their_values(self) -> None:
        curve = Curve.of([(1, 0.0), (50, 5.0), (100, 1.0)], "linear")
        moved = carried(curve, within(TimeMap.taken_out(40.0, 60.0)))
        self.assertNotIn(50.0, [key.frame for key in moved.keys])
        jumps = moved.jumps((1.0, 100.0))
        self.assertEqual(len(jumps), 1)
        self.assertAlmostEqual(jumps[0, 1], 40.0)
        edges = curve.sample(np.array([40.0, 60.0]))
        np.testing.assert_allclose(moved.sample(np.array([40.0 - 1e-3, 40.0])), edges, atol=1e-3)

    def test_what_is_still_stays_in_one_key(self) -> None:
        self.assertEqual(len(carried(Curve.of([(50, 2.0)]), within(TimeMap.taken_out(40.0, 60.0))).keys), 1)


if __name__ == "__main__":
    unittest.main()


class Limited(unittest.TestCase):
    """Keys within limits, and the course of the curve clamped to them."""

    @settings(max_examples=120, deadline=None)
    @given(curves(), st.sampled_from([(0.0, 1.0), (-0.5, 0.3), (0.0, 10.0), (-np.inf, 0.2)]))
    def test_clamped_it_is_the_same_and_its_keys_are_within(self, curve: Curve, limits: tuple[float, float]) -> None:
        made = limited(curve, *limits)
        values = made.arrays.values
        self.assertTrue(limits[0] <= values.min() and values.max() <= limits[1])
        frames = np.unique(
            np.concatenate([np.linspace(curve.keys[0].frame, curve.keys[-1].frame, 701), made.arrays.frames])
        )
        jumps = curve.jumps((float(frames[0]), float(frames[-1])))
        apart = np.array([not any(first - _EDGE < frame < stop + _EDGE for first, stop in jumps) for frame in frames])
        found, expected = (np.clip(each.sample(frames), *limits)[apart] for each in (made, curve))
        np.testing.assert_allclose(found, expected, atol=2e-3 if len(curve.keys) > 1 else 0.0)

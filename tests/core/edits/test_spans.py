import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.making import command, contribution, edited, layer, shot_with
from zittern.core.errors import EditError
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot

WHOLE = shot_with(layer(), layer("fast", seed=2))
SPANNED = shot_with(layer(span_frames=(20, 80), ramp_in_frames=12, ramp_out_frames=24), layer("fast", seed=2))
frame = st.integers(-50, 300)


def span(at: str = "layer:sway", **fields: object) -> dict[str, object]:
    return {"type": "set_span", "at": [at], **fields}


def sway(shot: Shot) -> Layer:
    return shot.lanes[0].clips[0].layers[0]


class Ends(unittest.TestCase):
    def test_the_end_that_is_not_dragged_stays(self) -> None:
        self.assertEqual(sway(edited(SPANNED, span(first_frame=30))).span_frames, (30, 80))
        self.assertEqual(sway(edited(SPANNED, span(last_frame=120))).span_frames, (20, 120))

    def test_a_layer_over_the_whole_shot_gets_a_span_of_it(self) -> None:
        self.assertEqual(sway(edited(WHOLE, span(first_frame=30))).span_frames, (30, 240))
        self.assertEqual(sway(edited(WHOLE, span(by_frames=5))).span_frames, (6, 245))

    def test_outside_its_span_a_layer_is_silent(self) -> None:
        values = contribution(edited(WHOLE, span(first_frame=30, last_frame=60)))
        self.assertTrue(np.all(values[:29] == 0) and np.all(values[60:] == 0))
        np.testing.assert_array_equal(values[29:60], contribution(WHOLE)[29:60])

    def test_the_whole_shot_again(self) -> None:
        again = sway(edited(SPANNED, span(whole=True)))
        self.assertEqual((again.span_frames, again.ramp_in_frames, again.ramp_out_frames), (None, 12, 24))

    def test_moving_keeps_length_and_ramps(self) -> None:
        moved = sway(edited(SPANNED, span(by_frames=-30)))
        self.assertEqual((moved.span_frames, moved.ramp_in_frames, moved.ramp_out_frames), ((-10, 50), 12, 24))

    @given(
        frame,
        frame,
        st.integers(0, 200),
        st.sampled_from(["first_frame", "last_frame", "ramp_in_frames", "ramp_out_frames"]),
    )
    def test_nothing_that_is_dragged_makes_a_wrong_span(self, first: int, last: int, ramp: int, what: str) -> None:
        value = {"first_frame": first, "last_frame": last}.get(what, ramp)
        after = sway(edited(SPANNED, span(**{what: value})))
        start, stop = after.span_frames or (0, 0)
        self.assertGreaterEqual(stop - start, 1)
        self.assertLessEqual(after.ramp_in_frames + after.ramp_out_frames, stop - start + 1e-9)


class Ramps(unittest.TestCase):
    def test_the_one_that_is_dragged_stops_at_the_other(self) -> None:
        after = sway(edited(SPANNED, span(ramp_in_frames=500)))
        self.assertEqual((after.ramp_in_frames, after.ramp_out_frames), (36, 24))
        after = sway(edited(SPANNED, span(ramp_out_frames=500)))
        self.assertEqual((after.ramp_in_frames, after.ramp_out_frames), (12, 48))

    def test_they_shrink_with_their_span_in_proportion(self) -> None:
        after = sway(edited(SPANNED, span(last_frame=32)))
        self.assertEqual((after.ramp_in_frames, after.ramp_out_frames), (4, 8))

    def test_a_ramp_alone_leaves_a_whole_shot_whole(self) -> None:
        after = sway(edited(WHOLE, span(ramp_in_frames=48)))
        self.assertEqual((after.span_frames, after.ramp_in_frames), (None, 48))


class RampsByFrame(unittest.TestCase):
    def test_each_ends_where_it_is_told_in_its_own_span(self) -> None:
        both = edited(SPANNED, {"type": "set_span", "at": ["layer:sway", "layer:fast"], "ramp_in_until": 40})
        self.assertEqual([each.ramp_in_frames for _, each in both.layers()], [20, 39])
        self.assertEqual(sway(edited(SPANNED, span(ramp_out_from=70))).ramp_out_frames, 10)

    def test_outside_of_the_span_there_is_none_or_all_that_is_left(self) -> None:
        self.assertEqual(sway(edited(SPANNED, span(ramp_in_until=5))).ramp_in_frames, 0)
        self.assertEqual(sway(edited(SPANNED, span(ramp_in_until=500))).ramp_in_frames, 36)
        self.assertEqual(sway(edited(SPANNED, span(ramp_out_from=-500))).ramp_out_frames, 48)
        self.assertEqual(sway(edited(SPANNED, span(ramp_out_from=200))).ramp_out_frames, 0)


class Several(unittest.TestCase):
    def test_layers_and_clips_together(self) -> None:
        after = edited(WHOLE, {"type": "set_span", "at": ["layer:sway", "layer:fast", "clip:main"], "last_frame": 99})
        self.assertEqual([each.span_frames for _, each in after.layers()], [(1, 99), (1, 99)])
        self.assertEqual(after.lanes[0].clips[0].span_frames, (1, 99))

    def test_what_has_no_span(self) -> None:
        for at, pattern in (
            ("mount:camera", "only layers and clips"),
            ("layer:gone", "no layer 'gone'"),
            ("layer:sway.weight", "only layers and clips"),
        ):
            with self.subTest(at), self.assertRaisesRegex(EditError, pattern):
                edited(WHOLE, span(at, first_frame=3))


class Labels(unittest.TestCase):
    def test_they_read_well(self) -> None:
        for fields, expected in (
            ({"first_frame": 24}, "Span of “Sway” from frame 24"),
            ({"first_frame": 24, "last_frame": 48}, "Span of “Sway” from frame 24 to frame 48"),
            ({"ramp_out_frames": 12}, "Ramp out of “Sway”: 12 frames"),
            ({"by_frames": -3}, "Move span of “Sway” by -3 frames"),
            ({"ramp_in_until": 40}, "Ramp in of “Sway” until frame 40"),
            ({"ramp_out_from": 60}, "Ramp out of “Sway” from frame 60"),
            ({"whole": True}, "Extend “Sway” to whole shot"),
        ):
            self.assertEqual(command(**span(**fields)).label(WHOLE), expected)
        self.assertEqual(
            command(type="set_span", at=["layer:sway", "layer:fast"], ramp_in_frames=6).label(WHOLE),
            "Ramp in of 2 layers: 6 frames",
        )


class Here(unittest.TestCase):
    def test_heard_within_a_stretch_only_with_soft_edges(self) -> None:
        only = edited(
            SPANNED, {"type": "only_here", "at": ["layer:sway", "clip:main"], "first_frame": 100, "last_frame": 140}
        )
        for part in (sway(only), only.lanes[0].clips[0]):
            self.assertEqual((part.span_frames, part.ramp_in_frames, part.ramp_out_frames), ((100, 140), 6, 6))
        self.assertEqual(only.lanes[0].clips[0].layers[1].span_frames, None)
        values = contribution(
            edited(WHOLE, {"type": "only_here", "at": ["layer:sway"], "first_frame": 100, "last_frame": 140})
        )
        self.assertTrue(np.all(values[:99] == 0) and np.all(values[140:] == 0))
        np.testing.assert_array_equal(values[106:133], contribution(WHOLE)[106:133])
        short = edited(WHOLE, {"type": "only_here", "at": ["layer:sway"], "first_frame": 100, "last_frame": 108})
        self.assertEqual(sway(short).ramp_in_frames, 2)

    def test_a_stretch_of_nothing_is_refused(self) -> None:
        for fields in (
            {"at": ["layer:sway"], "first_frame": 9, "last_frame": 9},
            {"at": ["mount:camera"], "first_frame": 1, "last_frame": 9},
        ):
            with self.assertRaises(EditError):
                edited(WHOLE, {"type": "only_here", **fields})

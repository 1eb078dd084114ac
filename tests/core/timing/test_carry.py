import unittest
from typing import TypeGuard, get_args

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.documents.doc import Doc
from zittern.core.errors import DocumentError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import keyed, on_curve
from zittern.core.presets.preset import Preset
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, Subject
from zittern.core.timing.carry import retimed, timed_fields
from zittern.core.timing.time_map import TimeMap

BENT = Curve(
    keys=(Key(frame=10, value=0.0, interp="free", handle_out=(8, 2.0)), Key(frame=90, value=3.0, handle_in=(-20, -1.0)))
)
FULL = shot_with(
    layer(weight=keyed((20, 0.0), (60, 1.0)), span_frames=(12.0, 100.0), ramp_in_frames=6.0, ramp_out_frames=9.0),
    layer("set", seed=3, source={"kind": "keys", "tracks": {"pan": keyed((30, 0.0), (70, 5.0)).model_dump()}}),
    # type: ignore[arg-type]
    clip={"span_frames": (5.0, 110.0), "amount": keyed((5, 1.0), (100, 0.5))},
    mounts=(Mount(id="camera", name="Camera", x_m=on_curve(BENT)),),
    focal_mm=keyed((1, 35.0), (120, 70.0)),
    subject=Subject.at("post", (0.0, 0.0, -4.0)).replace(x_m=keyed((1, 0.0), (120, 9.0))),
    last_frame=120,
)


# Numbers that no edit of time moves: sizes, rates, limits, seeds, a person's own seconds, places in a cycle.
TIMELESS = {
    "AxisSetting": {"seed"},
    "Breath": {"start"},
    "ClipOrigin": {"factor"},
    "Cue": {"place_m", "strength"},
    "Cycle": {"points", "start"},
    "Dial": {"minimum", "maximum"},
    "Fixed": {"value"},
    "Fps": {"den", "num"},
    "Gait": {"start"},
    "Springs": {"shift_damping", "shift_hz", "shift_stop_cm", "turn_damping", "turn_hz", "turn_stop_deg"},
    "Hit": {"start", "way_spread"},
    "HoldFraming": {"below_hz"},
    "Key": {"value"},
    "Layer": {"seed", "lever_m", "phase_offset"},
    "IgnoredFinding": {"amount"},
    "Mount": {"pivot_m"},
    "Noise": {"octaves"},
    "Operator": {
        "anticipation_s",
        "pan_damping",
        "pan_hz",
        "pan_slack_percent",
        "reaction_s",
        "tilt_damping",
        "tilt_hz",
        "tilt_slack_percent",
    },
    "Plate": {"bend_deg", "edge_percent", "height_px", "width_m", "width_px"},
    "Picture": {"height_px", "width_px"},
    "Preset": {"length_s"},
    "Recording": {"rate_hz"},
    "Road": {"high_pass_hz"},
    "Shot": {"seed", "seeds_drawn", "sensor_mm"},
    "StepEdit": {"later", "number"},
    "Subject": {"height_m", "width_m"},
    "Take": {"drift_hz", "fade_s", "offset_s"},
    "Track": {"scale"},
    "Wave": {"start"},
}


def documents(root: type[Doc]) -> set[type[Doc]]:
    """Every kind of document that can stand in another."""
    found: set[type[Doc]] = set()

    def visit(hint: object) -> None:
        if _is_doc(hint) and hint not in found:
            found.add(hint)
            for field in hint.model_fields.values():
                visit(field.annotation)
        for each in get_args(hint):
            visit(each)

    visit(root)
    return found


def numeric(hint: object) -> bool:
    """Whether numbers stand in a field itself."""
    return hint in (int, float) or any(numeric(each) for each in get_args(hint) if not _is_doc(each))


def _is_doc(hint: object) -> TypeGuard[type[Doc]]:
    return isinstance(hint, type) and issubclass(hint, Doc)


class Reach(unittest.TestCase):
    def test_of_every_number_somebody_decided_whether_it_carries_frames(self) -> None:
        undecided = {
            f"{kind.__name__}.{name}"
            for root in (Shot, Preset)
            for kind in documents(root)
            for name, field in kind.model_fields.items()
            if numeric(field.annotation)
            and name not in timed_fields(kind)
            and name not in TIMELESS.get(kind.__name__, ())
        }
        self.assertEqual(undecided, set(), "mark them (core/timemarks.py), or list them here as timeless")

    def test_nothing_is_both(self) -> None:
        for kind in documents(Shot) | documents(Preset):
            self.assertFalse(set(timed_fields(kind)) & set(TIMELESS.get(kind.__name__, ())), kind.__name__)
        self.assertEqual(set(timed_fields(Key)), {"frame", "handle_in", "handle_out"})


class Moving(unittest.TestCase):
    def test_moved_along_it_moves_as_before_later(self) -> None:
        later = retimed(FULL, TimeMap.even(shift_frames=1000.0))
        self.assertEqual(
            (later.first_frame, later.last_frame, later.lanes[0].clips[0].span_frames), (1001, 1120, (1005.0, 1110.0))
        )
        before, after = evaluate(FULL), evaluate(later)
        np.testing.assert_allclose(after.pose.position_m, before.pose.position_m, atol=1e-9)
        np.testing.assert_allclose(after.pose.focal_mm, before.pose.focal_mm, atol=1e-9)
        for name, values in before.layers.items():
            np.testing.assert_allclose(after.layers[name], values, atol=1e-9)
        self.assertEqual(retimed(later, TimeMap.even(shift_frames=-1000.0)), FULL)

    def test_stretched_about_a_frame(self) -> None:
        slow = retimed(FULL, TimeMap.even(factor=2.0, about_frame=1.0))
        self.assertEqual((slow.first_frame, slow.last_frame), (1, 240))
        self.assertEqual(
            (slow.lanes[0].clips[0].layers[0].ramp_in_frames, slow.lanes[0].clips[0].layers[0].span_frames),
            (12.0, (23.0, 200.0)),
        )
        frames = np.linspace(1.0, 120.0, 60)
        np.testing.assert_allclose(
            evaluate(slow, 2 * frames - 1).bare.position_m, evaluate(FULL, frames).bare.position_m, atol=1e-9
        )

    def test_out_of_reach_and_nowhere(self) -> None:
        self.assertIs(retimed(FULL, TimeMap.even()), FULL)
        with self.assertRaises((DocumentError, ValueError)):
            retimed(FULL, TimeMap.even(shift_frames=1e8))


class Shots(unittest.TestCase):
    def test_a_range_moved_far_takes_everything_along_or_nothing(self) -> None:
        along = edited(FULL, {"type": "set_shot", "first_frame": 200_001, "last_frame": 200_120, "along": True})
        np.testing.assert_allclose(evaluate(along).total, evaluate(FULL).total, atol=1e-9)
        stay = edited(FULL, {"type": "set_shot", "first_frame": 200_001, "last_frame": 200_120})
        self.assertEqual((stay.first_frame, stay.mounts), (200_001, FULL.mounts))
        with self.assertRaisesRegex(Exception, "comes before the first"):
            edited(FULL, {"type": "set_shot", "first_frame": 500})

    def test_another_frame_rate_keeps_frames_or_seconds(self) -> None:
        frames = edited(FULL, {"type": "set_shot", "fps": 48})
        self.assertEqual((frames.last_frame, frames.mounts), (120, FULL.mounts))
        seconds = edited(FULL, {"type": "set_shot", "fps": 48, "keep": "seconds"})
        self.assertEqual((seconds.last_frame, seconds.lanes[0].clips[0].layers[0].ramp_in_frames), (240, 12.0))
        self.assertEqual(seconds.frame_count / seconds.fps.value, FULL.frame_count / FULL.fps.value)
        np.testing.assert_allclose(evaluate(seconds).bare.position_m[::2], evaluate(FULL).bare.position_m, atol=1e-9)

    def test_a_set_can_be_taken_away(self) -> None:
        there = edited(FULL, {"type": "set_shot", "set_id": "saltmarsh-jetty", "name": "Late"})
        self.assertEqual((there.set_id, there.name), ("saltmarsh-jetty", "Late"))
        self.assertIsNone(edited(there, {"type": "set_shot", "set_id": None}).set_id)
        self.assertEqual(edited(there, {"type": "set_shot", "sensor_mm": 24}).set_id, "saltmarsh-jetty")

    def test_a_replaced_move_begins_where_the_shot_does(self) -> None:
        late = retimed(FULL, TimeMap.even(shift_frames=1000.0))
        path = dict.fromkeys(("y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"), 0.0) | {
            "x_m": keyed((1, 0.0), (50, 4.0)).model_dump()
        }
        moved = edited(late, {"type": "replace_move", "name": "walk", "move": {**path, "last_frame": 50}})
        self.assertEqual((moved.first_frame, moved.last_frame), (1001, 1050))
        np.testing.assert_allclose(evaluate(moved).bare.position_m[[0, -1], 0], [0.0, 4.0])
        self.assertGreater(np.abs(evaluate(moved).layers["sway"]).max(), 0.0)

import re
import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.errors import DocumentError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import keyed, on_curve
from zittern.core.shot.frames import CARRIES, Retiming, retimed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, Subject

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


class Reach(unittest.TestCase):
    def test_every_field_that_carries_frames_is_in_the_table(self) -> None:
        schema = Shot.model_json_schema()
        documents = {"Shot": schema, **schema["$defs"]}
        carried = {(kind.__name__, name) for kind, fields in CARRIES.items() for name in fields}
        found = {
            (kind, name)
            for kind, document in documents.items()
            for name in document.get("properties", {})
            if re.search(r"(^|_)frames?(_|$)|^handle_", name)
        }
        self.assertEqual(found, carried)


class Moving(unittest.TestCase):
    def test_moved_along_it_moves_as_before_later(self) -> None:
        later = retimed(FULL, Retiming(shift_frames=1000.0))
        self.assertEqual(
            (later.first_frame, later.last_frame, later.lanes[0].clips[0].span_frames), (1001, 1120, (1005.0, 1110.0))
        )
        before, after = evaluate(FULL), evaluate(later)
        np.testing.assert_allclose(after.pose.position_m, before.pose.position_m, atol=1e-9)
        np.testing.assert_allclose(after.pose.focal_mm, before.pose.focal_mm, atol=1e-9)
        for name, values in before.layers.items():
            np.testing.assert_allclose(after.layers[name], values, atol=1e-9)
        self.assertEqual(retimed(later, Retiming(shift_frames=-1000.0)), FULL)

    def test_stretched_about_a_frame(self) -> None:
        slow = retimed(FULL, Retiming(factor=2.0, about_frame=1.0))
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
        self.assertIs(retimed(FULL, Retiming()), FULL)
        with self.assertRaises((DocumentError, ValueError)):
            retimed(FULL, Retiming(shift_frames=1e8))


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
        late = retimed(FULL, Retiming(shift_frames=1000.0))
        path = dict.fromkeys(("y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg"), 0.0) | {
            "x_m": keyed((1, 0.0), (50, 4.0)).model_dump()
        }
        moved = edited(late, {"type": "replace_move", "name": "walk", "move": {**path, "last_frame": 50}})
        self.assertEqual((moved.first_frame, moved.last_frame), (1001, 1050))
        np.testing.assert_allclose(evaluate(moved).bare.position_m[[0, -1], 0], [0.0, 4.0])
        self.assertGreater(np.abs(evaluate(moved).layers["sway"]).max(), 0.0)

import unittest

import numpy as np

from tests.core.making import command, edited, layer, over, shot_with
from zittern.core.edits.keys import KeyRef, handles_of
from zittern.core.errors import EditError
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import Keyed, fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot

X, PAN, WEIGHT = "mount:camera.x_m", "mount:camera.pan_deg", "layer:sway.weight"
MOVED = shot_with(
    layer(), mounts=(Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (25, 2.0), (49, 1.0)), y_m=1.5),)
)


def refs(*frames: float, at: str = X) -> list[dict[str, object]]:
    return [{"at": at, "frame": frame} for frame in frames]


def curve(shot: Shot, field: str = "x_m") -> Curve:
    param = getattr(shot.mounts[0], field)
    assert isinstance(param, Keyed)
    return param.curve


def frames(shot: Shot, field: str = "x_m") -> list[float]:
    return [key.frame for key in curve(shot, field).keys]


class Setting(unittest.TestCase):
    def test_a_key_set_where_the_number_is_does_not_move_it_there(self) -> None:
        shot = edited(MOVED, {"type": "set_keys", "keys": [*refs(13), *refs(13, at=PAN), *refs(13, at=WEIGHT)]})
        self.assertEqual(frames(shot), [1, 13, 25, 49])
        at = np.array([13.0])
        np.testing.assert_allclose(shot.mounts[0].x_m.sample(over(at)), MOVED.mounts[0].x_m.sample(over(at)))
        self.assertEqual(frames(shot, "pan_deg"), [13])
        self.assertEqual(shot.lanes[0].clips[0].layers[0].weight, keyed((13, 1.0)))

    def test_given_values_replace_and_keep_how_it_runs_on(self) -> None:
        linear = edited(MOVED, {"type": "set_interp", "keys": refs(25), "interp": "linear"})
        shot = edited(
            linear,
            {"type": "set_keys", "keys": [{"at": X, "frame": 25, "value": 7.0}, {"at": X, "frame": 30, "value": 8.0}]},
        )
        self.assertEqual(
            [(k.frame, k.value, k.interp) for k in curve(shot).keys[1:3]], [(25, 7.0, "linear"), (30, 8.0, "linear")]
        )

    def test_limits_of_the_number_hold(self) -> None:
        with self.assertRaisesRegex(EditError, "expected 0 to 10"):
            edited(MOVED, {"type": "set_keys", "keys": [{"at": WEIGHT, "frame": 1, "value": -1}]})
        with self.assertRaisesRegex(EditError, "only a number"):
            edited(MOVED, {"type": "set_keys", "keys": refs(1, at="layer:sway.name")})


class Moving(unittest.TestCase):
    def test_in_time_and_value_over_others(self) -> None:
        shot = edited(MOVED, {"type": "move_keys", "keys": refs(25, 49), "by_frames": -4, "by_value": 1.0})
        self.assertEqual([(k.frame, k.value) for k in curve(shot).keys], [(1, 0.0), (21, 3.0), (45, 2.0)])
        onto = edited(MOVED, {"type": "move_keys", "keys": refs(25), "by_frames": 24})
        self.assertEqual([(k.frame, k.value) for k in curve(onto).keys], [(1, 0.0), (49, 2.0)])

    def test_moving_together_does_not_trip_over_itself(self) -> None:
        shot = edited(MOVED, {"type": "move_keys", "keys": refs(1, 25, 49), "by_frames": 24})
        self.assertEqual([(k.frame, k.value) for k in curve(shot).keys], [(25, 0.0), (49, 2.0), (73, 1.0)])

    def test_copying(self) -> None:
        shot = edited(MOVED, {"type": "move_keys", "keys": refs(25), "by_frames": 50, "copy_keys": True})
        self.assertEqual(frames(shot), [1, 25, 49, 75])

    def test_stretching_there_and_back(self) -> None:
        wide = edited(MOVED, {"type": "scale_keys", "keys": refs(1, 25, 49), "about_frame": 25, "factor": 1.5})
        self.assertEqual(frames(wide), [-11, 25, 61])
        self.assertEqual(
            edited(wide, {"type": "scale_keys", "keys": refs(-11, 25, 61), "about_frame": 25, "factor": 1 / 1.5}), MOVED
        )

    def test_a_key_that_is_not_there(self) -> None:
        for fields in (
            {"type": "move_keys", "keys": refs(2), "by_frames": 1},
            {"type": "delete_keys", "keys": refs(2)},
            {"type": "set_interp", "keys": refs(1, at=PAN), "interp": "hold"},
        ):
            with self.assertRaisesRegex(EditError, "no key at frame"):
                edited(MOVED, fields)


class Deleting(unittest.TestCase):
    def test_the_last_one_leaves_its_value(self) -> None:
        self.assertEqual(frames(edited(MOVED, {"type": "delete_keys", "keys": refs(25)})), [1, 49])
        none = edited(MOVED, {"type": "delete_keys", "keys": refs(1, 25, 49)})
        self.assertEqual(none.mounts[0].x_m, fixed(1.0))


class Running(unittest.TestCase):
    def test_the_whole_move_linear(self) -> None:
        shot = edited(MOVED, {"type": "set_interp", "keys": refs(1, 25, 49), "interp": "linear"})
        np.testing.assert_allclose(shot.mounts[0].x_m.sample(over(np.array([13.0, 37.0]))), [1.0, 1.5])

    def test_handles_make_both_sides_free(self) -> None:
        shot = edited(MOVED, {"type": "set_handles", "at": X, "frame": 25, "handle_in": [-6, 1], "handle_out": [6, 1]})
        self.assertEqual([key.interp for key in curve(shot).keys], ["free", "free", "smooth"])
        self.assertEqual(
            curve(shot).keys[1], Key(frame=25, value=2.0, interp="free", handle_in=(-6, 1), handle_out=(6, 1))
        )
        with self.assertRaisesRegex(EditError, "extends back"):
            edited(MOVED, {"type": "set_handles", "at": X, "frame": 25, "handle_in": [6, 1]})

    def test_bending_one_end_leaves_the_other_as_it_was(self) -> None:
        for interp in ("linear", "smooth", "hold"):
            with self.subTest(interp=interp):
                before = edited(MOVED, {"type": "set_interp", "keys": refs(1, 25, 49), "interp": interp})
                into = curve(before).handles(2)[0]
                bent = edited(before, {"type": "set_handles", "at": X, "frame": 25, "handle_out": [2, 3]})
                self.assertEqual(curve(bent).handles(2)[0], into)
                self.assertEqual(curve(bent).handles(1), (curve(before).handles(1)[0], (2, 3)))
                frames_before = over(np.arange(1.0, 25.0))
                np.testing.assert_allclose(
                    bent.mounts[0].x_m.sample(frames_before), before.mounts[0].x_m.sample(frames_before), atol=1e-12
                )

    def test_handles_of_keys_and_numbers_that_are_gone_are_left_out(self) -> None:
        wanted = [KeyRef(at=at, frame=frame) for at in (X, "layer:gone.weight", "mount:gone.x_m") for frame in (25, 26)]
        told = handles_of(MOVED, wanted)
        self.assertEqual([(each.at, each.frame) for each in told], [(X, 25.0)])
        self.assertEqual((told[0].handle_in, told[0].handle_out), curve(MOVED).handles(1))

    def test_before_and_after(self) -> None:
        shot = edited(MOVED, {"type": "set_extend", "at": [X, PAN], "after": "repeat"})
        self.assertEqual((curve(shot).before, curve(shot).after), ("hold", "repeat"))
        self.assertAlmostEqual(shot.mounts[0].x_m.sample(over(np.array([73.0])))[0], 2.0)


class Labels(unittest.TestCase):
    def test_they_read_well(self) -> None:
        for fields, label in (
            ({"type": "set_keys", "keys": refs(13)}, "Set key of camera x at frame 13"),
            ({"type": "set_keys", "keys": [*refs(13), *refs(13, at=PAN)]}, "Set key at frame 13"),
            ({"type": "move_keys", "keys": refs(1), "by_frames": 4}, "Move key by +4 frames"),
            (
                {"type": "move_keys", "keys": refs(1, 25), "by_frames": -2, "copy_keys": True},
                "Copy keys at 2 frames by -2 frames",
            ),
            ({"type": "delete_keys", "keys": refs(25, at=WEIGHT)}, "Delete key of weight at frame 25"),
            (
                {"type": "scale_keys", "keys": refs(1, 25), "about_frame": 1, "factor": 2},
                "Stretch keys at 2 frames to 200 %",
            ),
            ({"type": "set_interp", "keys": refs(1), "interp": "linear"}, "Make key linear"),
            ({"type": "set_extend", "at": [X], "after": "repeat"}, "Repeat after the last key"),
        ):
            self.assertEqual(command(**fields).label(MOVED), label)


class Many(unittest.TestCase):
    def test_as_one_by_one(self) -> None:
        rng = np.random.default_rng(4)
        start = edited(
            shot_with(layer()),
            {"type": "set_keys", "keys": [{"at": PAN, "frame": f, "value": f / 9} for f in (5, 50, 90)]},
        )
        start = edited(start, {"type": "set_interp", "keys": [{"at": PAN, "frame": 50}], "interp": "hold"})
        keys = [
            {"at": PAN, "frame": float(f), "value": float(v)}
            for f, v in zip(rng.permutation(100), rng.normal(size=100), strict=True)
        ]
        one_by_one = start
        for key in keys:
            one_by_one = edited(one_by_one, {"type": "set_keys", "keys": [key]})
        self.assertEqual(edited(start, {"type": "set_keys", "keys": keys}), one_by_one)

    def test_the_work_grows_with_their_number(self) -> None:
        counts = {}
        make = Key.__init__
        for count in (1000, 4000):
            calls = counts.setdefault(count, [])
            Key.__init__ = lambda self, calls=calls, **fields: (calls.append(1), make(self, **fields))[1]  # type: ignore[method-assign, assignment, misc]
            try:
                shot = edited(
                    shot_with(layer()),
                    {"type": "set_keys", "keys": [{"at": PAN, "frame": float(f), "value": 1.0} for f in range(count)]},
                )
                edited(
                    shot,
                    {
                        "type": "move_keys",
                        "by_frames": 0.5,
                        "keys": [{"at": PAN, "frame": float(f)} for f in range(count)],
                    },
                )
            finally:
                Key.__init__ = make  # type: ignore[method-assign]
        self.assertLess(len(counts[4000]), 4.1 * len(counts[1000]))

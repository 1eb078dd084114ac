import unittest

from tests.core.making import command, edited, shot_with
from zittern.core.errors import EditError
from zittern.core.shot.shot import Shot
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

SHOT = edited(
    shot_with(),
    {
        "type": "add_cues",
        "cues": [{"frame": 96.5, "name": "Thud"}, {"frame": 24}, {"frame": -3, "strength": 2, "place_m": [1, 2, 3]}],
    },
)


def told(shot: Shot) -> list[tuple[str, float, str, float]]:
    return [(cue.id, cue.frame, cue.name, cue.strength) for cue in shot.cues]


class Cues(unittest.TestCase):
    def test_they_lie_in_order_of_time_with_ids_of_their_own(self) -> None:
        self.assertEqual(told(SHOT), [("cue-3", -3.0, "", 2.0), ("cue-2", 24.0, "", 1.0), ("cue-1", 96.5, "Thud", 1.0)])
        more = edited(
            SHOT, {"type": "remove_cues", "cues": ["cue-2"]}, {"type": "add_cues", "cues": [{"frame": 1}, {"frame": 2}]}
        )
        self.assertEqual([cue.id for cue in more.cues], ["cue-3", "cue-2", "cue-4", "cue-1"])

    def test_moved_copied_and_changed(self) -> None:
        moved = edited(SHOT, {"type": "move_cues", "cues": ["cue-1", "cue-3"], "by_frames": -80})
        self.assertEqual(
            [(cue.id, cue.frame) for cue in moved.cues], [("cue-3", -83.0), ("cue-1", 16.5), ("cue-2", 24.0)]
        )
        copied = edited(SHOT, {"type": "move_cues", "cues": ["cue-3"], "by_frames": 10, "copy_cues": True})
        self.assertEqual(
            [(cue.frame, cue.strength, cue.place_m) for cue in copied.cues][:2],
            [(-3.0, 2.0, (1, 2, 3)), (7.0, 2.0, (1, 2, 3))],
        )
        changed = edited(
            SHOT, {"type": "set_cues", "cues": ["cue-3", "cue-2"], "name": "Blow", "strength": 0.5, "nowhere": True}
        )
        self.assertEqual(
            [(cue.name, cue.strength, cue.place_m) for cue in changed.cues],
            [("Blow", 0.5, None), ("Blow", 0.5, None), ("Thud", 1.0, None)],
        )
        self.assertEqual(edited(SHOT, {"type": "set_cues", "cues": ["cue-2"], "frame": 200.25}).cues[-1].frame, 200.25)

    def test_they_move_with_the_rest_when_time_is_changed(self) -> None:
        self.assertEqual(
            [cue.frame for cue in retimed(SHOT, TimeMap.even(factor=2.0, about_frame=1.0)).cues], [-7.0, 47.0, 192.0]
        )

    def test_labels(self) -> None:
        for fields, label in (
            ({"type": "add_cues", "cues": [{"frame": 96.5}]}, "Cue at frame 96.5"),
            ({"type": "add_cues", "cues": [{"frame": 1}, {"frame": 2}]}, "Add 2 cues"),
            ({"type": "move_cues", "cues": ["cue-1"], "by_frames": 4}, "Move cue “Thud” by +4 frames"),
            (
                {"type": "move_cues", "cues": ["cue-2"], "by_frames": -1, "copy_cues": True},
                "Copy cue at frame 24 by -1 frames",
            ),
            ({"type": "set_cues", "cues": ["cue-1", "cue-2"], "strength": 1}, "Set 2 cues"),
            ({"type": "remove_cues", "cues": ["cue-1"]}, "Remove cue “Thud”"),
        ):
            self.assertEqual(command(**fields).label(SHOT), label)

    def test_what_cannot_be(self) -> None:
        for fields, pattern in (
            ({"type": "remove_cues", "cues": ["gone"]}, "there is no cue 'gone'"),
            ({"type": "move_cues", "cues": ["cue-1"], "by_frames": 1e6}, "frame"),
        ):
            with self.assertRaisesRegex(EditError, pattern):
                for _ in range(12):
                    edited(SHOT, fields, *[fields] * 10)
        for wrong in (
            {"frame": 1e9},
            {"frame": 1, "strength": -1},
            {"frame": 1, "strength": 11},
            {"frame": 1, "name": "x" * 61},
            {"frame": 1, "place_m": [1, 2]},
        ):
            with self.assertRaises(ValueError):
                command(type="add_cues", cues=[wrong])

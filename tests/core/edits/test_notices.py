import unittest

from tests.core.making import edited, layer, shot_with
from zittern.core.edits.notices import added_addresses, notice
from zittern.core.shot.shot import new_shot


class Made(unittest.TestCase):
    def test_a_first_layer_makes_its_lane_and_clip_too(self) -> None:
        before = new_shot("Bare")
        after = edited(before, {"type": "add_layer", "source": "noise"})
        self.assertEqual(added_addresses(before, after), ("lane:main", "clip:main", "layer:noise-1"))

    def test_several_from_the_bottom_up_wherever_they_stand(self) -> None:
        before = shot_with(layer(), layer("fast", seed=2))
        after = edited(before, {"type": "duplicate_layers", "layers": ["sway", "fast"]})
        self.assertEqual(added_addresses(before, after), ("layer:noise-1", "layer:noise-2"))
        self.assertEqual([each.id for _, each in after.layers()], ["sway", "noise-1", "fast", "noise-2"])

    def test_a_mount_and_nothing(self) -> None:
        before = shot_with(layer())
        path = {
            field: {"state": "fixed", "value": 0.0}
            for field in ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg")
        }
        move = {**path, "last_frame": 9}
        ridden = edited(before, {"type": "add_move", "name": "hand", "move": move})
        self.assertEqual(added_addresses(before, ridden), ("mount:path-1",))
        self.assertEqual((added_addresses(ridden, before), added_addresses(before, before)), ((), ()))


class Said(unittest.TestCase):
    PAIR = edited(
        shot_with(layer(), clip={"span_frames": (1.0, 60.0)}),
        {"type": "add_clip", "name": "Later", "first_frame": 49, "last_frame": 120, "lane": "main"},
    )

    def test_a_hole_that_an_edit_opens_is_told_once(self) -> None:
        away = edited(self.PAIR, {"type": "move_clip", "clip": "clip-1", "by_frames": 30})
        self.assertEqual(notice(self.PAIR, away), "frames 61 to 78 of the lane “Whole shot” have no clip now")
        further = edited(away, {"type": "move_clip", "clip": "clip-1", "by_frames": 10})
        self.assertEqual(notice(away, further), "")

    def test_clips_that_meet_a_clip_taken_away_and_its_end(self) -> None:
        meeting = edited(self.PAIR, {"type": "move_clip", "clip": "clip-1", "by_frames": 12})
        self.assertEqual(notice(self.PAIR, meeting), "")
        for change in (
            {"type": "remove_clip", "clip": "clip-1"},
            {"type": "set_span", "at": ["clip:clip-1"], "last_frame": 90},
        ):
            self.assertEqual(notice(self.PAIR, edited(self.PAIR, change)), "")

import unittest

from tests.core.making import layer, shot_with
from zittern.core.shot.ids import free_id, free_name


class Free(unittest.TestCase):
    def test_a_name_is_kept_or_gets_the_lowest_number(self) -> None:
        self.assertEqual(free_name("arm", set()), "arm")
        self.assertEqual(free_name("arm", {"arm"}), "arm-2")
        self.assertEqual(free_name("arm", {"arm", "arm-2", "arm-4"}), "arm-3")
        self.assertEqual(free_name("Mine", {"Mine"}, " "), "Mine 2")

    def test_an_id_is_none_of_a_layer_a_clip_or_a_lane(self) -> None:
        shot = shot_with(layer("noise-1"), layer("noise-3"))
        self.assertEqual(free_id(shot, "noise"), "noise-2")
        self.assertEqual(free_id(shot, "noise-1", ["noise-2"]), "noise-4")
        self.assertEqual(free_id(shot, "x" * 60), "x" * 32 + "-1")

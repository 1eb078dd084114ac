import unittest

from tests.core.making import layer, shot_with
from zittern.core.edits.address import change_at, get_at, number_at, set_at
from zittern.core.edits.titles import named, owners_title
from zittern.core.errors import EditError
from zittern.core.numbers.param import fixed
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.mounts import Mount

SHOT = shot_with(layer(), layer("b", seed=2), mounts=(Mount(id="a", name="Arm"), Mount(id="h", name="Head")))


class Places(unittest.TestCase):
    def test_what_is_set_is_got_and_all_else_is_shared(self) -> None:
        for at, value in (
            ("shot.sensor_mm", 24.0),
            ("mount:h.pan_deg", fixed(3.0)),
            ("lane:main.name", "Low"),
            ("clip:main.amount", fixed(0.5)),
            ("layer:b.axes.pan.on", False),
        ):
            after = set_at(SHOT, at, value)
            self.assertEqual(get_at(after, at), value)
            self.assertNotEqual(after, SHOT)
        self.assertIs(set_at(SHOT, "layer:b.mute", True).lanes[0].clips[0].layers[0], SHOT.lanes[0].clips[0].layers[0])
        self.assertIs(set_at(SHOT, "mount:h.name", "Neck").mounts[0], SHOT.mounts[0])

    def test_of_several_lanes_only_the_one_meant_changes(self) -> None:
        two = SHOT.replace(lanes=(*SHOT.lanes, Lane.of(Clip(id="top", name="Top", layers=(layer("c", seed=3),)))))
        after = set_at(two, "layer:c.mute", True)
        self.assertIs(after.lanes[0], two.lanes[0])
        self.assertTrue(after.lanes[1].clips[0].layers[0].mute)
        renamed = set_at(two, "lane:top.name", "Panic")
        self.assertEqual([lane.name for lane in renamed.lanes], ["Whole shot", "Panic"])
        self.assertEqual(change_at(two, "clip:top", lambda clip: clip.replace(mute=True)).lanes[1].clips[0].mute, True)

    def test_only_a_number_is_a_number(self) -> None:
        self.assertEqual(number_at(SHOT, "layer:b.weight").constant, 1.0)
        for at in ("layer:b.name", "layer:b", "shot.fps"):
            with self.subTest(at), self.assertRaisesRegex(EditError, "only a number"):
                number_at(SHOT, at)

    def test_ids_and_lists_are_not_set(self) -> None:
        for at in ("layer:b.id", "lane:main.clips", "shot.lanes", "shot.schema_version", "clip:main", "lane:gone.name"):
            with self.subTest(at), self.assertRaises(EditError) as caught:
                set_at(SHOT, at, "x")
            self.assertEqual(caught.exception.where, at)


class Names(unittest.TestCase):
    def test_several_of_a_kind_are_called_by_their_kind(self) -> None:
        self.assertEqual(owners_title(SHOT, ["mount:a", "mount:h"]), "2 mounts")
        self.assertEqual(owners_title(SHOT, ["layer:sway", "layer:b"]), "2 layers")
        self.assertEqual(owners_title(SHOT, ["mount:a"]), "“Arm”")
        self.assertEqual(owners_title(SHOT, ["mount:a", "layer:b"]), "2 parts")
        self.assertEqual((owners_title(SHOT, ["shot"]), named(["A", "B"], "key")), ("", "2 keys"))

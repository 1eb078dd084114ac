import unittest

import numpy as np

from tests.core.making import command, edited, layer, shot_with
from zittern.core.edits.notices import added_addresses
from zittern.core.edits.table import apply
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import as_stored, through_variant

SHOT = shot_with(layer(), layer("fast", seed=2))
CALM = edited(SHOT, {"type": "add_variant", "name": "Calm", "note": "for the close view"})


def names(shot: Shot) -> list[str]:
    return [each.name for each in shot.variants]


class Making(unittest.TestCase):
    def test_a_new_one_is_as_the_present_one_sample_by_sample_with_ids_of_its_own(self) -> None:
        self.assertEqual(
            (names(CALM), CALM.variant, CALM.variants[1].note), (["Main", "Calm"], "variant-1", "for the close view")
        )
        np.testing.assert_array_equal(evaluate(CALM).total, evaluate(SHOT).total)
        self.assertFalse(CALM.ids & as_stored(CALM).ids)
        self.assertEqual(added_addresses(SHOT, CALM), ("variant:variant-1",))

    def test_what_is_changed_in_one_stays_in_it(self) -> None:
        target = next(CALM.layers())[1].id
        muted = edited(CALM, {"type": "set_values", "values": [{"at": f"layer:{target}.mute", "value": True}]})
        np.testing.assert_array_equal(evaluate(as_stored(muted)).total, evaluate(SHOT).total)
        self.assertGreater(float(np.abs(evaluate(muted).total - evaluate(SHOT).total).max()), 0.1)

    def test_new_parts_have_ids_that_no_variant_has(self) -> None:
        more = edited(
            CALM, {"type": "add_layer", "source": "wave"}, {"type": "add_clip", "first_frame": 5, "last_frame": 9}
        )
        main = edited(
            as_stored(more),
            {"type": "add_layer", "source": "wave"},
            {"type": "add_clip", "first_frame": 5, "last_frame": 9},
        )
        self.assertFalse(main.ids & through_variant(main, "Calm").ids)

    def test_names_are_free_and_there_are_at_most_eight(self) -> None:
        shot = SHOT
        for _ in range(7):
            shot = edited(shot, {"type": "add_variant"})
        self.assertEqual(names(shot)[:4], ["Main", "Variant 2", "Variant 3", "Variant 4"])
        with self.assertRaisesRegex(EditError, "up to 8 variants; delete one first"):
            edited(shot, {"type": "add_variant"})
        with self.assertRaisesRegex(EditError, "called “Calm” already"):
            edited(CALM, {"type": "add_variant", "name": "Calm"})


class Keeping(unittest.TestCase):
    def test_named_noted_ordered(self) -> None:
        shot = edited(CALM, {"type": "set_variant", "variant": "variant-1", "name": "Still", "note": ""})
        self.assertEqual((names(shot), shot.variants[1].note), (["Main", "Still"], ""))
        self.assertEqual(
            names(edited(shot, {"type": "move_variant", "variant": "Still", "index": 0})), ["Still", "Main"]
        )
        with self.assertRaisesRegex(EditError, "called “Main” already"):
            edited(shot, {"type": "set_variant", "variant": "Still", "name": "Main"})
        with self.assertRaisesRegex(EditError, "no variant 'gone'"):
            edited(shot, {"type": "set_variant", "variant": "gone", "name": "New"})

    def test_deleting_the_one_that_is_seen_shows_what_is_left(self) -> None:
        left = edited(CALM, {"type": "remove_variant", "variant": "variant-1"})
        self.assertEqual((names(left), left.variant, left.lanes), (["Main"], "main", SHOT.lanes))
        for shot in (CALM, as_stored(CALM)):
            without_main = edited(shot, {"type": "remove_variant", "variant": "main"})
            self.assertEqual((without_main.main, without_main.variant), ("variant-1", "variant-1"))
            self.assertEqual(without_main.lanes, CALM.lanes)
        with self.assertRaisesRegex(EditError, "the only variant"):
            edited(SHOT, {"type": "remove_variant", "variant": "main"})

    def test_the_main_one_is_what_is_kept_in_the_document(self) -> None:
        shot = edited(CALM, {"type": "set_main", "variant": "variant-1"})
        self.assertEqual((as_stored(shot).variant, as_stored(shot).lanes), ("variant-1", CALM.lanes))

    def test_labels(self) -> None:
        for fields, label in (
            ({"type": "add_variant", "name": "Wild"}, "New variant “Wild”"),
            ({"type": "set_variant", "variant": "variant-1", "name": "Still"}, "Rename variant “Calm” to “Still”"),
            ({"type": "set_variant", "variant": "variant-1", "note": "x"}, "Note on variant “Calm”"),
            ({"type": "move_variant", "variant": "variant-1", "index": 0}, "Reorder variant “Calm”"),
            ({"type": "set_main", "variant": "variant-1"}, "Make “Calm” the main variant"),
            ({"type": "remove_variant", "variant": "variant-1"}, "Delete variant “Calm”"),
        ):  # fmt: skip
            self.assertEqual(command(**fields).label(CALM), label)


class Carrying(unittest.TestCase):
    def test_a_clip_comes_onto_the_lane_of_the_same_name_and_moves_as_there(self) -> None:
        clip = edited(CALM, {"type": "add_clip", "name": "Late", "first_frame": 20, "last_frame": 60})
        late = next(each.id for each in clip.clips() if each.name == "Late")
        clip = edited(clip, {"type": "add_handheld", "clip": late})
        carry = command(type="carry_to", to="main", clips=[late])
        after = apply(clip, carry)
        self.assertEqual(carry.label(clip), "Copy “Late” to variant “Main”")
        self.assertEqual(after.lanes, clip.lanes)
        gave = evaluate(as_stored(after)).total - evaluate(SHOT).total
        own = sum(evaluate(clip).layers[each.id] for each in next(c for c in clip.clips() if c.id == late).layers)
        np.testing.assert_allclose(gave, own, atol=1e-12)
        twice = apply(after, carry)
        self.assertEqual([len(lane.clips) for lane in as_stored(twice).lanes], [1, 2])

    def test_a_layer_comes_into_the_clip_of_the_same_name(self) -> None:
        fast = next(each.id for _, each in CALM.layers() if each.name == "Fast")
        after = as_stored(edited(CALM, {"type": "carry_to", "to": "main", "layers": [fast]}))
        np.testing.assert_allclose(
            evaluate(after).total - evaluate(SHOT).total, evaluate(SHOT).layers["fast"], atol=1e-12
        )
        self.assertEqual(len(list(after.clips())), 1)

    def test_what_cannot_be_carried(self) -> None:
        for fields, says in (
            ({"to": "main"}, "name clips or layers"),
            ({"to": "variant-1", "layers": ["x"]}, "the variant that these are in"),
            ({"to": "main", "layers": ["gone"]}, "no layer 'gone'"),
            ({"to": "gone", "layers": ["fast"]}, "no variant 'gone'"),
        ):  # fmt: skip
            with self.assertRaisesRegex(EditError, says):
                edited(CALM, {"type": "carry_to", **fields})

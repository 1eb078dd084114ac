import unittest
from unittest.mock import patch

import numpy as np

from tests.core.making import command, contribution, edited, layer, shot_with
from zittern.core.axes import AXES
from zittern.core.edits.table import apply
from zittern.core.errors import EditError
from zittern.core.shot.shot import Shot, new_shot

SHOT = shot_with(layer(), layer("fast", seed=2))


class Axes(unittest.TestCase):
    def test_copying_an_axis_takes_new_seeds(self) -> None:
        shot = edited(SHOT, {"type": "copy_axis", "layer": "sway", "axis": "pan", "to": list(AXES)})
        values = contribution(shot.replace(last_frame=24 * 700))
        np.testing.assert_allclose(2 * np.sqrt((values**2).mean(axis=0)), 0.5, rtol=0.1)
        self.assertLess(np.abs(np.corrcoef(values.T) - np.eye(len(AXES))).max(), 0.1)

    def test_linking_and_unlinking(self) -> None:
        linked = edited(SHOT, {"type": "link_axes", "layer": "sway", "axes": ["tilt"], "to": "pan"})
        values = contribution(linked)
        self.assertAlmostEqual(abs(np.corrcoef(values[:, 0], values[:, 1])[0, 1]), 1.0)
        self.assertEqual(edited(linked, {"type": "link_axes", "layer": "sway", "axes": ["tilt"]}), SHOT)

    def test_new_seeds_change_the_motion_and_not_its_size(self) -> None:
        one = edited(SHOT, {"type": "new_seeds", "layers": ["sway"], "axes": ["pan"]})
        before, after = contribution(SHOT), contribution(one)
        self.assertFalse(np.allclose(before[:, 0], after[:, 0]))
        np.testing.assert_array_equal(before[:, 1:], after[:, 1:])
        every = contribution(edited(SHOT, {"type": "new_seeds", "layers": ["sway"]}))
        self.assertFalse(np.any(np.all(np.isclose(before, every), axis=0)))


class Stack(unittest.TestCase):
    def ids(self, shot: Shot) -> list[str]:
        return [each.id for _, each in shot.layers()]

    def test_first_layer_makes_a_clip_over_the_whole_shot(self) -> None:
        shot = edited(new_shot("A"), {"type": "add_layer", "source": "noise"})
        self.assertEqual((len(shot.lanes), shot.lanes[0].clips[0].span_frames, self.ids(shot)), (1, None, ["noise-1"]))
        self.assertEqual(self.ids(edited(shot, {"type": "add_layer", "source": "noise"})), ["noise-1", "noise-2"])

    def test_removing_the_last_layer_removes_that_clip(self) -> None:
        self.assertEqual(edited(SHOT, {"type": "remove_layers", "layers": ["sway", "fast"]}).lanes, ())
        with self.assertRaisesRegex(EditError, "no layer 'gone'"):
            edited(SHOT, {"type": "remove_layers", "layers": ["gone"]})

    def test_duplicates_stand_above_and_move_differently(self) -> None:
        shot = edited(SHOT, {"type": "duplicate_layers", "layers": ["sway"]})
        self.assertEqual(self.ids(shot), ["sway", "noise-1", "fast"])
        a, b = contribution(shot), contribution(shot, "noise-1")
        self.assertFalse(np.allclose(a, b))
        alike = edited(SHOT, {"type": "duplicate_layers", "layers": ["sway"], "keep_seed": True})
        np.testing.assert_array_equal(contribution(alike, "noise-1"), contribution(alike))

    def test_several_at_once(self) -> None:
        both = edited(SHOT, {"type": "duplicate_layers", "layers": ["sway", "fast"]})
        self.assertEqual(self.ids(both), ["sway", "noise-1", "fast", "noise-2"])
        seeds = [each.seed for _, each in both.layers()]
        self.assertEqual(len(set(seeds)), 4)
        pasted = edited(SHOT, {"type": "paste_layers", "layers": [each.model_dump() for _, each in SHOT.layers()]})
        self.assertEqual([each.seed for _, each in pasted.layers()], [1, 2, 1, 2])
        started = edited(SHOT, {"type": "new_seeds", "layers": ["sway", "fast"]})
        self.assertEqual(len({each.seed for _, each in (*SHOT.layers(), *started.layers())}), 4)
        for fields, label in (
            ({"type": "duplicate_layers", "layers": ["sway", "fast"]}, "Duplicate 2 layers"),
            ({"type": "remove_layers", "layers": ["sway"]}, "Remove “Sway”"),
            ({"type": "new_seeds", "layers": ["sway", "fast"], "axes": ["pan"]}, "New seed of pan in 2 layers"),
        ):
            self.assertEqual(command(**fields).label(SHOT), label)

    def test_many_at_once_build_the_shot_once(self) -> None:
        many = [layer(f"many-{n}", seed=100 + n) for n in range(60)]
        ids = [each.id for each in many]
        for shot, fields in (
            (SHOT, {"type": "paste_layers", "layers": [each.model_dump() for each in many]}),
            (shot_with(*many), {"type": "duplicate_layers", "layers": ids}),
            (shot_with(*many), {"type": "new_seeds", "layers": ids}),
        ):
            made = command(**fields)
            with patch.object(Shot, "replace", autospec=True, side_effect=Shot.replace) as replaced:
                changed = apply(shot, made)
            self.assertLessEqual(replaced.call_count, 3, fields["type"])
            found = self.ids(changed)
            self.assertEqual(len(set(found)), len(found))

    def test_reorder(self) -> None:
        self.assertEqual(self.ids(edited(SHOT, {"type": "move_layer", "layer": "sway", "index": 9})), ["fast", "sway"])

    def test_paste_keeps_the_motion_and_drops_a_foreign_mount(self) -> None:
        foreign = layer("x", seed=5, target="crane")
        shot = edited(SHOT, {"type": "paste_layers", "layers": [foreign.model_dump()]})
        pasted = shot.lanes[0].clips[0].layers[-1]
        self.assertIsNone(pasted.target)
        np.testing.assert_array_equal(contribution(shot, pasted.id), contribution(shot_with(layer("x", seed=5)), "x"))

    def test_another_source_keeps_the_swings(self) -> None:
        shot = edited(SHOT, {"type": "set_source", "layer": "sway", "source": "wave"})
        self.assertEqual(shot.lanes[0].clips[0].layers[0].source.kind, "wave")
        self.assertEqual(shot.lanes[0].clips[0].layers[0].axes, SHOT.lanes[0].clips[0].layers[0].axes)

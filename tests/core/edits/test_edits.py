import unittest

import numpy as np

from tests.core.making import command, contribution, edited, layer, over, shot_with
from zittern.core.axes import AXES
from zittern.core.edits.address import owners_title
from zittern.core.edits.table import apply
from zittern.core.errors import EditError
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, new_shot

SHOT = shot_with(layer(), layer("fast", seed=2))


def set_one(at: str, value: object) -> dict[str, object]:
    return {"type": "set_values", "values": [{"at": at, "value": value}]}


class SettingValues(unittest.TestCase):
    def test_every_kind_of_owner(self) -> None:
        for at, value, read in (
            ("shot.name", "B", lambda s: s.name),
            ("shot.picture.width_px", 2048, lambda s: s.picture.width_px),
            ("clip:main.mute", True, lambda s: s.lanes[0].clips[0].mute),
            ("mount:camera.name", "Rig", lambda s: s.mounts[0].name),
            ("layer:fast.source.octaves", 5, lambda s: s.lanes[0].clips[0].layers[1].source.octaves),
            ("layer:sway.axes.roll.locked", True, lambda s: s.lanes[0].clips[0].layers[0].axes.roll.locked),
        ):
            self.assertEqual(read(edited(SHOT, set_one(at, value))), value, at)

    def test_the_shot_given_is_never_changed(self) -> None:
        before = SHOT.fingerprint
        edited(SHOT, set_one("layer:sway.weight", 0.5))
        self.assertEqual(shot_with(layer(), layer("fast", seed=2)).fingerprint, before)
        self.assertEqual(SHOT.lanes[0].clips[0].layers[0].weight.constant, 1.0)

    def test_faults_name_the_place(self) -> None:
        for at, value, pattern in (
            ("layer:gone.weight", 1, "no layer 'gone'"),
            ("clip:gone.amount", 1, "no clip 'gone'"),
            ("mount:gone.x_m", 1, "nothing is called"),
            ("layer:sway.wait", 1, "no field 'wait'"),
            ("layer:sway.source.octaves.more", 1, "no fields of its own"),
            ("layer:sway.id", "b", "cannot be set"),
            ("shot.mounts", [], "cannot be set"),
            ("layer:sway.axes.pan.swing", -1, "expected 0"),
            ("layer:sway.source.octaves", 10**9, "less than or equal to 8"),
            ("layer:sway.source.rate_hz", float("nan"), "finite"),
            ("layer:sway.source.rate_hz", -1, "expected 0 to 500, got -1$"),
            ("shot.last_frame", 0, "comes before the first"),
            ("layer:sway.target", "gone", "does not exist"),
        ):
            with self.subTest(at), self.assertRaisesRegex(EditError, pattern) as caught:
                edited(SHOT, set_one(at, value))
            self.assertTrue(caught.exception.where, at)

    def test_several_at_once_or_not_at_all(self) -> None:
        with self.assertRaises(EditError):
            edited(SHOT, {"type": "set_values", "values": [{"at": "shot.name", "value": "B"}, {"at": "shot.fps", "value": 0}]})
        self.assertEqual(SHOT.name, "Test")

    def test_labels_read_well(self) -> None:
        for fields, label in (
            (set_one("layer:sway.axes.pan.swing", 1), "Set swing of pan in “Sway”"),
            (set_one("layer:sway.mute", True), "Mute “Sway”"),
            (set_one("layer:sway.mute", False), "Unmute “Sway”"),
            (set_one("shot.focal_mm", 50), "Set focal length"),
            ({"type": "scale_swings", "layers": ["sway"], "factor": 1.5}, "Scale “Sway” to 150 %"),
            ({"type": "scale_swings", "layers": ["sway", "fast"], "factor": 0.5}, "Scale 2 layers to 50 %"),
            (
                {"type": "set_values", "values": [{"at": f"shot.{f}", "value": v} for f, v in (("first_frame", 1), ("last_frame", 9))]},
                "Set first frame, last frame",
            ),
            ({"type": "add_handheld"}, "Add handheld feel"),
            ({"type": "remove_layers", "layers": ["sway"]}, "Remove “Sway”"),
        ):
            self.assertEqual(command(**fields).label(SHOT), label)


class Axes(unittest.TestCase):
    def test_scaling_leaves_locked_axes_and_keeps_within_limits(self) -> None:
        shot = edited(SHOT, set_one("layer:sway.axes.tilt.locked", True), {"type": "scale_swings", "layers": ["sway"], "factor": 400})
        axes = shot.lanes[0].clips[0].layers[0].axes
        self.assertEqual((axes.pan.swing.constant, axes.tilt.swing.constant, axes.zoom.swing.constant), (180.0, 0.4, 90.0))

    def test_scaling_a_keyed_swing_scales_its_curve(self) -> None:
        swing = keyed((1, 0.2), (50, 1.0), (240, 0.4))
        shot = edited(SHOT, set_one("layer:sway.axes.pan.swing", swing.model_dump()), {"type": "scale_swings", "layers": ["sway"], "factor": 0.5})
        frames = np.linspace(1, 240, 50)
        np.testing.assert_allclose(shot.lanes[0].clips[0].layers[0].axes.pan.swing.sample(over(frames)), 0.5 * swing.sample(over(frames)), atol=1e-12)

    def test_axis_rate_is_in_hertz(self) -> None:
        shot = edited(SHOT, {"type": "set_axis_rate", "layer": "sway", "axes": ["pan", "roll"], "rate_hz": 1.2})
        self.assertAlmostEqual(shot.lanes[0].clips[0].layers[0].axes.pan.pace.constant, 2.0)
        with self.assertRaisesRegex(EditError, "stands still"):
            edited(SHOT, set_one("layer:sway.source.rate_hz", 0), {"type": "set_axis_rate", "layer": "sway", "axes": ["pan"], "rate_hz": 1.2})

    def test_copying_an_axis_takes_new_seeds(self) -> None:
        shot = edited(SHOT, {"type": "copy_axis", "layer": "sway", "axis": "pan", "to": list(AXES)})
        values = contribution(shot.replace(last_frame=24 * 700))
        np.testing.assert_allclose(2 * np.sqrt((values**2).mean(axis=0)), 0.5, rtol=0.1)
        self.assertLess(np.abs(np.corrcoef(values.T) - np.eye(7)).max(), 0.1)

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
            ({"type": "new_seeds", "layers": ["sway", "fast"], "axes": ["pan"]}, "New random start of pan in 2 layers"),
        ):
            self.assertEqual(command(**fields).label(SHOT), label)

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


class Bringing(unittest.TestCase):
    MOVE = {"x_m": 1, "y_m": 2, "z_m": 3, "pan_deg": 0, "tilt_deg": 0, "roll_deg": 0, "focal_mm": 50, "last_frame": 48}

    def test_the_path_is_replaced_and_the_layers_stay(self) -> None:
        rig = (Mount(id="crane", name="Crane"), Mount(id="head", name="Head"))
        shot = shot_with(layer(target="head"), layer("base", seed=2, target="crane"), mounts=rig)
        after = edited(shot, {"type": "replace_move", "name": "walk.glb", "move": self.MOVE})
        self.assertEqual([mount.id for mount in after.mounts], ["crane"])
        self.assertEqual([each.target for _, each in after.layers()], [None, "crane"])
        self.assertEqual((after.first_frame, after.last_frame, after.focal_mm.constant), (1, 48, 50.0))

    def test_a_command_survives_json(self) -> None:
        original = command(type="replace_move", name="walk.glb", move=self.MOVE)
        again = command(**original.model_dump(mode="json"))
        self.assertEqual(apply(SHOT, again), apply(SHOT, original))


class Names(unittest.TestCase):
    def test_several_of_a_kind_are_called_by_their_kind(self) -> None:
        shot = shot_with(layer(), layer("b", seed=2), mounts=(Mount(id="a", name="Arm"), Mount(id="h", name="Head")))
        self.assertEqual(owners_title(shot, ["mount:a", "mount:h"]), "2 mounts")
        self.assertEqual(owners_title(shot, ["layer:sway", "layer:b"]), "2 layers")
        self.assertEqual(owners_title(shot, ["mount:a"]), "“Arm”")
        self.assertEqual(owners_title(shot, ["mount:a", "layer:b"]), "2 parts")

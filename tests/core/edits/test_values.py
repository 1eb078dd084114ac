import unittest

import numpy as np

from tests.core.making import command, edited, layer, over, shot_with
from zittern.core.errors import EditError
from zittern.core.numbers.param import keyed

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
            ("layer:sway.source.octaves.more", 1, "no custom fields"),
            ("layer:sway.id", "b", "cannot be set"),
            ("shot.mounts", [], "cannot be set"),
            ("layer:sway.axes.pan.swing", -1, "expected 0"),
            ("layer:sway.source.octaves", 10**9, "expected 8 or less"),
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
            edited(
                SHOT,
                {"type": "set_values", "values": [{"at": "shot.name", "value": "B"}, {"at": "shot.fps", "value": 0}]},
            )
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
                {
                    "type": "set_values",
                    "values": [{"at": f"shot.{f}", "value": v} for f, v in (("first_frame", 1), ("last_frame", 9))],
                },
                "Set first frame, last frame",
            ),
            ({"type": "add_handheld"}, "Add handheld feel"),
            ({"type": "remove_layers", "layers": ["sway"]}, "Remove “Sway”"),
        ):
            self.assertEqual(command(**fields).label(SHOT), label)


class Axes(unittest.TestCase):
    def test_scaling_leaves_locked_axes_and_keeps_within_limits(self) -> None:
        shot = edited(
            SHOT,
            set_one("layer:sway.axes.tilt.locked", True),
            {"type": "scale_swings", "layers": ["sway"], "factor": 400},
        )
        axes = shot.lanes[0].clips[0].layers[0].axes
        self.assertEqual(
            (axes.pan.swing.constant, axes.tilt.swing.constant, axes.zoom.swing.constant), (180.0, 0.4, 90.0)
        )

    def test_scaling_a_keyed_swing_scales_its_curve(self) -> None:
        swing = keyed((1, 0.2), (50, 1.0), (240, 0.4))
        shot = edited(
            SHOT,
            set_one("layer:sway.axes.pan.swing", swing.model_dump()),
            {"type": "scale_swings", "layers": ["sway"], "factor": 0.5},
        )
        frames = np.linspace(1, 240, 50)
        np.testing.assert_allclose(
            shot.lanes[0].clips[0].layers[0].axes.pan.swing.sample(over(frames)),
            0.5 * swing.sample(over(frames)),
            atol=1e-12,
        )

    def test_axis_rate_is_in_hertz(self) -> None:
        shot = edited(SHOT, {"type": "set_axis_rate", "layer": "sway", "axes": ["pan", "roll"], "rate_hz": 1.2})
        self.assertAlmostEqual(shot.lanes[0].clips[0].layers[0].axes.pan.pace.constant, 2.0)
        with self.assertRaisesRegex(EditError, "stands still"):
            edited(
                SHOT,
                set_one("layer:sway.source.rate_hz", 0),
                {"type": "set_axis_rate", "layer": "sway", "axes": ["pan"], "rate_hz": 1.2},
            )

import unittest

import numpy as np

from tests.core.making import command, edited, layer, shot_with
from zittern.core.errors import EditError
from zittern.core.numbers.param import fixed, keyed

KEYED = layer("fast", seed=2, weight=keyed((1, 0.0), (100, 1.0), interp="linear"))
SHOT = shot_with(layer(), KEYED)
AT = ("layer:sway.weight", "layer:fast.weight")


def both(value: float, **fields: object) -> dict[str, object]:
    return {"type": "set_numbers", "frame": 50, "values": [{"at": at, "value": value} for at in AT], **fields}


class Numbers(unittest.TestCase):
    def test_fixed_ones_stay_fixed_and_keyed_ones_get_a_key(self) -> None:
        sway, fast = (each for _, each in edited(SHOT, both(0.9)).layers())
        self.assertEqual(sway.weight, fixed(0.9))
        self.assertEqual([(key.frame, key.value) for key in fast.weight.curve.keys], [(1, 0.0), (50, 0.9), (100, 1.0)])

    def test_every_change_keyed(self) -> None:
        sway, _ = (each for _, each in edited(SHOT, both(0.9, key=True)).layers())
        np.testing.assert_array_equal(sway.weight.breaks, [50.0])

    def test_faults_name_the_place_and_nothing_is_half_set(self) -> None:
        for at, value, pattern in (
            ("layer:fast.weight", 11, "expected 0 to 10"),
            ("layer:fast.name", 1, "only a number"),
            ("layer:gone.weight", 1, "no layer"),
        ):
            with self.subTest(at), self.assertRaisesRegex(EditError, pattern):
                edited(
                    SHOT,
                    {
                        "type": "set_numbers",
                        "frame": 1,
                        "values": [{"at": "layer:sway.weight", "value": 0.5}, {"at": at, "value": value}],
                    },
                )

    def test_what_a_formula_gives_is_not_taken_from_it(self) -> None:
        driven = edited(SHOT, {"type": "set_formula", "formulas": [{"at": AT[1], "text": "frame / 100"}]})
        alone = {"type": "set_numbers", "frame": 50, "values": [{"at": AT[1], "value": 0.5}]}
        with self.assertRaisesRegex(EditError, "weight in “Fast” follows a formula; change the formula"):
            edited(driven, alone)
        sway, fast = (each for _, each in edited(driven, both(0.5)).layers())
        self.assertEqual((sway.weight, fast.weight), (fixed(0.5), list(driven.layers())[1][1].weight))
        self.assertEqual(command(**both(0.5)).label(driven), "Set weight in “Sway”")

    def test_labels(self) -> None:
        for fields, expected in (
            (both(0.5), "Set weight in 2 layers at frame 50"),
            (
                {"type": "set_numbers", "frame": 3, "values": [{"at": "layer:sway.axes.pan.swing", "value": 1}]},
                "Set swing of pan in “Sway”",
            ),
            (
                {"type": "set_numbers", "frame": 3, "key": True, "values": [{"at": "shot.focal_mm", "value": 50}]},
                "Set focal length at frame 3",
            ),
        ):
            self.assertEqual(command(**fields).label(SHOT), expected)

    def test_faults_of_keys_have_the_address_and_its_name(self) -> None:
        for at, place in (
            ("layer:sway.axes.pan.swing", "swing of pan in “Sway”"),
            ("layer:fast.weight", "weight in “Fast”"),
        ):
            with self.subTest(at), self.assertRaisesRegex(EditError, "expected") as caught:
                edited(SHOT, {"type": "set_numbers", "frame": 1, "key": True, "values": [{"at": at, "value": 1e99}]})
            self.assertEqual((caught.exception.where, caught.exception.place), (at, place))


class Swings(unittest.TestCase):
    def test_each_axis_as_far_as_it_goes(self) -> None:
        wide = {"type": "set_swings", "layer": "sway", "frame": 1, "axes": ["pan", "tilt", "zoom"], "value": 120.0}
        axes = next(edited(SHOT, wide).layers())[1].axes
        self.assertEqual([axes.of(axis).swing.constant for axis in ("pan", "tilt", "zoom")], [120.0, 90.0, 90.0])
        self.assertEqual(axes.roll, next(SHOT.layers())[1].axes.roll)
        self.assertEqual(command(**wide).label(SHOT), "Set swing of pan, tilt, zoom in “Sway”")

    def test_one_axis_alone(self) -> None:
        axes = next(
            edited(SHOT, {"type": "set_swings", "layer": "sway", "frame": 1, "axes": ["roll"], "value": 0.9}).layers()
        )[1].axes
        self.assertEqual((axes.roll.swing.constant, axes.pan.swing.constant), (0.9, 0.5))

    def test_a_keyed_one_gets_a_key(self) -> None:
        at = "layer:sway.axes.pan.swing"
        moving = edited(SHOT, {"type": "set_keys", "keys": [{"at": at, "frame": 1, "value": 0.2}]})
        both = edited(
            moving, {"type": "set_swings", "layer": "sway", "frame": 60, "axes": ["pan", "tilt"], "value": 0.7}
        )
        axes = next(both.layers())[1].axes
        np.testing.assert_array_equal(axes.pan.swing.breaks, [1.0, 60.0])
        self.assertEqual(axes.tilt.swing, fixed(0.7))

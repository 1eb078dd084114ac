import unittest

import numpy as np

from tests.core.making import command, contribution, edited, layer, shot_with
from zittern.core.edits.address import number_at
from zittern.core.errors import EditError
from zittern.core.motion.facts import scope_at
from zittern.core.numbers.param import fixed, formula_of, keyed
from zittern.core.shot.shot import Shot

SHOT = shot_with(layer(weight=keyed((1, 0.0), (101, 1.0), interp="linear")), layer("fast", seed=2))
WEIGHT = "layer:sway.weight"


def typed(text: str, *at: str) -> dict[str, object]:
    return {"type": "set_formula", "formulas": [{"at": each, "text": text} for each in at or (WEIGHT,)]}


def weight_of(shot: Shot, frame: float) -> float:
    return number_at(shot, WEIGHT).at(scope_at(shot, frame))


class Drafts(unittest.TestCase):
    def test_what_was_in_force_stays_until_the_text_can_be_read(self) -> None:
        wrong = edited(SHOT, typed("sine(t)"))
        self.assertEqual((formula_of(number_at(wrong, WEIGHT)).draft, weight_of(wrong, 51.0)), ("sine(t)", 0.5))
        np.testing.assert_array_equal(contribution(wrong), contribution(SHOT))
        good = edited(wrong, typed("t / 10"))
        self.assertAlmostEqual(weight_of(good, 121.0), 0.5)
        again = edited(good, typed("t / 10 +"))
        self.assertEqual((formula_of(number_at(again, WEIGHT)).draft, weight_of(again, 121.0)), ("t / 10 +", 0.5))
        self.assertIsNone(formula_of(number_at(edited(again, typed("2")), WEIGHT)).draft)

    def test_ended_it_stays_where_it_was_or_gets_its_keys_back(self) -> None:
        end = {"type": "end_formula", "at": [WEIGHT], "frame": 121.0}
        self.assertEqual(edited(SHOT, typed("t / 10"), end).lanes[0].clips[0].layers[0].weight.constant, 0.5)
        self.assertEqual(edited(SHOT, typed("t +"), end), SHOT)
        with self.assertRaisesRegex(EditError, "no formula here"):
            edited(SHOT, end)

    def test_limits_hold_and_notices_say_so(self) -> None:
        wild = edited(SHOT, typed("1 / (f - 12) * 1000"))
        formula = formula_of(number_at(wild, WEIGHT))
        values = formula.sample(scope_at(wild, np.arange(1.0, 241.0)))
        self.assertEqual((values.min(), values.max()), (0.0, 10.0))
        notices = formula.notices(scope_at(wild, np.arange(1.0, 241.0)))
        self.assertEqual(notices, ("a division by zero counts as 0", "values outside 0 to 10 are clamped"))
        self.assertEqual(formula_of(number_at(edited(SHOT, typed("0.5")), WEIGHT)).notices(scope_at(SHOT, 1.0)), ())


class Several(unittest.TestCase):
    def test_all_in_one_step_with_a_readable_label(self) -> None:
        both = typed("u", WEIGHT, "layer:fast.weight")
        after = edited(SHOT, both)
        self.assertEqual([formula_of(each.weight).text for _, each in after.layers()], ["u", "u"])
        self.assertEqual(command(**both).label(SHOT), "Formula of weight in 2 layers")
        self.assertEqual(
            command(type="end_formula", at=[WEIGHT], frame=1).label(SHOT), "Convert to value of weight in “Sway”"
        )
        for at in ("layer:sway.name", "layer:gone.weight"):
            with self.assertRaises(EditError):
                edited(SHOT, typed("u", at))

    def test_scaling_scales_a_formula(self) -> None:
        at = "layer:sway.axes.pan.swing"
        moving = edited(SHOT, typed("t", at))
        scaled = edited(moving, {"type": "scale_swings", "layers": ["sway"], "factor": 1.5})
        scope = scope_at(moving, np.array([25.0, 97.0]))
        np.testing.assert_allclose(number_at(scaled, at).sample(scope), 1.5 * number_at(moving, at).sample(scope))
        self.assertGreater(np.abs(contribution(moving)[:, 0]).max(), 0.5)

    def test_keys_set_beside_others_leave_it_alone_and_by_themselves_are_refused(self) -> None:
        driven, speed = edited(SHOT, typed("t")), "layer:sway.speed"
        keys = [{"at": WEIGHT, "frame": 25}, {"at": speed, "frame": 25, "value": 2.0}]
        both = edited(driven, {"type": "set_keys", "keys": keys})
        self.assertEqual(number_at(both, WEIGHT), number_at(driven, WEIGHT))
        self.assertEqual([key.value for key in number_at(both, speed).curve.keys], [2.0])
        samples = [{"frame": 1, "value": 0.5}, {"frame": 9, "value": 1.0}]
        for alone in (
            {"type": "set_keys", "keys": keys[:1]},
            {"type": "record_keys", "at": WEIGHT, "samples": samples},
            {"type": "draw_keys", "at": WEIGHT, "samples": samples},
        ):
            with self.subTest(alone["type"]), self.assertRaisesRegex(EditError, "weight in “Sway” follows a formula"):
                edited(driven, alone)

    def test_a_camera_that_is_placed_keeps_what_a_formula_gives(self) -> None:
        pan = "mount:camera.pan_deg"
        driven = edited(SHOT, {"type": "set_formula", "formulas": [{"at": pan, "text": "10 * sin(t)"}]})
        for placed in (
            {"type": "place_lens", "position_m": (1.0, 2.0, 3.0), "angles_deg": (40.0, 5.0, 0.0)},
            {"type": "fly", "pan_deg": 4.0, "truck_m": 1.0},
        ):
            moved = edited(driven, {**placed, "frame": 10})
            self.assertEqual(number_at(moved, pan), number_at(driven, pan))
            self.assertNotEqual(moved, driven)


class DialOfANumber(unittest.TestCase):
    def test_the_dial_takes_value_or_keys_over_and_nothing_moves(self) -> None:
        swing = "layer:sway.axes.pan.swing"
        for at, unit, times, name in ((swing, "°", 1.0, "swing_of_pan"), (WEIGHT, "%", 100.0, "weight")):
            with self.subTest(at=at):
                made = edited(SHOT, {"type": "make_dial", "at": at, "unit": unit, "times": times})
                dial = made.dials[-1]
                self.assertEqual((dial.name, dial.unit), (name, unit))
                np.testing.assert_allclose(contribution(made), contribution(SHOT), atol=1e-12)
                turned = edited(
                    made,
                    {"type": "set_values", "values": [{"at": f"dial:{name}.value", "value": fixed(0.0).model_dump()}]},
                )
                self.assertEqual(number_at(turned, at).at(scope_at(turned, 60.0)), 0.0)
        self.assertEqual(
            [
                key.value
                for key in edited(SHOT, {"type": "make_dial", "at": WEIGHT, "times": 100.0}).dials[0].value.curve.keys
            ],
            [0.0, 100.0],
        )

    def test_names_that_are_taken_are_told_apart_and_formulas_are_left_alone(self) -> None:
        twice = edited(
            SHOT, *({"type": "make_dial", "at": f"layer:{each}.axes.pan.swing"} for each in ("sway", "fast"))
        )
        self.assertEqual([dial.name for dial in twice.dials], ["swing_of_pan", "swing_of_pan_2"])
        with self.assertRaisesRegex(EditError, "this number has a formula"):
            edited(twice, {"type": "make_dial", "at": "layer:sway.axes.pan.swing"})
        self.assertEqual(command(type="make_dial", at=WEIGHT).label(SHOT), "Make a dial of weight in “Sway”")

    def test_free_curves_have_room_for_what_they_reach(self) -> None:
        bent = edited(SHOT, {"type": "set_handles", "at": WEIGHT, "frame": 1, "handle_out": [30, 6.0]})
        made = edited(bent, {"type": "make_dial", "at": WEIGHT})
        np.testing.assert_allclose(contribution(made), contribution(bent), atol=1e-12)

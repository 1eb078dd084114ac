import unittest

import numpy as np

from tests.core.making import edited, layer, over, shot_with
from zittern.core.edits.writing import names_at, state_of
from zittern.core.errors import EditError
from zittern.core.numbers.param import by_formula, fixed

SHOT = edited(shot_with(layer()), {"type": "add_dial", "name": "panic", "unit": "%"})
WEIGHT = "layer:sway.weight"


class Names(unittest.TestCase):
    def test_dials_first_and_facts_only_where_they_may_be_read(self) -> None:
        at_layer, at_mount = names_at(SHOT, WEIGHT), names_at(SHOT, "mount:camera.x_m")
        self.assertEqual((at_layer[0].name, at_layer[0].told), ("panic", "dial, 0 to 100 %"))
        self.assertIn("speed", [each.name for each in at_layer])
        self.assertNotIn("speed", [each.name for each in at_mount])
        self.assertNotIn("panic", [each.name for each in names_at(SHOT, "dial:panic.value")])
        self.assertIn("mix(a, b, share)", [each.written for each in at_mount])
        self.assertTrue(all(each.told for each in at_layer))


class States(unittest.TestCase):
    def test_faults_are_located(self) -> None:
        for at, text, start, stop, pattern in (
            (WEIGHT, "panik / 2", 0, 5, "did you mean `panic`"),
            (WEIGHT, "1 + sine(t)", 4, 8, "did you mean `sin`"),
            (WEIGHT, "t +", 3, 3, "missing at the end"),
            ("mount:camera.x_m", "2 * speed", 4, 9, "on the path that this number shapes"),
            ("dial:panic.value", "panic + 1", 0, 5, "is not known"),
        ):
            state = state_of(SHOT, at, text)
            self.assertRegex(state.fault or "", pattern)
            self.assertEqual((state.start, state.stop), (start, stop), text)

    def test_what_lies_beyond_the_limits_and_a_hundredth_of_it(self) -> None:
        for text, gives, clamped, hundredth in (
            ("30", (30.0, 30.0), (None, 10.0), "(30) / 100"),
            ("0.3", (0.3, 0.3), (None, None), None),
            ("-2", (-2.0, -2.0), (0.0, None), None),
            ("4000", (4000.0, 4000.0), (None, 10.0), None),
            ("12 * u", (0.0, 12.0), (None, 10.0), "(12 * u) / 100"),
        ):
            state = state_of(SHOT, WEIGHT, text)
            self.assertEqual((state.gives, state.clamped, state.hundredth), (gives, clamped, hundredth), text)
            self.assertEqual(state.notices, ())

    def test_templates_can_be_read_and_a_decaying_sine_decays(self) -> None:
        templates = {each.name: each.insert for each in names_at(SHOT, WEIGHT) if each.template}
        for text in templates.values():
            self.assertIsNone(state_of(SHOT, WEIGHT, text).fault)
        formula = by_formula(templates["decaying sine"], fixed(0.0))
        seconds = np.array([0.125, 1.125, 2.125, 3.125])
        values = formula.sample(over(24.0 * seconds))
        np.testing.assert_allclose(values[1:] / values[:-1], 0.5, atol=1e-9)

    def test_circles_and_notices(self) -> None:
        half = edited(
            SHOT,
            {"type": "add_dial", "name": "half"},
            {"type": "set_formula", "formulas": [{"at": "dial:half.value", "text": "panic / 2"}]},
        )
        self.assertIn("panic → half → panic", state_of(half, "dial:panic.value", "half").fault or "")
        state = state_of(SHOT, WEIGHT, "panic / 100")
        self.assertEqual((state.fault, state.notices, state.gives, state.hundredth), (None, (), (0.0, 0.0), None))
        self.assertEqual(state_of(SHOT, WEIGHT, "1 / (f - f)").notices, ("a division by zero counts as 0",))
        with self.assertRaises(EditError):
            state_of(SHOT, "layer:sway.name", "1")

import unittest
from typing import Annotated

import numpy as np

from zittern.core.doc import Doc
from zittern.core.errors import DocumentError
from zittern.core.numbers.limits import bounded, limits_of
from zittern.core.numbers.param import Param, by_formula, fixed, keyed
from zittern.core.numbers.scope import Scope
from zittern.core.timebase import Fps


class Knob(Doc):
    value: Annotated[Param, bounded(0.0, 2.0)] = fixed(1.0)
    name: str = "knob"


class Limits(unittest.TestCase):
    def test_they_are_told_and_checked_when_set(self) -> None:
        self.assertEqual(limits_of(Knob.model_fields["value"]), (0.0, 2.0))
        self.assertIsNone(limits_of(Knob.model_fields["name"]))
        self.assertEqual(Knob(value=2).value.limits, (0.0, 2.0))  # type: ignore[arg-type]
        for wrong in (2.5, -0.001, keyed((1, 0.0), (9, 3.0))):
            with self.assertRaisesRegex(DocumentError, "expected 0 to 2, got"):
                Knob().replace(value=wrong)

    def test_they_hold_at_every_frame_whatever_a_formula_gives(self) -> None:
        scope = Scope(np.arange(1.0, 50.0), Fps(num=24), 1.0)
        values = Knob(value=by_formula("3 * sin(20 * t)", fixed(0.0))).value.sample(scope)  # type: ignore[arg-type]
        self.assertEqual((values.min(), values.max()), (0.0, 2.0))

    def test_equal_numbers_are_shared_and_zero_keeps_its_sign(self) -> None:
        self.assertIs(Knob(value=fixed(0.5)).value, Knob(value=fixed(0.5)).value)
        plus, minus = (Knob(value=fixed(each)).value for each in (0.0, -0.0))
        self.assertEqual([np.signbit(each.set_values()[0]) for each in (plus, minus)], [False, True])

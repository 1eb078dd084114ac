import unittest
from typing import Annotated

import numpy as np

from zittern.core.documents.doc import Doc
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

    def test_they_hold_just_the_same_where_a_formula_cannot_leave_them_as_where_it_can(self) -> None:
        scope = Scope(np.arange(1.0, 50.0), Fps(num=24), 1.0)
        wave = np.sin(20.0 * scope.seconds)
        for size, shift in ((0.5, 0.5), (0.5, 1.5), (1.0, 1.0), (1.0, -0.5), (3.0, 0.0), (1e13, 0.0)):
            number = Knob(value=by_formula(f"{shift} + {size} * sin(20 * t)", fixed(0.0))).value  # type: ignore[arg-type]
            np.testing.assert_allclose(
                number.sample(scope), np.clip(shift + size * wave, 0.0, 2.0), atol=1e-12, err_msg=f"{size} {shift}"
            )
            self.assertLessEqual(number.sample(scope).max(), number.maximum)
            self.assertLessEqual(number.maximum, 2.0)

    def test_the_same_number_in_other_limits_has_those(self) -> None:
        scope, number = Scope(np.arange(1.0, 50.0), Fps(num=24), 1.0), by_formula("3 * sin(20 * t)", fixed(0.0))
        for limits in ((-1.0, 1.0), (0.0, 2.0), (-5.0, 2.5)):
            number = number.within(*limits)
            values = number.sample(scope)
            self.assertEqual((number.limits, number.maximum), (limits, limits[1]))
            np.testing.assert_array_equal(values, np.clip(3.0 * np.sin(20.0 * scope.seconds), *limits))

    def test_equal_numbers_are_shared_and_zero_keeps_its_sign(self) -> None:
        self.assertIs(Knob(value=fixed(0.5)).value, Knob(value=fixed(0.5)).value)
        plus, minus = (Knob(value=fixed(each)).value for each in (0.0, -0.0))
        self.assertEqual([np.signbit(each.set_values()[0]) for each in (plus, minus)], [False, True])

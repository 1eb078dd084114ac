import unittest
from typing import Annotated

import numpy as np
from pydantic import TypeAdapter, ValidationError

from zittern.core.params import Fixed, Keyed, Param, bounded, keyed

PARAM: TypeAdapter[Fixed | Keyed] = TypeAdapter(Param)
SHARE: TypeAdapter[Fixed | Keyed] = TypeAdapter(Annotated[Param, bounded(0.0, 1.0)])


class States(unittest.TestCase):
    def test_a_number_stands_for_a_fixed_one(self) -> None:
        self.assertEqual(PARAM.validate_python(2), Fixed(value=2.0))

    def test_json_keeps_the_state(self) -> None:
        for param in (Fixed(value=0.25), keyed((1, 0.0), (10, 1.0))):
            self.assertEqual(PARAM.validate_json(PARAM.dump_json(param)), param)

    def test_unknown_state_and_truth_values_are_refused(self) -> None:
        for wrong in ({"state": "guess", "value": 1}, True, "1", None, {"value": 1}):
            with self.subTest(wrong), self.assertRaises(ValidationError):
                PARAM.validate_python(wrong)

    def test_bounds_hold_for_every_key(self) -> None:
        SHARE.validate_python(0.5)
        for wrong in (1.5, keyed((1, 0.5), (2, -0.1))):
            with self.subTest(wrong), self.assertRaisesRegex(ValidationError, "expected 0 to 1"):
                SHARE.validate_python(wrong)

    def test_constant_only_when_it_never_changes(self) -> None:
        self.assertEqual(Fixed(value=3.0).constant, 3.0)
        self.assertEqual(keyed((5, 2.0)).constant, 2.0)
        self.assertIsNone(keyed((5, 2.0), (6, 2.0)).constant)

    def test_samples(self) -> None:
        frames = np.array([1.0, 5.5, 10.0])
        np.testing.assert_array_equal(Fixed(value=3.0).sample(frames), [3, 3, 3])
        np.testing.assert_allclose(keyed((1, 0.0), (10, 1.0), interp="linear").sample(frames), [0, 0.5, 1])

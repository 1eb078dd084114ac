import unittest

import numpy as np

from zittern.core.formula.grammar import parse
from zittern.core.formula.scaling import scaled, unscaled
from zittern.core.formula.tree import values_of
from zittern.core.units import Array

T = np.linspace(-2.0, 2.0, 41)


def values(text: str) -> Array:
    return values_of(parse(text), lambda name: T, len(T))


class Scaling(unittest.TestCase):
    def test_it_is_what_it_says_however_often(self) -> None:
        for text in ("t", "15 + 3*sin(t)", "(t + 1) * 2", "(t) * (t)", "(1 + t) * 2.5 - 3", "-t"):
            expected, made = values(text), text
            for factor, shift in ((2.0, 0.0), (-0.5, 1.5), (1e-3, -7.0), (1.0, 0.25), (3.0, 0.0)):
                expected, made = expected * factor + shift, scaled(made, factor, shift)
                np.testing.assert_allclose(values(made), expected, rtol=1e-12, atol=1e-12, err_msg=made)
            self.assertLessEqual(made.count("("), text.count("(") + 1)

    def test_taken_back_it_is_the_text_that_was(self) -> None:
        for factor, shift in ((3.0, 0.0), (-0.1, 4.0), (7.0, -2.5)):
            self.assertEqual(scaled(scaled("sin(t) + 1", factor, shift), 1.0 / factor, -shift / factor), "sin(t) + 1")

    def test_brackets_that_belong_to_others_are_left(self) -> None:
        self.assertEqual(unscaled("(t) * (u)"), ("(t) * (u)", 1.0, 0.0))
        self.assertEqual(unscaled("(t + 1) * 2 - 3"), ("t + 1", 2.0, -3.0))

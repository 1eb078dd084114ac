import math
import unittest

from zittern.core.formula.arithmetic import worked_out
from zittern.core.formula.fault import FormulaFault


class Typed(unittest.TestCase):
    def test_figures_sums_and_units(self) -> None:
        for text, value in (
            ("12", 12.0), (" -0.5 ", -0.5), ("0,4", 0.4), ("0.4*2", 0.8), ("(1 + 2) / 4", 0.75), ("2 ^ 3", 8.0), ("-2 ^ 2", -4.0),
            ("50 %", 50.0), ("50%", 50.0), ("3 cm", 3.0), ("0,5°", 0.5), ("2 Hz", 2.0), ("1.5x", 1.5), ("1e3 mm", 1000.0), (".5s", 0.5), ("4 m", 4.0),
            ("sqrt(2)", math.sqrt(2)), ("min(1,2)", 1.0), ("7 % 4", 3.0), ("sin(pi / 2)", 1.0), ("1 / 0", 0.0),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(worked_out(text, 99.0), value, places=12)

    def test_what_stands_there_is_changed(self) -> None:
        for text, value in (("+=2", 12.0), ("-= 3 cm", 7.0), ("*=1,5", 15.0), ("/=4", 2.5), ("/=0", 10.0), ("*= -1", -10.0)):
            with self.subTest(text):
                self.assertEqual(worked_out(text, 10.0), value)

    def test_what_is_no_number_is_told_with_its_place(self) -> None:
        for text, pattern, start in (
            ("", "needs a number", 0),
            ("0.4 **2", "write \\^ for powers", 4),
            ("sine(1)", "did you mean `sin`", 0),
            ("2 * t", "write = before a formula", 4),
            ("2 * panic", "write = before a formula", 4),
            ("1 + ", "missing at the end", 3),
            ("1e999", "too large", 0),
            ("__import__('os')", "no texts", 11),
            ("1" * 501, "at most 500", 500),
            ("*=1e300", "too large", 0),
        ):
            with self.subTest(text[:40]), self.assertRaisesRegex(FormulaFault, pattern) as caught:
                worked_out(text, 1e300)
            self.assertEqual(caught.exception.start, start)

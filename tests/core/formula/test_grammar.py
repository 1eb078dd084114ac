import random
import re
import unittest
from pathlib import Path

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.making import layer, shot_with
from zittern.core.formula.fault import FormulaFault
from zittern.core.formula.functions import FUNCTIONS, LARGEST
from zittern.core.formula.grammar import MOST_CHARACTERS, RESERVED, parse, renamed
from zittern.core.formula.tree import BUILT_IN, names_in, values_of
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import by_formula, fixed
from zittern.core.shot.dials import Dial
from zittern.core.shot.upgrades import read_shot, write_shot

REFERENCE = Path(__file__).parents[3] / "docs/formula-language.md"
SCOPE = {
    "t": np.arange(5) / 24.0,
    "f": np.arange(1.0, 6.0),
    "fps": np.array(24.0),
    "u": np.linspace(0.0, 1.0, 5),
    "panic": np.array([0.0, 25.0, 50.0, 75.0, 100.0]),
}
# What attackers and mistaken people write.
PIECES = (
    "__class__", "__import__('os')", "().__class__.__bases__[0]", "eval(", "lambda x: x", "9" * 400, "9**9**9",
    "10^10^10", "((((", "))))",
    "t.real", "[t]", "{}", "’", "\u202e", "ｓｉｎ(t)", "sіn(t)", "\x00", "\U0001f600", "if", "then", "else",
    "and or not",
    "noise(",
    "min(" + "1," * 50, "-" * 200, "1e308*10", "0/0", "NaN", "inf", "%s", "${t}", "<script>", ";", "#", "\\", "\n",
    "t t", "=", "==", "!=",
    "sin sin", "_", "import os", "1_000", "0x1f", "1e", ".", "..", "1.2.3",
)  # fmt: skip


def values(text: str) -> list[float]:
    return values_of(parse(text), SCOPE.__getitem__, 5).round(9).tolist()


class Meaning(unittest.TestCase):
    def test_signs_bind_as_in_mathematics(self) -> None:
        for text, expected in (
            ("1 + 2 * 3", 7), ("(1 + 2) * 3", 9), ("-2 ^ 2", -4), ("2 ^ 3 ^ 2", 512), ("2 ^ -1", 0.5),
            ("10 - 4 - 3", 3), ("12 / 3 / 2", 2),
            ("7 % 3", 1), ("-7 % 3", 2), ("1 < 2", 1), ("2 <= 1", 0), ("1 = 1 and 2 <> 2", 0), ("not 0 or 0", 1),
            ("1 or 1 and 0", 1), ("- - 3", 3),
            ("if 1 > 2 then 5 else 6", 6), ("if 0 then 1 else if 1 then 2 else 3", 2), (".5e1", 5), ("+3", 3),
            ("tau / pi", 2),
        ):  # fmt: skip
            self.assertEqual(values(text), [expected] * 5, text)

    def test_names_are_arrays_over_frames(self) -> None:
        self.assertEqual(values("panic / 100"), [0, 0.25, 0.5, 0.75, 1])
        self.assertEqual(values("if u >= 0.5 then f else 0"), [0, 0, 3, 4, 5])
        self.assertEqual(names_in(parse("mix(panic, t, u) + sin(2)")), {"panic", "t", "u"})
        self.assertEqual(values("iffy" if "iffy" in SCOPE else "f"), [1, 2, 3, 4, 5])

    @given(st.lists(st.sampled_from(["+", "-", "*"]), min_size=1, max_size=12), st.randoms())
    def test_sums_and_products_as_python_works_them_out(self, signs: list[str], rng: random.Random) -> None:
        text = str(rng.randint(0, 9)) + "".join(f" {sign} {rng.randint(0, 9)}" for sign in signs)
        self.assertEqual(values(text)[0], float(eval(text)))  # only digits and three signs


class Faults(unittest.TestCase):
    def test_where_and_what_to_do(self) -> None:
        for text, start, stop, pattern in (
            ("sine(t)", 0, 4, "did you mean `sin`"), ("2 * noize(t)", 4, 9, "did you mean `noise`"),
            ("t +", 3, 3, "missing at the end: a number"),
            ("(t", 2, 2, r"missing at the end: `\)`"), ("if t then 1", 11, 11, "`else`"),
            ("t == 1", 2, 4, "write = once"), ("t ** 2", 2, 4, "write \\^"),
            ("t.real", 1, 2, "dot"), ("sin", 0, 3, r"write sin\(x\)"), ("clamp(t, 1)", 0, 10, "got 2 arguments"),
            ("1 2", 2, 3, "a sign such as"),
            ("", 0, 0, "needs a number"), ("t &", 2, 3, "write and"), ("1e999", 0, 5, "too large"),
            ("а", 0, 1, "letters a to z"),
            ("x" * (MOST_CHARACTERS + 1), MOST_CHARACTERS, MOST_CHARACTERS + 1, "up to"),
        ):  # fmt: skip
            with self.subTest(text[:20]), self.assertRaisesRegex(FormulaFault, pattern) as caught:
                parse(text)
            self.assertEqual((caught.exception.start, caught.exception.stop), (start, stop), text[:20])

    def test_depth_is_bounded(self) -> None:
        for text in ("-" * 100 + "1", "1+(" * 100 + "1" + ")" * 100, "sin(" * 100 + "1" + ")" * 100, "2^" * 100 + "2"):
            with self.assertRaisesRegex(FormulaFault, "deep"):
                parse(text)
        self.assertEqual(values("1" + "+1" * 50)[0], 51.0)

    def test_hostile_texts_give_a_value_or_a_fault(self) -> None:
        rng = random.Random(5)
        alphabet = [
            *PIECES,
            *FUNCTIONS,
            *BUILT_IN,
            "1",
            "2.5",
            "(",
            ")",
            ",",
            "+",
            "-",
            "*",
            "/",
            "^",
            "%",
            " ",
            "panic",
        ]
        for _ in range(4000):
            text = "".join(rng.choice(alphabet) for _ in range(rng.randint(1, 14)))
            try:
                node = parse(text)
                found = values_of(node, lambda name: SCOPE.get(name, np.array(0.0)), 5)
                self.assertTrue(np.all(np.isfinite(found)) and np.abs(found).max() <= LARGEST, text)
            except FormulaFault as fault:
                self.assertTrue(0 <= fault.start <= fault.stop <= len(text), text)


class Names(unittest.TestCase):
    def test_renaming_changes_the_name_alone(self) -> None:
        self.assertEqual(
            renamed("panic + panic_2 * sin(panic) - apanic", "panic", "alarm"), "alarm + panic_2 * sin(alarm) - apanic"
        )
        self.assertEqual(renamed("panic + (", "panic", "alarm"), "alarm + (")

    def test_the_exponent_of_a_number_is_no_name(self) -> None:
        self.assertEqual(renamed("1.e5 / 100000 + e5", "e5", "e7"), "1.e5 / 100000 + e7")
        self.assertEqual(renamed("2e5 + .5e5 * e5 + 3E5 + xe5 + e55", "e5", "e7"), "2e5 + .5e5 * e7 + 3E5 + xe5 + e55")
        self.assertEqual(renamed("1.e5e5 +", "e5", "e7"), "1.e5e7 +")

    def test_nobody_takes_a_name_that_means_something(self) -> None:
        self.assertTrue({"t", "u", "sin", "pi", "if", "not"} <= RESERVED)


class Reference(unittest.TestCase):
    def test_every_function_and_name_is_in_the_reference(self) -> None:
        text = REFERENCE.read_text()
        for name in RESERVED:
            self.assertIn(f"`{name}", text, name)

    def test_examples_are_true(self) -> None:
        rows = re.findall(r"^\| `([^`]+)` \| `(-?[\d.]+)` \|", REFERENCE.read_text(), re.M)
        self.assertGreater(len(rows), 20)
        for text, expected in rows:
            look = {"t": 0.5, "f": 13.0, "fps": 24.0, "u": 0.25, "panic": 40.0, "speed": 1.4, "frame": 13.0}
            found = values_of(parse(text.replace("\\|", "|")), lambda name, look=look: np.array(look[name]), 1)[0]  # type: ignore[misc]
            self.assertAlmostEqual(found, float(expected), places=3, msg=text)


class OtherWays(unittest.TestCase):
    """What people bring from spreadsheets and other programs."""

    def test_a_leading_equals_sign_and_a_choice_as_a_function(self) -> None:
        values = np.array([1.0, 2.0, 3.0])
        for text, same in (
            ("=2 * x", "2 * x"),
            ("  = x + 1", "x + 1"),
            ("if(x > 1, 5, 6)", "if x > 1 then 5 else 6"),
            ("1 + if(x > 1, 5, 6) * 2", "1 + (if x > 1 then 5 else 6) * 2"),
            ("if(x > 1, if(x > 2, 7, 8), 6)", "if x > 1 then if x > 2 then 7 else 8 else 6"),
            ("7 % 4", "mod(7, 4)"),
        ):
            found, expected = (values_of(parse(each), lambda _: values, 3) for each in (text, same))
            np.testing.assert_array_equal(found, expected, text)
        for text in ("=", "==2", "if(x, 2)", "if(x, 2, 3, 4)"):
            with self.assertRaises(FormulaFault):
                parse(text)

    def test_frame_is_the_frame_unless_a_dial_is_called_so(self) -> None:
        shot = shot_with(layer(weight=by_formula("frame / 100", fixed(1.0))), last_frame=100)
        named = shot_with(layer(weight=by_formula("f / 100", fixed(1.0))), last_frame=100)
        np.testing.assert_array_equal(evaluate(shot).total, evaluate(named).total)
        dial = Dial(name="frame", minimum=0.0, maximum=1000.0, value=fixed(50.0))
        half = shot.replace(dials=(dial,))
        np.testing.assert_allclose(evaluate(half).weights["sway"], 0.5)
        cache = Cache()
        for each in (shot, half, shot):
            np.testing.assert_array_equal(evaluate(each, cache=cache).total, evaluate(each).total)
        again = shot.replace(dials=(Dial(name="twice", value=by_formula("2 * frame", fixed(1.0))),))
        self.assertEqual(read_shot(write_shot(again)), again)

import unittest

import numpy as np

from zittern.core.formula.functions import FUNCTIONS, LARGEST
from zittern.core.formula.grammar import parse
from zittern.core.formula.tree import AXIS_NAME, Notices, values_of

X = np.linspace(-3.0, 3.0, 601)


def of(text: str, x: np.ndarray = X, axis: float = 0.0) -> np.ndarray:
    return values_of(parse(text), {"x": x, AXIS_NAME: np.asarray(axis)}.__getitem__, len(x))


class Values(unittest.TestCase):
    def test_against_numpy(self) -> None:
        for text, expected in (
            ("sin(x)", np.sin(X)), ("cos(x)", np.cos(X)), ("abs(x)", np.abs(X)), ("sign(x)", np.sign(X)),
            ("floor(x)", np.floor(X)), ("ceil(x)", np.ceil(X)),
            ("fract(x)", X % 1.0), ("mod(x, 2)", X % 2.0), ("exp(x)", np.exp(X)),
            ("min(x, 1, 0.5)", np.minimum(X, 0.5)), ("max(x, -1)", np.maximum(X, -1)),
            ("clamp(x, -1, 2)", np.clip(X, -1, 2)), ("mix(2, 4, x)", 2 + 2 * X), ("pow(2, x)", 2.0**X),
            ("round(x)", np.round(X)),
        ):  # fmt: skip
            np.testing.assert_allclose(of(text), expected, atol=1e-12, err_msg=text)

    def test_smoothstep_is_level_at_both_ends(self) -> None:
        step = of("smoothstep(-1, 2, x)")
        self.assertTrue(np.all(step[X <= -1] == 0) and np.all(step[X >= 2] == 1))
        self.assertTrue(np.all(np.diff(step) >= 0))
        self.assertAlmostEqual(step[np.argmin(np.abs(X - 0.5))], 0.5, places=9)
        np.testing.assert_array_equal(of("smoothstep(1, 1, x)"), (X >= 1).astype(float))

    def test_a_number_alone_that_is_too_large_is_held_as_any_other_is(self) -> None:
        for text in ("1e308", "9" * 50):
            notices = Notices()
            self.assertEqual(values_of(parse(text), {}.__getitem__, 2, notices).tolist(), [LARGEST, LARGEST])
            self.assertEqual(notices.texts, [f"what is too large stays at {LARGEST:g}"])

    def test_pulse_and_decay(self) -> None:
        self.assertAlmostEqual(of("pulse(x)").mean(), 0.5, places=2)
        self.assertAlmostEqual(of("pulse(x, 0.2)").mean(), 0.2, places=2)
        fall = of("decay(x, 0.5)")
        np.testing.assert_array_equal(fall[X < 0], 0.0)
        np.testing.assert_allclose(fall[X >= 0], 0.5 ** (X[X >= 0] / 0.5), atol=1e-12)

    def test_noise_has_unit_size_its_own_rate_and_a_seed(self) -> None:
        t = np.arange(0.0, 4000.0, 0.02)
        one, other = of("noise(x)", t), of("noise(x, 2)", t)
        self.assertAlmostEqual(np.sqrt(np.mean(one**2)), 1.0, delta=0.05)
        self.assertLess(abs(np.corrcoef(one, other)[0, 1]), 0.05)
        power = np.abs(np.fft.rfft(one.reshape(-1, 2000), axis=1)) ** 2
        rates = np.fft.rfftfreq(2000, 0.02)
        self.assertAlmostEqual(rates[np.argmax(np.convolve(power.mean(axis=0), np.ones(9), "same"))], 1.0, delta=0.35)
        np.testing.assert_array_equal(of("noise(x)", t[100:200]), one[100:200])
        np.testing.assert_allclose(of("noise(x, x * 0)", t[:50]), of("noise(x, 0)", t[:50]))


class Holes(unittest.TestCase):
    def test_what_is_reckoned_without_a_net_needs_none(self) -> None:
        huge = np.array([-LARGEST, -1.0, -1e-300, 0.0, 1e-300, 1.0, LARGEST])
        inner = (
            "x",
            "1e12",
            "-x",
            "x * x",
            "x - 1e12",
            "sin(x)",
            "noise(x)",
            "noise(x, x)",
            "exp(x)",
            "x / x",
            "x ^ x",
        )
        texts = [f"{outer}({one}) {sign} ({other})" for outer in ("", "sin", "cos", "noise")
                 for one in inner for other in inner for sign in "+-*"]  # fmt: skip
        tame = [text for text in texts if parse(text).tame]
        self.assertGreater(len(tame), len(texts) // 4)
        with np.errstate(all="raise", under="ignore"):
            for text in texts:
                self.assertLessEqual(np.max(np.abs(of(text, huge))), LARGEST, text)

    def test_what_a_formula_gives_is_its_own(self) -> None:
        for text in ("x", "x * 1", "x + 0", "max(x, x)", "if x < 0 then x else x", "1"):
            before = X.copy()
            of(text)[:] = 7.0
            np.testing.assert_array_equal(X, before)
            self.assertNotEqual(float(of(text)[0]), 7.0)

    def test_what_has_no_answer_has_one_and_says_so(self) -> None:
        for text, value, notice in (
            ("1 / 0", 0.0, "division"), ("5 % 0", 0.0, "division"), ("mod(5, 0)", 0.0, "division"),
            ("log(0)", 0.0, "logarithm"), ("log(-3)", 0.0, "logarithm"),
            ("sqrt(-4)", 0.0, "root"), ("10 ^ 400", LARGEST, "too large"), ("-exp(1000)", -LARGEST, "too large"),
            ("(-8) ^ 0.5", 0.0, ""), ("0 ^ -1", 0.0, ""),
            ("1e300 * 1e300", LARGEST, "too large"), ("decay(1, 0)", 1.0, ""), ("noise(1e300)", None, ""),
            ("sin(1e300)", None, ""),
        ):  # fmt: skip
            notices = Notices()
            found = values_of(parse(text), {AXIS_NAME: np.asarray(0.0)}.__getitem__, 3, notices)
            self.assertTrue(np.all(np.isfinite(found)), text)
            if value is not None:
                np.testing.assert_array_equal(found, value, err_msg=text)
            self.assertEqual(
                any(notice in each for each in notices.texts), bool(notice), (text, notices.texts)
            ) if notice else None

    def test_every_function_is_told(self) -> None:
        for function in FUNCTIONS.values():
            self.assertTrue(function.told and 1 <= function.least <= function.most, function.name)

    def test_no_value_is_larger_than_what_is_known_beforehand(self) -> None:
        x = np.concatenate([np.linspace(-40.0, 40.0, 2001), [1e11, -1e11, 3e9]])
        for text, most in (
            ("sin(x)", 1.0), ("cos(x ^ 3) * -3", 3.0), ("noise(x)", 8.0), ("noise(x * 7) - 2 * sin(x) + 1", 11.0),
            ("1e9 * sin(x) * 1e9", np.inf), ("x * 1e3", np.inf), ("exp(x) + 1", np.inf),
        ):  # fmt: skip
            with self.subTest(text):
                bound = parse(text).bound
                self.assertLessEqual(bound, most)
                self.assertEqual(np.isfinite(bound) and bound <= LARGEST, np.isfinite(most))
                self.assertLessEqual(np.abs(of(text, x)).max(), min(bound, LARGEST))

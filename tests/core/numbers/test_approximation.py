import unittest
from collections.abc import Callable

import numpy as np

from tests.core.making import over
from zittern.core.errors import DocumentError
from zittern.core.numbers.approximation import TOLERANCE, approximated
from zittern.core.numbers.param import Number
from zittern.core.units import Array

NO_LIMITS = (-np.inf, np.inf)
# Close to keys, too, where a jump takes two of them.
FRAMES = np.linspace(1.0, 200.0, 7919)


def made(
    function: Callable[[Array], Array], breaks: tuple[float, ...] = (), limits: tuple[float, float] = NO_LIMITS
) -> Number:
    return approximated(function, np.array(breaks), (1.0, 200.0), limits)


class Approximated(unittest.TestCase):
    def test_smooth_functions_are_followed_between_frames_with_few_keys(self) -> None:
        for function, most in (
            (lambda f: 3.0 + np.sin(0.2 * f), 64),
            (lambda f: np.exp(-0.02 * f), 12),
            (lambda f: (f / 100.0) ** 3, 2),
            (lambda f: 2.0 * f + 5.0, 2),
        ):
            number = made(function)
            scale = float(np.max(np.abs(function(FRAMES))))
            np.testing.assert_allclose(number.sample(over(FRAMES)), function(FRAMES), atol=1.5 * TOLERANCE * scale)
            self.assertLessEqual(len(number.curve.keys), most)

    def test_what_never_changes_is_fixed(self) -> None:
        self.assertEqual(made(lambda f: np.full(len(f), 0.7), (50.0,)).constant, 0.7)

    def test_the_integral_is_kept(self) -> None:
        fine = np.linspace(1.0, 200.0, 400_001)

        def function(frames: Array) -> Array:
            return 2.0 + np.sin(0.37 * frames) * np.cos(0.05 * frames)

        off = made(function).sample(over(fine)) - function(fine)
        self.assertLess(abs(np.trapezoid(off, fine)) / 199.0, 0.02 * TOLERANCE)

    def test_jumps_stay_jumps_at_breaks_and_elsewhere(self) -> None:
        for at, breaks in ((60.0, (60.0,)), (71.3, ())):
            number = made(lambda f, at=at: np.where(f < at, 1.0, 4.0 + 0.01 * f), breaks)
            before, after = number.sample(over([at - 0.01, at + 0.01]))
            np.testing.assert_allclose([before, after], [1.0, 4.0 + 0.01 * (at + 0.01)], atol=1e-3)

    def test_outside_the_range_it_holds(self) -> None:
        number = made(lambda f: f)
        np.testing.assert_allclose(number.sample(over([-50.0, 0.0, 1.0, 200.0, 500.0])), [1.0, 1.0, 1.0, 200.0, 200.0])

    def test_keys_stay_within_limits(self) -> None:
        values = [key.value for key in made(lambda f: 5.0 * np.sin(0.1 * f), (), (-1.0, 4.0)).curve.keys]
        self.assertTrue(min(values) >= -1.0 and max(values) <= 4.0)

    def test_what_no_curve_can_hold_is_refused(self) -> None:
        noise = np.random.default_rng(3)
        with self.assertRaisesRegex(DocumentError, "expected a motion that 200000 keys can follow"):
            approximated(lambda f: noise.standard_normal(len(f)), np.empty(0), (1.0, 20_000.0), NO_LIMITS)

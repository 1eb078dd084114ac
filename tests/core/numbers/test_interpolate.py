import unittest

import numpy as np
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq

from zittern.core.numbers import interpolate

FRAMES = np.array([0.0, 5.0, 6.0, 20.0])
VALUES = np.array([1.0, 3.0, 3.0, -2.0])


class Segments(unittest.TestCase):
    def test_left_key_belongs_to_its_segment_and_the_last_to_the_last(self) -> None:
        got = interpolate.segment_of(FRAMES, np.array([-1.0, 0.0, 4.9, 5.0, 5.5, 6.0, 20.0, 99.0]))
        np.testing.assert_array_equal(got, [0, 0, 0, 1, 1, 2, 2, 2])


class Smooth(unittest.TestCase):
    def test_without_flat_ends_it_is_scipys_pchip(self) -> None:
        slopes = interpolate.smooth_slopes(FRAMES, VALUES, False, False)
        at = np.linspace(0, 20, 81)
        np.testing.assert_allclose(
            interpolate.smooth_curve(FRAMES, VALUES, slopes)(at), PchipInterpolator(FRAMES, VALUES)(at), atol=1e-12
        )

    def test_flat_ends_touch_the_ends_only(self) -> None:
        free, flat = (interpolate.smooth_slopes(FRAMES, VALUES, on, on) for on in (False, True))
        self.assertEqual((flat[0], flat[-1]), (0.0, 0.0))
        np.testing.assert_array_equal(free[1:-1], flat[1:-1])


class CatmullRom(unittest.TestCase):
    def test_a_parabola_comes_back_and_samples_are_passed(self) -> None:
        u = np.linspace(0, 1, 11)
        near = [np.full(11, (at - 0.3) ** 2) for at in (-1.0, 0.0, 1.0, 2.0)]
        np.testing.assert_allclose(interpolate.catmull_rom(near, u), (u - 0.3) ** 2, atol=1e-12)


class Bezier(unittest.TestCase):
    def test_a_straight_one_is_a_line(self) -> None:
        x = np.linspace(0, 1, 21)
        third = np.full(21, 1 / 3)
        got = interpolate.bezier_at(x, third, 2 * third, np.zeros(21), third * 6, 2 * third * 6, np.full(21, 6.0))
        np.testing.assert_allclose(got, 6 * x, atol=1e-12)

    def test_ends_are_exact(self) -> None:
        x = np.array([0.0, 1.0])
        got = interpolate.bezier_at(
            x, np.full(2, 0.9), np.full(2, 0.1), np.full(2, 5.0), np.zeros(2), np.ones(2), np.full(2, -3.0)
        )
        np.testing.assert_allclose(got, [5.0, -3.0], atol=1e-9)

    def test_an_independent_solver_finds_the_same_upright_ones_too(self) -> None:
        rng = np.random.default_rng(4)
        ends = [(1.0, 0.0), (0.0, 1.0), (1.0, 1.0), (0.0, 0.0), *map(tuple, rng.random((20, 2)))]
        x = np.concatenate([np.linspace(0.0, 1.0, 41), [1e-9, 1.0 - 1e-9, 0.5 + 1e-7]])
        for x1, x2 in ends:
            wanted = []
            for place in x:
                s = brentq(
                    lambda s, x1=x1, x2=x2, place=place: (
                        3 * (1 - s) ** 2 * s * x1 + 3 * (1 - s) * s * s * x2 + s**3 - place
                    ),
                    0.0,
                    1.0,
                    xtol=1e-15,
                )
                wanted.append(2.0 * (1 - s) ** 3 - 3 * (1 - s) ** 2 * s + 3 * (1 - s) * s * s * 5.0 + 4.0 * s**3)
            rows = [np.full(len(x), each) for each in (x1, x2, 2.0, -1.0, 5.0, 4.0)]
            np.testing.assert_allclose(interpolate.bezier_at(x, *rows), wanted, atol=1e-9, err_msg=f"{x1}, {x2}")

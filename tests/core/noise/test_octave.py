import unittest

import numpy as np

from zittern.core.noise import streams
from zittern.core.noise.octave import OCTAVE_RMS, fractal, octave

SEEDS = np.array([streams.mix(5, axis) for axis in range(3)], dtype=np.uint64)


def one_by_one(
    steps: np.ndarray, share: np.ndarray, octaves: int, seeds: np.ndarray, totals: np.ndarray | None
) -> np.ndarray:
    total, size, power = octave(steps, 0, seeds, totals), np.ones_like(share), np.ones_like(share)
    for number in range(1, octaves):
        size = size * share
        power = power + size * size
        total = total + size * octave(steps, number, seeds, totals)
    return total / (np.sqrt(power) * OCTAVE_RMS)


class Fractal(unittest.TestCase):
    def test_it_is_the_sum_of_its_octaves_to_the_last_bit(self) -> None:
        rng = np.random.default_rng(3)
        for name, steps in (
            ("even", np.arange(3000.0) * 0.11),
            ("backwards", -np.arange(3000.0) * 0.7 + 40.0),
            ("standing", np.full(50, 7.25)),
            ("far apart", np.array([0.0, 1e9, -3e7])),
            ("jumping", rng.uniform(-50.0, 50.0, 900)),
            ("one", np.array([0.5])),
            ("none", np.empty(0)),
        ):
            rows = np.stack([steps, steps * 1.5, steps - 3.0])
            share = rng.uniform(0.0, 1.0, len(steps))
            for octaves in (1, 4, 8):
                for totals in (None, np.array([12.5, 30.0, 0.0])):
                    with self.subTest(steps=name, octaves=octaves, repeats=totals is not None):
                        made = fractal(rows, share, octaves, SEEDS, totals)
                        np.testing.assert_array_equal(made, one_by_one(rows, share, octaves, SEEDS, totals))

    def test_a_part_equals_the_same_of_the_whole(self) -> None:
        steps = np.arange(5000.0)[None] * 0.13 + np.zeros((3, 1))
        share = np.full(5000, 0.6)
        whole = fractal(steps, share, 5, SEEDS)
        np.testing.assert_array_equal(fractal(steps[:, 1500:1600], share[1500:1600], 5, SEEDS), whole[:, 1500:1600])

    def test_one_row_for_all_axes_is_the_same_row_three_times(self) -> None:
        steps, share = np.arange(2000.0)[None] * 0.13, np.full(2000, 0.6)
        for totals in (None, np.array([12.5, 30.0, 0.0])):
            one, three = (fractal(rows, share, 4, SEEDS, totals) for rows in (steps, np.repeat(steps, 3, axis=0)))
            np.testing.assert_array_equal(one, three)

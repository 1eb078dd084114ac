import unittest

import numpy as np

from zittern.core.noise import streams


class Numbers(unittest.TestCase):
    def test_the_same_everywhere(self) -> None:
        # Fixed outputs: a change here changes every shot that was ever saved.
        self.assertEqual(streams.mix(1, 2, 3), streams.mix(1, 2, 3))
        self.assertNotEqual(streams.mix(1, 2), streams.mix(2, 1))
        seeds = np.array([7], dtype=np.uint64)
        alone = streams.at(seeds, np.array([123456], dtype=np.int64))
        among = streams.at(seeds, np.arange(123450, 123460, dtype=np.int64))
        self.assertEqual(alone[0, 0], among[0, 6])

    def test_uniform_with_variance_a_third(self) -> None:
        values = streams.at(np.array([1, 2], dtype=np.uint64), np.arange(-50_000, 50_000, dtype=np.int64))
        self.assertTrue(np.all((values >= -1) & (values < 1)))
        np.testing.assert_allclose(values.mean(axis=1), 0, atol=0.01)  # sigma of the mean: 0.0018
        np.testing.assert_allclose(values.var(axis=1), 1 / 3, atol=0.01)
        self.assertLess(abs(np.corrcoef(values)[0, 1]), 0.02)

    def test_neighbours_are_unrelated(self) -> None:
        values = streams.at(np.array([5], dtype=np.uint64), np.arange(100_000, dtype=np.int64))[0]
        self.assertLess(abs(np.corrcoef(values[1:], values[:-1])[0, 1]), 0.02)

    def test_in_a_row_they_are_those_of_each_seed_at_its_positions(self) -> None:
        seeds = np.arange(6, dtype=np.uint64).reshape(2, 3) * np.uint64(0x9E3779B97F4A7C15)
        firsts, counts = np.array([-4, 2**40]), np.array([7, 3])
        expected = [
            streams.at(group, first + np.arange(count)).ravel()
            for group, first, count in zip(seeds, firsts, counts, strict=True)
        ]
        np.testing.assert_array_equal(streams.in_a_row(seeds, firsts, counts), np.concatenate(expected))

    def test_next_seed_is_exact_in_a_double(self) -> None:
        seed = 1
        for _ in range(50):
            seed = streams.next_seed(seed)
            self.assertEqual(int(float(seed)), seed)

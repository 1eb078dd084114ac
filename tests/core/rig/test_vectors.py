"""Lengths against numpy's own."""

import unittest

import numpy as np

from zittern.core.rig.vectors import lengths, turned


class Turned(unittest.TestCase):
    def test_each_by_the_matrix_of_its_frame(self) -> None:
        rng = np.random.default_rng(5)
        for k in (2, 3):
            turn, vectors = rng.normal(size=(4, 3, k)), rng.normal(size=(4, 6, k))
            np.testing.assert_allclose(turned(turn, vectors), np.einsum("fik,fnk->fni", turn, vectors), atol=1e-13)


class Lengths(unittest.TestCase):
    def test_as_numpy_has_them(self) -> None:
        vectors = np.random.default_rng(3).normal(0.0, 1e3, (200, 3))
        np.testing.assert_allclose(lengths(vectors), np.linalg.norm(vectors, axis=1), rtol=1e-14)

    def test_of_nothing_and_of_what_is_not_known(self) -> None:
        self.assertEqual(lengths(np.empty((0, 3))).shape, (0,))
        found = lengths(np.array([[0.0, np.nan], [0.0, -0.0]]))
        self.assertTrue(np.isnan(found[0]))
        self.assertEqual(found[1], 0.0)

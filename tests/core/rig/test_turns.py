import unittest

import numpy as np
from scipy.spatial.transform import Rotation

from zittern.core.rig import turns

RNG = np.random.default_rng(3)
VECTORS = RNG.normal(size=(200, 3)) * RNG.uniform(0.0, 1.8, size=(200, 1))


class Vectors(unittest.TestCase):
    def test_as_scipy_has_them(self) -> None:
        np.testing.assert_allclose(turns.from_vectors(VECTORS), Rotation.from_rotvec(VECTORS).as_matrix(), atol=1e-12)

    def test_there_and_back(self) -> None:
        short = VECTORS * np.minimum(1.0, 3.14 / np.linalg.norm(VECTORS, axis=1))[:, None]
        np.testing.assert_allclose(turns.vectors(turns.from_vectors(short)), short, atol=1e-9)
        tiny = 1e-9 * VECTORS
        np.testing.assert_allclose(turns.vectors(turns.from_vectors(tiny)), tiny, atol=1e-15)

    def test_half_a_turn_has_its_axis(self) -> None:
        axes = VECTORS / np.linalg.norm(VECTORS, axis=1)[:, None]
        for angle in (np.pi, np.pi - 1e-7, 3.12):
            rotation = turns.from_vectors(axes * angle)
            np.testing.assert_allclose(turns.from_vectors(turns.vectors(rotation)), rotation, atol=1e-7)
        np.testing.assert_array_equal(turns.vectors(np.eye(3)[None]), 0.0)


class Between(unittest.TestCase):
    def test_what_turns_the_first_into_the_second_also_by_half_a_turn(self) -> None:
        start = turns.from_vectors(VECTORS)
        axes = VECTORS / np.linalg.norm(VECTORS, axis=1)[:, None]
        for step in (0.5 * VECTORS, 1e-9 * VECTORS, np.pi * axes, (np.pi - 1e-7) * axes):
            stop = start @ turns.from_vectors(step)
            found = turns.between(start, stop)
            np.testing.assert_allclose(start @ turns.from_vectors(found), stop, atol=1e-7)
            self.assertLess(np.max(np.linalg.norm(found, axis=1)), np.pi + 1e-9)
        np.testing.assert_allclose(turns.between(start, start @ turns.from_vectors(0.5 * VECTORS)), 0.5 * VECTORS)


class Chained(unittest.TestCase):
    def test_as_one_after_another(self) -> None:
        steps = turns.from_vectors(0.1 * VECTORS)
        wanted = [steps[0]]
        for step in steps[1:]:
            wanted.append(step @ wanted[-1])
        np.testing.assert_allclose(turns.chained(steps), wanted, atol=1e-12)
        self.assertEqual(turns.chained(steps[:1]).shape, (1, 3, 3))

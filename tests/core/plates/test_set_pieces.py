import unittest

import numpy as np

from zittern.core.plates.set_pieces import Piece, first_met

RNG = np.random.default_rng(5)


def by_planes(triangles: np.ndarray, start: np.ndarray, stop: np.ndarray) -> float:
    """The first triangle on a way, by its plane and its three edges, one after another."""
    best = np.inf
    for a, b, c in triangles:
        normal = np.cross(b - a, c - a)
        along = normal @ (stop - start)
        if abs(along) < 1e-12:
            continue
        share = normal @ (a - start) / along
        if not 0.0 < share <= min(1.0, best):
            continue
        at = start + share * (stop - start)
        if all(normal @ np.cross(q - p, at - p) >= 0.0 for p, q in ((a, b), (b, c), (c, a))):
            best = share
    return best


def scattered(count: int) -> np.ndarray:
    return RNG.uniform(-4.0, 4.0, (count, 1, 3)) + RNG.normal(size=(count, 3, 3))


def turned(seconds: np.ndarray) -> np.ndarray:
    """Round the upright axis once in eight seconds, and up by a metre a second."""
    angle = 2.0 * np.pi * seconds / 8.0
    out = np.tile(np.eye(4), (len(seconds), 1, 1))
    out[:, 0, 0] = out[:, 2, 2] = np.cos(angle)
    out[:, 0, 2], out[:, 2, 0] = np.sin(angle), -np.sin(angle)
    out[:, 1, 3] = seconds
    return out


class FirstMet(unittest.TestCase):
    def test_against_planes_and_edges_one_by_one(self) -> None:
        for count in (1, 15, 16, 17, 230):
            triangles = scattered(count)
            start, stop = RNG.uniform(-6.0, 6.0, (2, 40, 3))
            found = first_met(Piece("heap", frozenset(), triangles), start, stop, np.zeros(40))
            expected = [by_planes(triangles, a, b) for a, b in zip(start, stop, strict=True)]
            np.testing.assert_allclose(found, expected, rtol=1e-9, err_msg=str(count))
            self.assertTrue(count == 1 or np.isfinite(found).any())

    def test_what_moves_is_met_where_it_is_then(self) -> None:
        triangles, seconds = scattered(60), RNG.uniform(0.0, 8.0, 40)
        start, stop = RNG.uniform(-6.0, 6.0, (2, 40, 3))
        found = first_met(Piece("mill", frozenset(), triangles, turned), start, stop, seconds)
        for n, world in enumerate(turned(seconds)):
            there = triangles @ world[:3, :3].T + world[:3, 3]
            self.assertAlmostEqual(found[n], by_planes(there, start[n], stop[n]), places=9)

    def test_a_wall_that_comes_to_somebody_who_stands_still(self) -> None:
        wall = np.array([[[-9.0, -9.0, 0.0], [9.0, -9.0, 0.0], [0.0, 9.0, 0.0]]])

        def forward(seconds: np.ndarray) -> np.ndarray:
            out = np.tile(np.eye(4), (len(seconds), 1, 1))
            out[:, 2, 3] = seconds
            return out

        piece, here = Piece("wall", frozenset(), wall, forward), np.array([[0.0, 0.0, 1.5]])
        self.assertAlmostEqual(first_met(piece, here, here, np.array([1.0]), np.array([2.0]))[0], 0.5)
        self.assertEqual(first_met(piece, here, here, np.array([2.0]), np.array([3.0]))[0], np.inf)

    def test_no_way_is_met_by_nothing(self) -> None:
        piece = Piece("heap", frozenset(), scattered(20))
        self.assertEqual(len(first_met(piece, np.empty((0, 3)), np.empty((0, 3)), np.empty(0))), 0)
        here = np.zeros((3, 3))
        self.assertTrue(np.all(np.isinf(first_met(piece, here, here, np.zeros(3)))))

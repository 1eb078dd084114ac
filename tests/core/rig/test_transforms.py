import unittest

import numpy as np

from zittern.core.axes import no_offsets
from zittern.core.rig import transforms

RNG = np.random.default_rng(5)


class Parts(unittest.TestCase):
    def test_a_pivot_stays_where_it_is(self) -> None:
        pivot = np.array([0.3, -1.2, 0.5])
        tf = transforms.from_parts(np.zeros((1, 3)), np.array([[40.0, 20.0, -10.0]]), pivot)[0]
        np.testing.assert_allclose(tf @ [*pivot, 1.0], [*pivot, 1.0], atol=1e-12)

    def test_offsets_move_along_the_cameras_own_axes_in_centimetres(self) -> None:
        offsets = no_offsets(np.arange(3.0))
        offsets[0, 3], offsets[1, 4], offsets[2, 5] = 100.0, 50.0, 25.0
        moved = transforms.offset_transforms(offsets)[:, :3, 3]
        np.testing.assert_allclose(moved, [[1, 0, 0], [0, 0.5, 0], [0, 0, -0.25]], atol=1e-12)

    def test_zoom_does_not_move_the_camera(self) -> None:
        offsets = no_offsets(np.zeros(1))
        offsets[0, 6] = 50.0
        np.testing.assert_array_equal(transforms.offset_transforms(offsets), transforms.identity(1))


class Product(unittest.TestCase):
    def test_whichever_of_them_stays_the_same(self) -> None:
        rng = np.random.default_rng(4)
        way = transforms.from_parts(rng.normal(0.0, 3.0, (5, 3)), rng.normal(0.0, 60.0, (5, 3)))
        still = np.broadcast_to(way[3], way.shape)
        for one in (way, still, way[:1]):
            for other in (way, still, way[:1]):
                if len(one) == len(other):
                    np.testing.assert_allclose(transforms.product(one, other), one @ other, atol=1e-12)

    def test_what_only_shifts_and_what_does_nothing(self) -> None:
        way = transforms.from_parts(RNG.normal(0.0, 3.0, (5, 3)), RNG.normal(0.0, 60.0, (5, 3)))
        shift = transforms.from_parts(np.array([[0.2, 0.0, -1.0]]), np.zeros((1, 3)))
        for one in (shift, transforms.identity(1)):
            before, still = way.copy(), np.broadcast_to(one[0], way.shape)
            np.testing.assert_allclose(transforms.product(way, still), way @ still, atol=1e-12)
            np.testing.assert_array_equal(way, before)

    def test_rotations_one_after_another_and_back_whichever_way_they_lie_in_memory(self) -> None:
        way = transforms.from_parts(RNG.normal(0.0, 3.0, (5, 3)), RNG.normal(0.0, 60.0, (5, 3)))
        for one in (way, np.ascontiguousarray(way), way[::-1]):
            turn = one[:, :3, :3]
            np.testing.assert_allclose(
                transforms.rotation_product(turn, way[:, :3, :3]), turn @ way[:, :3, :3], atol=1e-12
            )
            np.testing.assert_allclose(one @ transforms.inverse(one), transforms.identity(5), atol=1e-12)


class Orthonormal(unittest.TestCase):
    def test_takes_scale_out_and_leaves_the_rotation(self) -> None:
        turn = transforms.from_parts(np.zeros((1, 3)), np.array([[33.0, -12.0, 5.0]]))[:, :3, :3]
        for scale in (2.0, 0.01):
            np.testing.assert_allclose(transforms.orthonormal(turn * scale), turn, atol=1e-12)

    def test_mirrored_input_comes_out_right_handed(self) -> None:
        mirrored = np.diag([-1.0, 1.0, 1.0])[None]
        self.assertAlmostEqual(float(np.linalg.det(transforms.orthonormal(mirrored)[0])), 1.0, places=12)

import unittest

import numpy as np

from zittern.core.optics.distortion import distorted, turn_back, undistorted, undistorted_nearly


def radius(seen: float, k1: float, k2: float) -> float:
    """The least root of r + k1 r^3 + k2 r^5 = seen, by the eigenvalues of its companion matrix."""
    roots = np.roots([k2, 0.0, k1, 0.0, 1.0, -seen])
    real = roots[np.abs(roots.imag) < 1e-9].real
    return float(np.min(real[real > 0.0]))


class Bending(unittest.TestCase):
    def setUp(self) -> None:
        rng = np.random.default_rng(5)
        self.k = np.stack([rng.uniform(-10.0, 10.0, 300), rng.uniform(-100.0, 100.0, 300)], axis=1)
        self.k[:200] *= rng.uniform(0.0, 0.05, (200, 1))
        self.k[:4] = [[0.0, 0.0], [-0.2, 0.0], [0.3, 0.0], [0.0, -1.0]]
        self.places = rng.normal(0.0, 0.5, (300, 40, 2)) * rng.uniform(0.0, 3.0, (300, 40, 1))
        self.places[:, 0] = 0.0

    def test_looking_up_is_the_inverse_whatever_the_numbers(self) -> None:
        np.testing.assert_allclose(undistorted(distorted(self.places, self.k), self.k), self.places, atol=1e-10)
        np.testing.assert_allclose(distorted(undistorted(self.places, self.k), self.k), self.places, atol=1e-10)

    def test_frames_that_share_their_coefficients_give_the_same_as_each_alone(self) -> None:
        for k in ([-0.12, 0.02], [0.3, 0.0], [-0.2, 0.0], [0.0, -1.0], [-2.0, 8.0], [5.0, 40.0], [-0.3, 0.1]):
            shared = np.tile([k], (20, 1))
            for size in (0.05, 0.5, 1.0):
                places = self.places[:20] * size
                found = undistorted(distorted(places, shared), shared)
                np.testing.assert_allclose(found, places, atol=1e-10, err_msg=f"{k} {size}")

    def test_nearly_it_is_the_same_to_a_ten_millionth(self) -> None:
        for k1, k2 in ((-0.12, 0.02), (-0.3, 0.1), (0.25, 0.0), (-0.05, 0.0), (0.0, 0.0)):
            k = np.tile([[k1, k2]], (len(self.places), 1))
            for size in (0.01, 0.3, 0.55):
                places = size * self.places / np.abs(self.places).max()
                near, exact = undistorted_nearly(places, k), undistorted(places, k)
                np.testing.assert_allclose(near, exact, atol=1e-7)
        changing = np.stack([np.linspace(-0.1, 0.1, len(self.places)), np.zeros(len(self.places))], axis=1)
        np.testing.assert_array_equal(
            undistorted_nearly(0.3 * self.places, changing), undistorted(0.3 * self.places, changing)
        )

    def test_it_is_the_least_root_of_the_polynomial(self) -> None:
        for k1, k2 in ((-0.12, 0.0), (-0.3, 0.1), (0.25, 0.0), (0.1, -0.05), (2.0, 30.0)):
            for seen in (0.05, 0.3, 0.55):
                found = undistorted(np.array([[[0.6 * seen, 0.8 * seen]]]), np.array([[k1, k2]]))
                self.assertAlmostEqual(float(np.linalg.norm(found)), radius(seen, k1, k2), places=10)

    def test_farther_out_is_always_seen_farther_out(self) -> None:
        out = np.linspace(0.0, 6.0, 1500)[None, :, None] * np.array([0.6, -0.8])
        seen = np.linalg.norm(distorted(np.repeat(out, len(self.k), axis=0), self.k), axis=2)
        self.assertGreater(float(np.min(np.diff(seen, axis=1))), -1e-12)
        self.assertTrue(np.isfinite(seen).all())

    def test_where_it_turns_back_its_slope_is_nothing(self) -> None:
        squared = turn_back(self.k)
        turns = np.isfinite(squared)
        self.assertGreater(int(turns.sum()), 50)
        slope = 1.0 + 3.0 * self.k[turns, 0] * squared[turns] + 5.0 * self.k[turns, 1] * squared[turns] ** 2
        np.testing.assert_allclose(slope, 0.0, atol=1e-9)
        self.assertTrue(np.all(np.isinf(squared[[0, 2]])))

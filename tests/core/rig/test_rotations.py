import unittest

import numpy as np
from scipy.spatial.transform import Rotation

from zittern.core.rig import rotations

RNG = np.random.default_rng(7)
ANGLES = np.stack([RNG.uniform(-180, 180, 500), RNG.uniform(-89, 89, 500), RNG.uniform(-180, 180, 500)], axis=1)


class Conventions(unittest.TestCase):
    def looks(self, pan: float = 0.0, tilt: float = 0.0, roll: float = 0.0) -> np.ndarray:
        return rotations.matrices(np.array([[pan, tilt, roll]]))[0] @ np.array([0.0, 0.0, -1.0])

    def test_plus_pan_turns_left_and_plus_tilt_looks_up(self) -> None:
        np.testing.assert_allclose(self.looks(pan=90), [-1, 0, 0], atol=1e-12)
        np.testing.assert_allclose(self.looks(tilt=90), [0, 1, 0], atol=1e-12)

    def test_plus_roll_turns_the_cameras_right_side_up(self) -> None:
        right = rotations.matrices(np.array([[0.0, 0.0, 90.0]]))[0] @ np.array([1.0, 0.0, 0.0])
        np.testing.assert_allclose(right, [0, 1, 0], atol=1e-12)

    def test_same_as_scipys_intrinsic_yxz(self) -> None:
        expected = Rotation.from_euler("YXZ", ANGLES, degrees=True).as_matrix()
        np.testing.assert_allclose(rotations.matrices(ANGLES), expected, atol=1e-13)


class BackToAngles(unittest.TestCase):
    def test_inverse_within_half_turns(self) -> None:
        np.testing.assert_allclose(rotations.angles_of(rotations.matrices(ANGLES)), ANGLES, atol=1e-9)

    def test_nearest_gives_the_reference_back_wherever_it_is(self) -> None:
        wild = ANGLES * np.array([5.0, 3.0, 4.0])
        np.testing.assert_allclose(rotations.nearest_angles(rotations.matrices(wild), wild), wild, atol=1e-7)

    def test_nearest_at_the_poles_keeps_pan_and_roll_apart(self) -> None:
        poles = np.array([[30.0, 90.0, 20.0], [-400.0, -90.0, 75.0]])
        np.testing.assert_allclose(rotations.nearest_angles(rotations.matrices(poles), poles), poles, atol=1e-5)

    def test_continuous_has_no_whole_turn_jumps(self) -> None:
        path = np.stack(
            [np.linspace(-50, 1300, 400), 60 * np.sin(np.linspace(0, 9, 400)), np.linspace(0, -500, 400)], axis=1
        )
        got = rotations.continuous(rotations.matrices(path))
        np.testing.assert_allclose(np.diff(got, axis=0), np.diff(path, axis=0), atol=1e-7)

    def test_continuous_through_the_vertical(self) -> None:
        over = np.stack([np.zeros(181), np.linspace(0.0, 180.0, 181) + 0.3, np.zeros(181)], axis=1)
        got = rotations.continuous(rotations.matrices(over))
        np.testing.assert_allclose(got, over, atol=1e-6)


class Quaternions(unittest.TestCase):
    def test_same_rotation_and_neighbours_on_one_side(self) -> None:
        spin = np.stack([np.linspace(0, 1440, 200), np.linspace(-40, 40, 200), np.linspace(0, 720, 200)], axis=1)
        quats = rotations.quaternions(rotations.matrices(spin))
        np.testing.assert_allclose(Rotation.from_quat(quats).as_matrix(), rotations.matrices(spin), atol=1e-12)
        self.assertTrue(np.all(np.sum(quats[1:] * quats[:-1], axis=1) > 0))

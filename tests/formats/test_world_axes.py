import unittest
from dataclasses import replace

import numpy as np

from tools.demo.shots import SHOTS
from zittern.core.motion.evaluate import evaluate
from zittern.core.rig import rotations
from zittern.formats.paths import PathPart, PathSamples
from zittern.formats.world_axes import UNCHANGED, Reading, converted, places, readings

FPS = 24.0
# From our axes to those of a program with Z up: y becomes z, z becomes -y.
TO_Z_UP = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, -1.0], [0.0, 1.0, 0.0]])


def walk(seconds: float = 8.0, speed_m_s: float = 1.4, height_m: float = 1.6, pan_deg: float = 30.0) -> PathSamples:
    """A carried camera that walks where it looks, with a little shake."""
    n = int(seconds * FPS)
    rng = np.random.default_rng(3)
    t = np.arange(n) / FPS
    ahead = np.array([-np.sin(np.radians(pan_deg)), 0.0, -np.cos(np.radians(pan_deg))])
    position = np.array([0.0, height_m, 0.0]) + np.outer(speed_m_s * t, ahead) + 0.01 * rng.normal(size=(n, 3))
    angles = np.array([pan_deg, -4.0, 0.0]) + 0.5 * rng.normal(size=(n, 3))
    return PathSamples(1.0 + np.arange(n), position, angles, None, n)


def as_z_up(samples: PathSamples) -> PathSamples:
    angles = rotations.continuous(TO_Z_UP @ rotations.matrices(samples.angles_deg))
    return replace(samples, position_m=samples.position_m @ TO_Z_UP.T, angles_deg=angles)


def as_cm(samples: PathSamples) -> PathSamples:
    return replace(samples, position_m=100.0 * samples.position_m)


class Suspected(unittest.TestCase):
    def test_z_up_and_centimeters_in_every_direction(self) -> None:
        for pan in (0.0, 30.0, 90.0, 170.0, -60.0):
            for seconds, speed in ((8.0, 1.4), (4.0, 3.0), (3.0, 0.0)):
                path = walk(seconds, speed, pan_deg=pan)
                with self.subTest(pan=pan, speed=speed):
                    self.assertEqual(readings(path, FPS), (UNCHANGED,))
                    self.assertEqual(readings(as_z_up(path), FPS)[-1], Reading(z_up=True))
                    if speed:
                        self.assertEqual(readings(as_cm(path), FPS)[-1], Reading(centimeters=True))
                        self.assertEqual(readings(as_cm(as_z_up(path)), FPS)[-1], Reading(True, True))

    def test_of_a_table_whose_angles_are_about_our_axes_the_places_tell(self) -> None:
        path = walk()
        turned = replace(path, position_m=path.position_m @ TO_Z_UP.T)
        self.assertEqual(readings(turned, FPS)[-1], Reading(z_up=True))
        np.testing.assert_allclose(converted(turned, Reading(z_up=True)).angles_deg, path.angles_deg)

    def test_no_shot_of_the_demo_and_no_rig_of_ours(self) -> None:
        for slug, make in SHOTS.items():
            shot = make()
            pose = evaluate(shot).pose
            path = PathSamples(pose.focal_mm * 0.0, pose.position_m, pose.angles_deg, None, shot.last_frame)
            path = replace(path, frames=1.0 + np.arange(len(pose.position_m)))
            self.assertEqual(readings(path, shot.fps.value), (UNCHANGED,), slug)
        part = PathPart("Camera", "free", walk().position_m, walk().angles_deg)
        self.assertEqual(readings(replace(as_z_up(walk()), parts=(part,)), FPS), (UNCHANGED,))


class Converted(unittest.TestCase):
    def test_it_is_the_path_again(self) -> None:
        path = walk()
        for made, reading in (
            (as_z_up(path), Reading(z_up=True)),
            (as_cm(path), Reading(centimeters=True)),
            (as_cm(as_z_up(path)), Reading(True, True)),
        ):
            back = converted(made, reading)
            np.testing.assert_allclose(back.position_m, path.position_m, atol=1e-9)
            np.testing.assert_allclose(
                rotations.matrices(back.angles_deg), rotations.matrices(path.angles_deg), atol=1e-9
            )

    def test_places_for_a_drawing(self) -> None:
        at, ahead = places(walk())
        self.assertLessEqual(len(at), 60)
        np.testing.assert_allclose(np.linalg.norm(ahead, axis=1), 1.0, atol=1e-9)
        np.testing.assert_allclose(ahead[:, 1], np.sin(np.radians(-4.0)), atol=0.05)


if __name__ == "__main__":
    unittest.main()

import unittest

import numpy as np
from scipy.spatial.transform import Rotation

from tests.core.making import over
from tests.formats.making import CAMERA, GltfMaker
from zittern.core.edits.moves import ReplaceMove
from zittern.core.errors import FormatError
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.optics.lens import vfov_deg
from zittern.core.rig import rotations
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.timebase import Fps
from zittern.formats.files import no_sidecars
from zittern.formats.gltf_read import read
from zittern.formats.paths import Imported

FPS = Fps(num=24)


def imported(data: bytes, camera: str | None = None, fps: Fps = FPS) -> Imported:
    return read(data, no_sidecars).read(camera, fps)


def shot_of(data: bytes, camera: str | None = None, fps: Fps = FPS) -> Shot:
    return ReplaceMove(move=imported(data, camera, fps).move, name="test").apply(new_shot("Test", fps=fps))


def motion_of(data: bytes, frames: object = None, **more: object) -> Motion:
    return evaluate(shot_of(data, **more), None if frames is None else np.asarray(frames, dtype=np.float64))  # type: ignore[arg-type]


def quats(*angles: float, axis: str = "y") -> np.ndarray:
    return Rotation.from_euler(axis, np.array(angles)[:, None], degrees=True).as_quat()


class NodeTrees(unittest.TestCase):
    def test_a_still_camera_deep_in_the_tree(self) -> None:
        half = quats(90.0)[0].tolist()
        tree = GltfMaker(
            {"children": [1], "translation": [10, 0, 0]},
            {"children": [2], "rotation": half, "scale": [2, 2, 2]},
            {"camera": 0, "name": "Eye", "translation": [0, 1, -3]},
        )
        motion = motion_of(tree.glb())
        # Turned left by 90 degrees and doubled: three ahead becomes six to the left.
        np.testing.assert_allclose(motion.pose.position_m[0], [10 - 6, 2, 0], atol=1e-9)
        np.testing.assert_allclose(motion.pose.angles_deg[0], [90, 0, 0], atol=1e-9)
        self.assertEqual(len(motion.frames), 240)

    def test_a_fixed_matrix(self) -> None:
        matrix = np.eye(4)
        matrix[:3, :3] = rotations.matrices(np.array([[30.0, -10.0, 5.0]]))[0]
        matrix[:3, 3] = [1, 2, 3]
        motion = motion_of(GltfMaker({"camera": 0, "matrix": matrix.T.ravel().tolist()}).gltf())
        np.testing.assert_allclose(motion.pose.angles_deg[0], [30, -10, 5], atol=1e-9)
        np.testing.assert_allclose(motion.pose.position_m[0], [1, 2, 3], atol=1e-9)

    def test_animated_parents_multiply(self) -> None:
        maker = GltfMaker({"children": [1]}, {"camera": 0, "translation": [0, 0, -2]})
        maker.animate(0, "rotation", [0, 1], quats(0, 90)).animate(0, "translation", [0, 1], [[0, 0, 0], [5, 0, 0]])
        motion = motion_of(maker.glb())
        for i, frame in enumerate(motion.frames):
            angle = np.radians(90 * (frame - 1) / 24)
            expected = [5 * (frame - 1) / 24 - 2 * np.sin(angle), 0, -2 * np.cos(angle)]
            np.testing.assert_allclose(motion.pose.position_m[i], expected, atol=1e-6)

    def test_several_cameras(self) -> None:
        data = GltfMaker(
            {"camera": 0, "name": "A"}, {"camera": 0, "name": "B", "translation": [1, 0, 0]}, {"camera": 0, "name": "A"}
        ).glb()
        self.assertEqual(read(data, no_sidecars).cameras, ("A", "B", "A (node 2)"))
        self.assertIn("took 'A'", imported(data).notices[0])
        self.assertEqual(motion_of(data, camera="B").pose.position_m[0, 0], 1.0)
        with self.assertRaisesRegex(FormatError, "no camera 'C'; the file has 'A', 'B'"):
            imported(data, "C")


class Interpolation(unittest.TestCase):
    TIMES = [0.0, 0.4, 1.0]

    def test_linear_between_frames_too(self) -> None:
        data = GltfMaker({"camera": 0}).animate(0, "translation", self.TIMES, [[0, 0, 0], [4, 0, 0], [-2, 1, 0]]).glb()
        frames = np.linspace(1, 25, 193)
        expected = np.interp((frames - 1) / 24, self.TIMES, [0, 4, -2])
        np.testing.assert_allclose(motion_of(data, frames).pose.position_m[:, 0], expected, atol=1e-5)

    def test_step_stays_steep(self) -> None:
        data = (
            GltfMaker({"camera": 0})
            .animate(0, "translation", self.TIMES, [[0, 0, 0], [4, 0, 0], [9, 1, 0]], "STEP")
            .glb()
        )
        jump = 1 + 0.4 * 24
        got = motion_of(data, [1.0, jump - 0.01, jump + 0.001, 24.9, 25.0]).pose.position_m[:, 0]
        np.testing.assert_allclose(got, [0, 0, 4, 4, 9], atol=1e-5)

    def test_step_on_whole_frames_takes_the_new_value_there(self) -> None:
        times = (np.arange(25) / 24).astype(np.float32)
        data = GltfMaker({"camera": 0}).animate(0, "translation", times, [[i, 0, 0] for i in range(25)], "STEP").glb()
        np.testing.assert_allclose(motion_of(data).pose.position_m[:, 0], np.arange(25), atol=1e-6)

    def test_cubic_spline_against_its_definition(self) -> None:
        keys = [[[0, 0, 0], [0, 0, 0], [3, 0, 0]], [[-2, 0, 0], [1, 0, 0], [0, 0, 0]]]
        data = (
            GltfMaker({"camera": 0})
            .animate(0, "translation", [0, 2], np.array(keys).reshape(6, 3), "CUBICSPLINE")
            .glb()
        )
        u = np.arange(49) / 48
        expected = 2 * (u**3 - 2 * u**2 + u) * 3 + (3 * u**2 - 2 * u**3) * 1 + 2 * (u**3 - u**2) * -2
        np.testing.assert_allclose(motion_of(data).pose.position_m[:, 0], expected, atol=1e-6)

    def test_rotations_take_the_short_way_when_signs_flip(self) -> None:
        keys = quats(0, 50, 100, 150)
        keys[1] *= -1
        keys[3] *= -1
        data = GltfMaker({"camera": 0}).animate(0, "rotation", [0, 1, 2, 3], keys).glb()
        pan = motion_of(data).pose.angles_deg[:, 0]
        np.testing.assert_allclose(pan, 50 * np.arange(73) / 24, atol=1e-4)

    def test_rotations_go_along_great_circles_at_constant_speed(self) -> None:
        keys = Rotation.random(4, random_state=3)
        data = GltfMaker({"camera": 0}).animate(0, "rotation", [0, 1, 2, 3], keys.as_quat()).glb()
        found = Rotation.from_matrix(rotations.matrices(motion_of(data).pose.angles_deg))
        np.testing.assert_allclose((found[[0, 24, 48, 72]] * keys.inv()).magnitude(), 0.0, atol=1e-5)
        for first in (0, 24, 48):
            steps = (found[first : first + 24].inv() * found[first + 1 : first + 25]).as_rotvec()
            np.testing.assert_allclose(steps, np.tile(steps[0], (24, 1)), atol=1e-5)

    def test_whole_turns_are_unwrapped(self) -> None:
        data = GltfMaker({"camera": 0}).animate(0, "rotation", np.arange(10), quats(*np.arange(10) * 100.0)).glb()
        pan = motion_of(data).pose.angles_deg[:, 0]
        self.assertAlmostEqual(pan[-1] - pan[0], 900, places=3)

    def test_normalized_shorts(self) -> None:
        data = (
            GltfMaker({"camera": 0})
            .animate(0, "rotation", [0, 1], np.round(quats(0, 60) * 32767), component="<i2")
            .glb()
        )
        self.assertAlmostEqual(motion_of(data).pose.angles_deg[-1, 0], 60, places=2)


class Range(unittest.TestCase):
    def test_frame_one_is_time_zero_and_the_last_covers_the_last_key(self) -> None:
        data = GltfMaker({"camera": 0}).animate(0, "translation", [0.5, 1.01], [[1, 0, 0], [2, 0, 0]]).glb()
        shot = shot_of(data)
        self.assertEqual((shot.first_frame, shot.last_frame), (1, 26))
        np.testing.assert_allclose(evaluate(shot).pose.position_m[:13, 0], 1.0, atol=1e-6)

    def test_the_same_path_at_another_rate(self) -> None:
        data = GltfMaker({"camera": 0}).animate(0, "translation", [0, 1], [[0, 0, 0], [1, 0, 0]]).glb()
        shot = shot_of(data, fps=Fps(num=30000, den=1001))
        self.assertEqual(shot.last_frame, 31)
        np.testing.assert_allclose(evaluate(shot).pose.position_m[:30, 0], np.arange(30) * 1001 / 30000, atol=1e-6)

    def test_straight_stretches_keep_few_keys(self) -> None:
        data = GltfMaker({"camera": 0}).animate(0, "translation", [0, 4], [[0, 0, 0], [1, 0, 0]]).glb()
        self.assertEqual(len(imported(data).move.x_m.curve.keys), 2)


class Lens(unittest.TestCase):
    def vfov(self, camera: dict[str, object]) -> tuple[Shot, float]:
        shot = shot_of(GltfMaker({"camera": 0}, cameras=(camera,)).glb())
        return shot, float(
            vfov_deg(evaluate(shot).pose.focal_mm, shot.sensor_mm, shot.picture.width_px, shot.picture.height_px)[0]
        )

    def test_vertical_field_of_view_is_kept_with_and_without_aspect_ratio(self) -> None:
        shot, angle = self.vfov({"type": "perspective", "perspective": {"yfov": 0.7, "znear": 0.1}})
        self.assertEqual((shot.picture.width_px, shot.picture.height_px), (1920, 1080))
        self.assertAlmostEqual(angle, np.degrees(0.7), places=9)
        shot, angle = self.vfov(
            {"type": "perspective", "perspective": {"yfov": 0.7, "znear": 0.1, "aspectRatio": 2.39}}
        )
        self.assertEqual((shot.picture.width_px, shot.picture.height_px), (1920, 803))
        self.assertAlmostEqual(angle, np.degrees(0.7), places=9)

    def test_orthographic_cameras_are_passed_over(self) -> None:
        flat = {"type": "orthographic", "orthographic": {"xmag": 1, "ymag": 1, "znear": 0, "zfar": 1}}
        data = GltfMaker({"camera": 0, "name": "flat"}, {"camera": 1, "name": "deep"}, cameras=(flat, CAMERA)).glb()
        self.assertEqual(read(data, no_sidecars).cameras, ("deep",))
        with self.assertRaisesRegex(FormatError, "only orthographic"):
            read(GltfMaker({"camera": 0}, cameras=(flat,)).glb(), no_sidecars)


class Extensions(unittest.TestCase):
    def test_unknown_ones_are_passed_over_with_a_notice_unless_required(self) -> None:
        maker = GltfMaker({"camera": 0})
        maker.json["extensionsUsed"] = ["XYZ_glow"]
        self.assertIn("XYZ_glow", imported(maker.glb()).notices[0])
        maker.json["extensionsRequired"] = ["XYZ_glow"]
        with self.assertRaisesRegex(FormatError, "requires XYZ_glow"):
            imported(maker.glb())


class LongChains(unittest.TestCase):
    def test_a_camera_at_the_end_of_a_long_chain(self) -> None:
        count = 16_000
        nodes = [{"children": [i + 1], "translation": [0.001, 0, 0]} for i in range(count - 1)]
        maker = GltfMaker(*nodes, {"camera": 0, "name": "A"}).animate(
            count - 1, "translation", [0, 1], [[0, 0, 0], [3, 0, 0]]
        )
        move = read(maker.glb(), no_sidecars).read(None, Fps(num=24)).move
        self.assertAlmostEqual(float(move.x_m.sample(over(np.array([25.0])))[0]), 3.0 + 0.001 * (count - 1), places=5)

    def test_many_moving_parents_over_many_frames_are_refused(self) -> None:
        nodes = [{"children": [i + 1]} for i in range(99)]
        maker = GltfMaker(*nodes, {"camera": 0, "name": "A"})
        for i in range(100):
            maker.animate(i, "translation", [0, 4000], [[0, 0, 0], [1, 0, 0]])
        with self.assertRaisesRegex(FormatError, "100 animated nodes .* bake the motion"):
            read(maker.glb(), no_sidecars).read(None, Fps(num=24))

    def test_a_loop_far_from_the_root(self) -> None:
        nodes = [{"children": [1]}, {"children": [2]}, {"children": [3]}, {"children": [1], "camera": 0}]
        with self.assertRaisesRegex(FormatError, "two parents"):
            read(GltfMaker(*nodes).glb(), no_sidecars)
        with self.assertRaisesRegex(FormatError, "loops back"):
            read(GltfMaker({"camera": 0}, {"children": [2]}, {"children": [1]}).glb(), no_sidecars)

import unittest

import numpy as np

from tests.core.making import command, edited, layer, over, shot_with
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import Fixed, Keyed, fixed, keyed
from zittern.core.rig.rotations import matrices
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, Subject

STILL = shot_with(layer())
MOVING = shot_with(
    mounts=(
        Mount(
            id="camera",
            name="Camera",
            pan_deg=keyed((1, 350.0), (240, 380.0)),
            z_m=keyed((1, 0.0), (240, -9.0)),
            y_m=1.6,
        ),
    )
)
RIG = shot_with(
    mounts=(
        Mount(id="crane", name="Crane", x_m=2.0, pan_deg=40.0, tilt_deg=10.0, pivot_m=(0.0, 0.0, -1.0)),
        Mount(id="head", name="Head", z_m=-3.0, pan_deg=20.0, pivot_m=(0.1, 0.2, 0.3)),
    )
)


def bare(shot: Shot, frame: float) -> np.ndarray:
    motion = evaluate(shot, np.array([frame]))
    return np.concatenate([motion.bare.position_m[0], motion.bare.angles_deg[0]])


class Placing(unittest.TestCase):
    POSE = {"position_m": [1.0, 2.0, 3.0], "angles_deg": [30.0, -10.0, 5.0]}

    def test_the_bare_lens_is_there_whatever_the_rig(self) -> None:
        for shot in (STILL, MOVING, RIG):
            after = edited(shot, {"type": "place_lens", "frame": 50, **self.POSE})
            got = bare(after, 50)
            got[3] -= 360 * round((got[3] - 30) / 360)
            np.testing.assert_allclose(got, [1, 2, 3, 30, -10, 5], atol=1e-9)

    def test_any_mount_can_carry_the_lens_there(self) -> None:
        for mount, other in (("crane", "head"), ("head", "crane")):
            after = edited(RIG, {"type": "place_lens", "frame": 50, "mount": mount, **self.POSE})
            got = bare(after, 50)
            got[3] -= 360 * round((got[3] - 30) / 360)
            np.testing.assert_allclose(got, [1, 2, 3, 30, -10, 5], atol=1e-9)
            unmoved = {each.id: each for each in RIG.mounts}[other]
            self.assertIn(unmoved, after.mounts)
        with self.assertRaisesRegex(EditError, "no mount 'boom'"):
            edited(RIG, {"type": "set_move", "frame": 1, "mount": "boom", "values": {"x_m": 1}})

    def test_keyed_numbers_get_keys_and_fixed_ones_stay_fixed(self) -> None:
        mount = edited(MOVING, {"type": "place_lens", "frame": 50, **self.POSE}).mounts[0]
        self.assertIsInstance(mount.z_m, Keyed)
        self.assertEqual(mount.x_m, fixed(1.0))
        every = edited(STILL, {"type": "place_lens", "frame": 50, "key": True, **self.POSE}).mounts[0]
        self.assertIsInstance(every.x_m, Keyed)

    def test_a_turn_is_kept(self) -> None:
        after = edited(MOVING, {"type": "place_lens", "frame": 240, **self.POSE})
        self.assertAlmostEqual(after.mounts[0].pan_deg.sample(over(np.array([240.0])))[0], 390.0)


class Flying(unittest.TestCase):
    def test_steps_follow_the_picture_and_turns_keep_the_horizon(self) -> None:
        turned = edited(STILL, {"type": "fly", "frame": 1, "pan_deg": 90.0})
        ahead = edited(turned, {"type": "fly", "frame": 1, "dolly_m": 2.0, "pedestal_m": 0.5})
        np.testing.assert_allclose(bare(ahead, 1), [-2, 2.1, 0, 90, 0, 0], atol=1e-9)

    def test_locked_numbers_stay(self) -> None:
        out = edited(
            STILL,
            {
                "type": "fly",
                "frame": 1,
                "pan_deg": 30.0,
                "dolly_m": 2.0,
                "pedestal_m": 1.0,
                "locked": ["y_m", "pan_deg"],
            },
        )
        np.testing.assert_allclose(bare(out, 1), [0, 1.6, -2, 0, 0, 0], atol=1e-9)

    def test_there_and_back(self) -> None:
        for shot in (STILL, RIG):
            out = edited(shot, {"type": "fly", "frame": 9, "truck_m": 1.0, "tilt_deg": 20.0})
            back = edited(
                out, {"type": "fly", "frame": 9, "tilt_deg": -20.0}, {"type": "fly", "frame": 9, "truck_m": -1.0}
            )
            np.testing.assert_allclose(bare(back, 9), bare(shot, 9), atol=1e-9)


class Flight(unittest.TestCase):
    """A flight that was recorded while the shot played."""

    def flown(self, shot: Shot, *ways: tuple[float, dict[str, float]], **fields: object) -> Shot:
        samples = [{"frame": frame, **way} for frame, way in ways]
        return edited(shot, {"type": "record_flight", "samples": samples, **fields})

    def test_it_is_on_top_of_the_move_at_every_frame_it_was_recorded(self) -> None:
        ways = [(20.0 + n, {"truck_m": 0.03 * n, "tilt_deg": 0.2 * n}) for n in range(60)]
        for shot in (STILL, RIG):
            after = self.flown(shot, *ways)
            for frame in (20.0, 45.0, 79.0):
                fly = {"type": "fly", "frame": frame, "tilt_deg": 0.2 * (frame - 20.0)}
                expected = bare(edited(shot, fly), frame)
                right = matrices(evaluate(shot, np.array([frame])).bare.angles_deg)[0, :, 0]
                expected[:3] += 0.03 * (frame - 20.0) * right
                np.testing.assert_allclose(bare(after, frame), expected, atol=0.02)

    def test_a_step_goes_where_the_camera_looks_by_then(self) -> None:
        after = self.flown(STILL, (1.0, {}), (9.0, {"pan_deg": 90.0}), (17.0, {"pan_deg": 90.0, "dolly_m": 2.0}))
        np.testing.assert_allclose(bare(after, 17.0), [-2.0, 1.6, 0.0, 90.0, 0.0, 0.0], atol=1e-9)

    def test_keys_outside_stay_and_so_do_numbers_that_it_leaves_alone(self) -> None:
        ways = [(100.0 + n, {"pan_deg": 0.5 * n}) for n in range(40)]
        mount, before = self.flown(MOVING, *ways).mounts[0], MOVING.mounts[0]
        self.assertEqual((mount.z_m, mount.y_m), (before.z_m, before.y_m))
        frames = mount.pan_deg.breaks
        self.assertEqual((frames[0], frames[-1]), (1.0, 240.0))
        self.assertLess(len(frames), 12, "a steady turn needs few keys")
        self.assertEqual(self.flown(MOVING, *ways, locked=["pan_deg"]), MOVING)


class Aiming(unittest.TestCase):
    SUBJECT = Subject(name="Post", x_m=fixed(3.0), y_m=fixed(1.0), z_m=fixed(-4.0), height_m=2.0)

    def ahead(self, shot: Shot) -> tuple[np.ndarray, float]:
        """Direction to the subject in the camera's frame, and its distance."""
        from zittern.core.rig import rotations

        pose = bare(shot, 1)
        to = np.array([3.0, 1.0, -4.0]) - pose[:3]
        return rotations.matrices(pose[None, 3:])[0].T @ (to / np.linalg.norm(to)), float(np.linalg.norm(to))

    def test_the_subject_is_in_the_centre(self) -> None:
        for shot in (STILL, RIG):
            direction, _ = self.ahead(edited(shot.replace(subject=self.SUBJECT), {"type": "aim_camera", "frame": 1}))
            np.testing.assert_allclose(direction, [0, 0, -1], atol=1e-9)

    def shares(self, shot: Shot) -> np.ndarray:
        """Distances of the corners of the subject's box from the middle, as shares of half the picture. (8, 2)."""
        return np.abs(self.places(shot))

    def places(self, shot: Shot) -> np.ndarray:
        """Corners of the subject's box, right and up, as shares of half the picture, by an independent pinhole."""
        from scipy.spatial.transform import Rotation

        x, y, z, pan, tilt, roll = bare(shot, 1)
        subject = shot.subject
        seen = []
        for corner in np.ndindex(2, 2, 2):
            side = np.array(corner) - 0.5
            point = np.array([3.0, 1.0, -4.0]) + side * [subject.width_m, subject.height_m, subject.width_m]
            local = Rotation.from_euler("YXZ", [pan, tilt, roll], degrees=True).inv().apply(point - [x, y, z])
            mm = local[:2] / -local[2] * shot.focal_mm.value
            seen.append(mm / [36.0 / 2, 20.25 / 2] if local[2] < 0 else [np.inf, np.inf])
        return np.array(seen)

    def test_it_fills_the_share_asked_for_at_any_lens_and_nothing_is_cut(self) -> None:
        for focal in (12.0, 15.0, 35.0, 135.0):
            for width in (0.6, 9.0):
                still = STILL.replace(focal_mm=fixed(focal), subject=self.SUBJECT.replace(width_m=width))
                for fill in (0.33, 0.75, 1.0):
                    with self.subTest(focal=focal, width=width, fill=fill):
                        shot = edited(still, {"type": "aim_camera", "frame": 1, "fill": fill})
                        self.assertAlmostEqual(self.shares(shot).max(), fill, places=6)

    def test_a_close_up_keeps_the_head_at_any_lens(self) -> None:
        for focal in (12.0, 18.0, 35.0, 85.0, 200.0):
            for height in (0.4, 1.8, 6.0):
                subject = self.SUBJECT.replace(height_m=height, width_m=height / 3.0)
                still = STILL.replace(focal_mm=fixed(focal), subject=subject)
                shot = edited(still, {"type": "aim_camera", "frame": 1, "fill": 1.8})
                up = self.places(shot)[:, 1]
                with self.subTest(focal=focal, height=height):
                    self.assertTrue(0.75 < up.max() < 0.9, up.max())
                    self.assertAlmostEqual(np.ptp(up) / 2.0, 1.8, delta=0.3)

    def test_a_size_that_is_left_out_is_that_of_somebody_who_stands(self) -> None:
        box = self.SUBJECT.corners_m
        np.testing.assert_allclose(box.max(axis=0) - box.min(axis=0), [2 / 3, 2.0, 2 / 3])

    def test_without_a_subject_or_inside_it(self) -> None:
        with self.assertRaisesRegex(EditError, "no subject is marked"):
            edited(STILL, {"type": "aim_camera", "frame": 1})
        inside = Subject(name="Post", y_m=fixed(1.6))
        with self.assertRaisesRegex(EditError, "is inside the subject"):
            edited(STILL.replace(subject=inside), {"type": "aim_camera", "frame": 1})


class Numbers(unittest.TestCase):
    def test_set_at_a_frame(self) -> None:
        shot = edited(MOVING, {"type": "set_move", "frame": 100, "values": {"y_m": 2.0, "z_m": -1.0, "focal_mm": 50}})
        self.assertEqual((shot.mounts[0].y_m, shot.focal_mm), (Fixed(value=2.0), Fixed(value=50.0)))
        self.assertEqual(shot.mounts[0].z_m.sample(over(np.array([100.0])))[0], -1.0)
        zooming = edited(shot, {"type": "set_move", "frame": 100, "values": {"focal_mm": 85}, "key": True})
        self.assertEqual(zooming.focal_mm, keyed((100, 85.0)))
        with self.assertRaisesRegex(EditError, "expected 1 to 10000"):
            edited(MOVING, {"type": "set_move", "frame": 1, "values": {"focal_mm": 0}})

    def test_zero_and_snap(self) -> None:
        tilted = edited(STILL, {"type": "set_move", "frame": 1, "values": {"pan_deg": 140, "roll_deg": -3, "x_m": 2}})
        np.testing.assert_allclose(
            bare(edited(tilted, {"type": "snap_angles", "frame": 1}), 1)[3:], [180, 0, 0], atol=1e-9
        )
        zeroed = edited(tilted, {"type": "snap_angles", "frame": 1, "fields": ["x_m", "roll_deg"], "zero": True})
        np.testing.assert_allclose(bare(zeroed, 1)[[0, 3, 5]], [0, 140, 0], atol=1e-9)
        with self.assertRaisesRegex(EditError, "only angles"):
            edited(tilted, {"type": "snap_angles", "frame": 1, "fields": ["x_m"]})

    def test_labels(self) -> None:
        self.assertEqual(command(type="set_move", frame=24, values={"pan_deg": 1}).label(STILL), "Set pan at frame 24")
        self.assertEqual(
            command(type="snap_angles", frame=3, fields=["roll_deg"], zero=True).label(STILL), "Zero roll at frame 3"
        )

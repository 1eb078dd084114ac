"""Levers: rotation about a joint also moves the lens, as a rigid body and as a parent mount do."""

import unittest

import numpy as np
from scipy.spatial.transform import Rotation

from tests.core.making import edited, layer, shot_with
from tests.core.motion.test_blends import blended
from zittern.core.axes import AXES, axis_index
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.lanes import Lane
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.noise import Noise

TURNS = {"pan": 4.0, "tilt": 3.0, "roll": 6.0}
PAN, TRUCK, DOLLY = (axis_index(axis) for axis in ("pan", "truck", "dolly"))


def turning(lever: tuple[float, float], swings: dict[str, float] | None = None, **fields: object) -> Shot:
    swings = TURNS if swings is None else swings
    source = Noise(rate_hz=fixed(0.8))
    return shot_with(layer("hand", source, 5, swings, lever_m=lever, **fields), last_frame=240)


class Rigid(unittest.TestCase):
    def test_the_lens_moves_as_a_point_of_a_body_that_turns_about_the_pivot(self) -> None:
        for lever in ((0.12, 0.0), (0.25, 0.1), (0.1, 0.6), (-0.3, -0.2)):
            for weight in (fixed(1.0), keyed((1, 0.2), (240, 3.0))):
                total = evaluate(turning(lever, weight=weight)).total
                pivot = np.array([0.0, -lever[1], lever[0]])
                # R_y(pan) R_x(tilt) R_z(roll), intrinsic.
                body = Rotation.from_euler("YXZ", np.radians(total[:, :3]))
                moved_cm = 100.0 * (pivot - body.apply(pivot))
                np.testing.assert_allclose(total[:, TRUCK : DOLLY + 1], moved_cm * (1.0, 1.0, -1.0), atol=1e-9)

    def test_it_is_what_a_parent_mount_at_the_pivot_does(self) -> None:
        lever = (0.25, 0.1)
        found = evaluate(turning(lever)).pose
        joint = Mount(id="joint", name="Joint", y_m=fixed(1.5 - lever[1]), z_m=fixed(lever[0]))
        camera = Mount(id="camera", name="Camera", y_m=fixed(lever[1]), z_m=fixed(-lever[0]))
        (clip,) = turning((0.0, 0.0)).clips()
        on_joint = clip.replace(layers=tuple(each.replace(target="joint") for each in clip.layers))
        shot = shot_with(mounts=(joint, camera), last_frame=240).replace(lanes=(Lane.of(on_joint),))
        expected = evaluate(shot).pose
        base = evaluate(shot.replace(lanes=())).pose.position_m[0] - evaluate(shot_with()).pose.position_m[0]
        np.testing.assert_allclose(found.position_m + base, expected.position_m, atol=1e-9)
        np.testing.assert_allclose(found.angles_deg, expected.angles_deg, atol=1e-9)

    def test_translations_of_its_own_add_and_count_as_moving(self) -> None:
        swings = {**TURNS, "truck": 2.0}
        both, own = evaluate(turning((0.2, 0.0), swings)).total, evaluate(turning((0.0, 0.0), swings)).total
        lever = evaluate(turning((0.2, 0.0))).total
        np.testing.assert_allclose(
            both, own + lever * [axis in ("truck", "pedestal", "dolly") for axis in AXES], atol=1e-9
        )
        (made,) = (each for _, each in turning((0.2, 0.0)).layers())
        self.assertEqual(set(made.affected_axes), {*TURNS, "truck", "pedestal", "dolly"})
        self.assertEqual(set(made.moving_axes), set(TURNS))
        (still,) = (each for _, each in turning((0.2, 0.0), {"truck": 1.0}).layers())
        self.assertEqual(still.affected_axes, ("truck",))

    def test_a_morph_and_its_flattened_clip_turn_about_it_too(self) -> None:
        both = [
            layer(name, Noise(rate_hz=fixed(rate)), 3, TURNS, lever_m=(0.25, 0.1), corner=name)
            for name, rate in (("one", 0.7), ("two", 1.4))
        ]
        shot = blended(*both, across=keyed((1, 0.0), (240, 100.0)), way="morph", last_frame=240)
        total = evaluate(shot).total
        self.assertGreater(float(np.max(np.abs(total[:, TRUCK]))), 0.3)
        flat = edited(shot, {"type": "flatten_blend", "clip": "main"})
        np.testing.assert_allclose(evaluate(flat).total, total, atol=5e-3)

    def test_a_handheld_feel_couples_pan_with_truck(self) -> None:
        values = []
        for seed in range(24):
            shot = edited(shot_with(last_frame=1200, seed=seed), {"type": "add_handheld"})
            turning_only = shot.replace(
                lanes=tuple(
                    lane.replace(clips=tuple(
                        clip.replace(layers=tuple(
                            each.replace(axes={axis: each.axes.of(axis) for axis in ("pan", "tilt", "roll")})
                            for each in clip.layers
                        )) for clip in lane.clips
                    )) for lane in shot.lanes
                )
            )  # fmt: skip
            total = evaluate(turning_only).total
            values.append(np.corrcoef(total[:, PAN], total[:, TRUCK])[0, 1])
        self.assertLess(float(np.mean(values)), -0.9, "a pan to the left moves the lens to the left")

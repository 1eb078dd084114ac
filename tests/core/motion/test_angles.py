import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.making import edited, layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.rig import rotations
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.hand_keys import HandKeys, Tracks

ANGLE = st.integers(-18, 18).map(lambda tens: tens * 10.0)


def turning(*legs: tuple[float, float, float]) -> tuple[Mount, ...]:
    """Mounts that turn slowly from rest to some angles over the shot."""
    return tuple(
        Mount(
            id=f"m{i}",
            name=f"M{i}",
            x_m=fixed(0.3),
            **{
                f"{axis}_deg": keyed((1, 0.0), (240, end))
                for axis, end in zip(("pan", "tilt", "roll"), leg, strict=True)
            },
        )
        for i, leg in enumerate(legs)
    )


class Continuous(unittest.TestCase):
    def check(self, angles: np.ndarray, rotation: np.ndarray | None = None) -> None:
        """No row could be written nearer to the one before, where the camera does not look straight up or down."""
        other = np.stack([angles[:, 0] + 180.0, 180.0 - angles[:, 1], angles[:, 2] + 180.0], axis=1)
        taken = np.abs(np.diff(angles, axis=0))
        steep = np.abs(np.cos(np.radians(angles[:, 1]))) < 0.25
        calm = ~(steep[1:] | steep[:-1])
        turned = other[1:] - angles[:-1]
        turned -= 360.0 * np.round(turned / 360.0)
        self.assertTrue(np.all(taken[calm] < 180.0), taken[calm].max(initial=0.0))
        better = np.sum(turned**2, axis=1) < np.sum(taken**2, axis=1) - 1e-6
        self.assertFalse(np.any(better & calm))

    def test_a_rolled_mount_with_a_pan_below(self) -> None:
        mounts = (
            Mount(id="a", name="A", roll_deg=fixed(90.0)),
            Mount(id="b", name="B", pan_deg=keyed((1, 0.0), (240, 180.0), interp="linear")),
        )
        self.check(evaluate(shot_with(layer(), mounts=mounts)).bare.angles_deg)
        self.check(evaluate(shot_with(layer(), mounts=mounts)).pose.angles_deg)

    @settings(max_examples=40, deadline=None)
    @given(st.lists(st.tuples(ANGLE, ANGLE, ANGLE), min_size=1, max_size=4))
    def test_random_chains(self, legs: list[tuple[float, float, float]]) -> None:
        motion = evaluate(shot_with(layer(swings={"pan": 2.0, "tilt": 2.0, "roll": 2.0}), mounts=turning(*legs)))
        self.check(motion.bare.angles_deg)
        self.check(motion.pose.angles_deg)
        self.assertTrue(np.all(np.isfinite(motion.pose.angles_deg)))

    def test_over_the_zenith_and_on(self) -> None:
        angles = evaluate(
            Shot.model_validate(shot_with(mounts=turning((0.0, 170.0, 0.0), (0.0, 100.0, 0.0))).model_dump())
        ).bare.angles_deg
        self.assertLess(np.abs(np.diff(angles, axis=0)).max(), 3.0)
        self.assertAlmostEqual(angles[-1, 1], 270.0, places=6)

    def test_a_sway_near_the_zenith_makes_no_needless_half_turns(self) -> None:
        """A handheld swing on a camera that looks nearly straight up or down: no angle jumps by half a turn from one
        frame to the next.
        """
        for tilt in (80.0, 88.0, -88.0, 90.0, 93.0):
            camera = Mount(id="camera", name="Camera", tilt_deg=fixed(tilt), pan_deg=keyed((1, 0.0), (240, 60.0)))
            for seed in range(4):
                made = edited(shot_with(lanes=(), mounts=(camera,), seed=seed), {"type": "add_handheld"})
                angles = evaluate(made).pose.angles_deg
                self.assertLess(np.max(np.abs(np.diff(angles, axis=0))), 120.0, f"{tilt} {seed}")
                np.testing.assert_allclose(
                    evaluate(made, np.arange(90.0, 100.0)).pose.angles_deg, angles[89:99], atol=1e-6
                )

    def test_whole_turns_of_several_mounts_add_up(self) -> None:
        angles = evaluate(
            shot_with(mounts=turning((400.0, 0.0, 0.0), (0.0, -20.0, 0.0), (500.0, 0.0, 0.0)))
        ).bare.angles_deg
        self.assertLess(np.abs(np.diff(angles, axis=0)).max(), 20.0)

    def test_layers_that_turn_far_are_followed(self) -> None:
        spin = HandKeys(tracks=Tracks(pan=keyed((1, 0.0), (240, 700.0), interp="linear")))
        for roll in (0.0, 90.0):
            mounts = (Mount(id="a", name="A", roll_deg=fixed(roll), tilt_deg=fixed(10.0)),)
            self.check(evaluate(shot_with(layer(source=spin), mounts=mounts)).pose.angles_deg)
        self.assertAlmostEqual(evaluate(shot_with(layer(source=spin))).pose.angles_deg[-1, 0], 700.0, places=6)

    def test_a_part_has_the_angles_of_the_whole(self) -> None:
        shot = shot_with(layer(), mounts=turning((170.0, 120.0, 30.0), (90.0, 80.0, 90.0)))
        whole = evaluate(shot).pose.angles_deg
        np.testing.assert_allclose(evaluate(shot, np.arange(150.0, 180.0)).pose.angles_deg, whole[149:179], atol=1e-9)
        rotation = rotations.matrices(whole)
        np.testing.assert_allclose(
            rotations.matrices(evaluate(shot, np.array([77.5])).pose.angles_deg),
            rotations.matrices(whole[[76]]),
            atol=0.1,
        )
        self.assertEqual(rotation.shape, (240, 3, 3))


class Parts(unittest.TestCase):
    def test_what_is_put_on_elsewhere_does_not_change_a_frame(self) -> None:
        camera = Mount(id="camera", name="Camera", tilt_deg=fixed(30.0))
        for seed in (1, 2, 3):
            wild = layer("wild", seed=seed, swings={"pan": 90.0, "tilt": 90.0, "roll": 90.0})
            shot = shot_with(wild, mounts=(camera,), last_frame=120)
            whole = evaluate(shot)
            for frame in whole.frames:
                alone = evaluate(shot, np.array([frame]))
                np.testing.assert_allclose(alone.pose.angles_deg[0], whole.pose.angles_deg[int(frame) - 1], atol=1e-9)

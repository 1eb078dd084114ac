import unittest

import numpy as np

from tests.core.making import edited, shot_with
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.readings.framing import misses_px
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.springs import Springs

CART = Mount(id="cart", name="Cart", x_m=keyed((1, 0.0), (120, 4.0)), pan_deg=keyed((1, 0.0), (120, 80.0)))
HEAD = Mount(id="head", name="Head", y_m=fixed(1.6), tilt_deg=fixed(-4.0), pivot_m=(0.0, 0.1, 0.3), length_m=fixed(0.2))
SLED = Ride(object="sled", x_m=keyed((1, 0.0), (120, 9.0)), pan_deg=keyed((1, 0.0), (120, -50.0)))
POSE = {"position_m": [3.0, 2.0, -1.0], "angles_deg": [120.0, 10.0, -5.0]}


def shot(*mounts: Mount, **fields: object) -> Shot:
    return shot_with(mounts=mounts, **{"last_frame": 120, **fields})


def world(shot: Shot, mount: str, frame: float) -> np.ndarray:
    return np.asarray(evaluate(shot, np.array([frame])).rig[mount][0])


class Pasting(unittest.TestCase):
    WANTED = transforms.from_parts(np.array([POSE["position_m"]]), np.array([POSE["angles_deg"]]))[0]

    def test_a_mount_comes_to_a_pose_in_the_world_whatever_carries_it(self) -> None:
        for rig in ((CART, HEAD), (CART.replace(ride=SLED), HEAD), (CART, HEAD.replace(ride=SLED))):
            after = edited(shot(*rig), {"type": "paste_pose", "mount": "head", "poses": [{"frame": 60, **POSE}]})
            np.testing.assert_allclose(world(after, "head", 60), self.WANTED, atol=1e-9)
            self.assertEqual(after.mounts[0], rig[0])

    def test_over_a_stretch_it_stays_there_while_its_carrier_moves(self) -> None:
        poses = [{"frame": frame, **POSE} for frame in range(40, 81)]
        after = edited(shot(CART, HEAD), {"type": "paste_pose", "mount": "head", "poses": poses})
        for frame in (40.0, 55.0, 80.0):
            np.testing.assert_allclose(world(after, "head", frame), self.WANTED, atol=1e-6)

    def test_on_the_way_it_goes_where_another_mount_is(self) -> None:
        rig = (CART, HEAD, Mount(id="boom", name="Boom", z_m=fixed(-2.0)))
        after = edited(
            shot(*rig), {"type": "match_pose", "mount": "boom", "like": "cart", "first_frame": 20, "last_frame": 60}
        )
        for frame in (20.0, 41.0, 60.0):
            np.testing.assert_allclose(world(after, "boom", frame), world(after, "cart", frame), atol=1e-6)
        with self.assertRaisesRegex(EditError, "expected a stretch"):
            edited(shot(*rig), {"type": "match_pose", "mount": "boom", "first_frame": 60, "last_frame": 20})


class Keys(unittest.TestCase):
    KITE = Subject(
        name="Kite", x_m=keyed((1, -2.0), (40, -2.0), (70, 2.0), (120, 2.0)), y_m=fixed(2.0), z_m=fixed(-6.0)
    )

    def test_what_the_operator_does_becomes_keys_within_the_tolerance_where_something_is_done(self) -> None:
        before = shot(
            CART.replace(x_m=fixed(0.0), pan_deg=fixed(0.0)), HEAD.replace(operator=Operator()), subject=self.KITE
        )
        for tolerance in (1.0, 8.0):
            after = edited(before, {"type": "keys_from_operator", "mount": "head", "tolerance_px": tolerance})
            self.assertIsNone(after.mounts[1].operator)
            off = misses_px(before, evaluate(before)) - misses_px(before, evaluate(after))
            self.assertLess(np.max(np.hypot(off[:, 0], off[:, 1])), 1.15 * tolerance)
        curve = after.mounts[1].pan_deg.curve
        assert curve is not None
        inner = [key.frame for key in curve.keys[1:-1]]
        self.assertLess(len(inner), 12)
        # The subject goes from 40 to 70; one key before that holds what was there.
        self.assertTrue(all(30 <= frame <= 115 for frame in inner), inner)
        self.assertLess(sum(frame < 40 for frame in inner), 2)

    def test_angles_go_on_from_those_that_were_keyed(self) -> None:
        turned = HEAD.replace(pan_deg=fixed(360.0), operator=Operator())
        after = edited(shot(turned, subject=self.KITE), {"type": "keys_from_operator", "mount": "head"})
        motion = evaluate(after)
        self.assertGreater(after.mounts[0].pan_deg.sample(after.scope(1.0))[0], 300.0)
        np.testing.assert_allclose(rotations.matrices(motion.pose.angles_deg), motion.rig["head"][:, :3, :3], atol=1e-9)

    def test_below_springs_too_and_at_the_last_frame(self) -> None:
        made = shot(CART, HEAD.replace(operator=Operator(), springs=Springs()), subject=self.KITE)
        body = Mount(id="body", name="Body", springs=Springs(shift=False, turn_hz=0.7))
        made = made.replace(mounts=(*made.mounts, body))
        for tolerance in (0.1, 2.0):
            after = edited(made, {"type": "keys_from_operator", "mount": "head", "tolerance_px": tolerance})
            one, other = evaluate(made), evaluate(after)
            apart = rotations.matrices(one.pose.angles_deg) - rotations.matrices(other.pose.angles_deg)
            px = np.linalg.norm(apart[:, :, 2], axis=1) * 35.0 / 36.0 * 1920.0
            self.assertLess(float(px.max()), 1.15 * tolerance)

    def test_an_axis_that_the_operator_leaves_alone_stays_as_it_is(self) -> None:
        keyed_head = HEAD.replace(operator=Operator(tilt=False), tilt_deg=keyed((1, 0.0), (60, 10.0), (120, -5.0)))
        after = edited(shot(CART, keyed_head, subject=self.KITE), {"type": "keys_from_operator", "mount": "head"})
        self.assertEqual(after.mounts[1].tilt_deg, keyed_head.tilt_deg)
        self.assertIsNotNone(after.mounts[1].pan_deg.curve)
        off = HEAD.replace(operator=Operator(weight=fixed(0.0)), pan_deg=keyed((1, 0.0), (60, 10.0)))
        self.assertEqual(
            edited(shot(CART, off, subject=self.KITE), {"type": "keys_from_operator", "mount": "head"}).mounts[1],
            off.replace(operator=None),
        )

    def test_a_wider_tolerance_takes_fewer_keys(self) -> None:
        counts = []
        for tolerance in (0.5, 4.0, 30.0):
            after = edited(
                shot(CART, HEAD.replace(operator=Operator()), subject=self.KITE),
                {"type": "keys_from_operator", "mount": "head", "tolerance_px": tolerance},
            )
            counts.append(len(after.mounts[1].pan_deg.breaks))
        self.assertTrue(counts[0] > counts[1] > counts[2], counts)

    def test_where_nobody_aims_there_is_nothing_to_key(self) -> None:
        with self.assertRaisesRegex(EditError, "no operator aims"):
            edited(shot(HEAD), {"type": "keys_from_operator", "mount": "head"})

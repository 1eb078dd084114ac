import unittest
from unittest import mock

import numpy as np

from tests.core.making import edited, layer, shot_with, use_rig
from zittern.core.edits import rig as rig_edits
from zittern.core.edits.keeping import same_picture
from zittern.core.edits.merging import merged
from zittern.core.errors import EditError, NeedsKeys
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.rig import transforms
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.shot import Shot
from zittern.core.shot.springs import Springs
from zittern.store.shipped import shipped_rigs

MOVE = Mount(
    id="camera",
    name="Camera",
    x_m=keyed((1, 0.0), (80, 2.0)),
    y_m=fixed(1.6),
    z_m=keyed((10, 0.0), (100, -3.0)),
    pan_deg=keyed((1, 0.0), (90, 40.0)),
)
TILTING = Mount(id="head", name="Head", tilt_deg=keyed((20, 0.0), (70, -15.0)), roll_deg=keyed((1, 0.0), (100, 5.0)))
BETWEEN = np.linspace(1.0, 120.0, 877)


def shot(*mounts: Mount, layers: tuple[object, ...] = ()) -> Shot:
    return shot_with(*layers, mounts=mounts, last_frame=120)  # type: ignore[arg-type]


class KeepsThePicture(unittest.TestCase):
    def assert_same(self, before: Shot, after: Shot, tolerance: float = 1e-6) -> None:
        one, other = evaluate(before, BETWEEN).pose, evaluate(after, BETWEEN).pose
        poses = [transforms.from_parts(each.position_m, each.angles_deg) for each in (one, other)]
        np.testing.assert_allclose(poses[1], poses[0], atol=tolerance)

    def removed(self, before: Shot, mount: str, **fields: object) -> Shot:
        return edited(before, {"type": "remove_mount", "mount": mount, "keep_picture": True, **fields})

    def test_putting_in(self) -> None:
        before = shot(MOVE, TILTING, layers=(layer(target="head"),))
        after = edited(
            before,
            {"type": "add_mount", "kind": "arm", "before": "head"},
            {"type": "add_mount", "kind": "arm", "name": "Boom"},
        )
        self.assertEqual(
            [(mount.id, mount.name) for mount in after.mounts],
            [("camera", "Camera"), ("arm", "Arm"), ("head", "Head"), ("arm-2", "Boom")],
        )
        self.assert_same(before, after)

    def test_taking_away_what_another_mount_can_take_over(self) -> None:
        shifted = Mount(id="plate", name="Plate", x_m=fixed(0.1), z_m=fixed(-0.4), length_m=fixed(0.3))
        rolled = Mount(id="wedge", name="Wedge", roll_deg=fixed(12.0), y_m=fixed(0.05), pivot_m=(0.1, 0.0, 0.0))
        turned = Mount(id="base", name="Base", pan_deg=fixed(30.0), x_m=fixed(2.0), pivot_m=(0.0, 0.0, 1.0))
        pivoted = TILTING.replace(pivot_m=(0.0, 0.1, 0.3), y_m=fixed(0.2))
        none = Mount(id="none", name="None")
        for rig, mount in (
            ((MOVE, shifted), "plate"), ((MOVE, shifted, TILTING), "plate"), ((MOVE, rolled), "wedge"),
            ((turned, pivoted), "base"),
            ((shifted.replace(length_m=fixed(0.0)), MOVE), "plate"), ((MOVE, none), "none"), ((none, MOVE), "none"),
            ((shifted, rolled.replace(tilt_deg=fixed(20.0)), turned), "wedge"),
        ):  # fmt: skip
            before = shot(*rig, layers=(layer(seed=4),))
            after = self.removed(before, mount)
            self.assertEqual(len(after.mounts), len(rig) - 1, mount)
            self.assert_same(before, after)

    def test_what_cannot_be_said_in_numbers_is_refused_with_a_reason_and_can_be_baked(self) -> None:
        before = shot(
            MOVE,
            TILTING.replace(x_m=keyed((1, 0.0), (120, 0.4))),
            Mount(id="lens", name="Lens", pan_deg=keyed((1, 0.0), (60, 9.0))),
        )
        with self.assertRaisesRegex(EditError, "cannot be merged into one mount.*Keys on every frame keep it"):
            self.removed(before, "head")
        after = self.removed(before, "head", bake=True)
        self.assertEqual([mount.id for mount in after.mounts], ["camera", "lens"])
        self.assertTrue(same_picture(before, after, between=1))

    def test_what_gives_is_not_taken_away_under_the_picture(self) -> None:
        with self.assertRaisesRegex(EditError, "it gives; take that off first"):
            self.removed(shot(MOVE, TILTING.replace(springs=Springs())), "head")
        with self.assertRaisesRegex(EditError, "needs one mount"):
            self.removed(shot(MOVE), "camera")

    def test_layers_act_where_they_did(self) -> None:
        before = shot(MOVE, Mount(id="plate", name="Plate", y_m=fixed(0.3)), TILTING, layers=(layer(target="plate"),))
        after = self.removed(before, "plate")
        self.assertEqual([each.target for _, each in after.layers()], ["camera"])
        self.assert_same(before, after)

    def test_another_order(self) -> None:
        pan = Mount(id="pan", name="Pan", pan_deg=keyed((1, 0.0), (100, 50.0)))
        lift = Mount(id="lift", name="Lift", y_m=keyed((1, 0.0), (100, 1.0)))
        after = edited(shot(pan, lift, TILTING), {"type": "move_mount", "mount": "pan", "by": 1})
        self.assertEqual([mount.id for mount in after.mounts], ["lift", "pan", "head"])
        self.assert_same(shot(pan, lift, TILTING), after)
        with self.assertRaisesRegex(EditError, "order matters here"):
            edited(shot(pan, TILTING), {"type": "move_mount", "mount": "pan", "by": 1})
        baked = edited(shot(pan, TILTING), {"type": "move_mount", "mount": "head", "by": -1, "bake": True})
        self.assertEqual([mount.id for mount in baked.mounts], ["head", "pan"])
        self.assertTrue(same_picture(shot(pan, TILTING), baked, between=1))

    def test_another_pivot(self) -> None:
        still = Mount(id="arm", name="Arm", pan_deg=fixed(20.0), tilt_deg=fixed(-5.0), x_m=fixed(1.0))
        after = edited(shot(still, TILTING), {"type": "set_pivot", "mount": "arm", "pivot_m": [0.0, 0.2, 0.5]})
        self.assertEqual(after.mounts[0].pivot_m, (0.0, 0.2, 0.5))
        self.assert_same(shot(still, TILTING), after)
        with self.assertRaisesRegex(EditError, "the same rotations about another point"):
            edited(shot(MOVE), {"type": "set_pivot", "mount": "camera", "pivot_m": [0.0, 0.0, 0.3]})
        baked = edited(shot(MOVE), {"type": "set_pivot", "mount": "camera", "pivot_m": [0.0, 0.0, 0.3], "bake": True})
        self.assertTrue(same_picture(shot(MOVE), baked, between=1))
        self.assertEqual(baked.mounts[0].pivot_m, (0.0, 0.0, 0.3))

    def test_pointed_elsewhere_with_its_load_turned_back(self) -> None:
        still = Mount(id="arm", name="Arm", pan_deg=fixed(20.0), y_m=fixed(1.0))
        before = shot(still, Mount(id="head", name="Head", tilt_deg=fixed(4.0)))
        after = edited(before, {"type": "turn_mount", "mount": "arm", "pan_deg": 35.0, "tilt_deg": 10.0})
        self.assertEqual(len(after.mounts), 2)
        self.assertNotEqual(after.mounts[0].pan_deg, still.pan_deg)
        self.assert_same(before, after)
        alone = edited(shot(MOVE), {"type": "turn_mount", "mount": "camera", "pan_deg": 15.0})
        self.assertEqual([mount.name for mount in alone.mounts], ["Camera", "Aim"])
        self.assert_same(shot(MOVE), alone)
        with self.assertRaisesRegex(NeedsKeys, "Keys on every frame"):
            edited(shot(MOVE, TILTING), {"type": "turn_mount", "mount": "head", "pan_deg": 15.0})
        baked = edited(shot(MOVE, TILTING), {"type": "turn_mount", "mount": "head", "pan_deg": 15.0, "bake": True})
        self.assertTrue(same_picture(shot(MOVE, TILTING), baked, between=1))


class Ready(unittest.TestCase):
    def test_every_ready_made_rig_leaves_a_still_picture_and_takes_the_place_of_the_one_before(self) -> None:
        before = shot(Mount(id="camera", name="Camera", y_m=fixed(1.6), pan_deg=fixed(30.0)))
        for rig in shipped_rigs().values():
            after = edited(before, use_rig("stabiliser"), {"type": "use_rig", "rig": rig})
            self.assertEqual([mount.name for mount in after.mounts], ["Camera", *(mount.name for mount in rig.mounts)])
            self.assertTrue(same_picture(before, after), rig.name)

    def test_what_was_worked_on_stays(self) -> None:
        rigged = edited(
            shot(MOVE),
            use_rig("crane arm"),
            {
                "type": "set_keys",
                "keys": [
                    {"at": "mount:arm.tilt_deg", "frame": 5, "value": 4},
                    {"at": "mount:arm.tilt_deg", "frame": 9, "value": 6},
                ],
            },
        )
        after = edited(rigged, use_rig("tripod"))
        self.assertEqual([mount.name for mount in after.mounts], ["Camera", "Arm", "Head"])

    def test_what_a_variant_that_is_put_aside_works_on_stays(self) -> None:
        rigged = edited(shot(MOVE), use_rig("stabiliser"))
        aimed = {"type": "set_values", "values": [{"at": f"mount:{rigged.mounts[-1].id}.operator", "value": {}}]}
        for works, stays in (((), False), ((aimed,), True)):
            aside = edited(rigged, *works, {"type": "add_variant"})
            back = aside.replace(mounts=tuple(each.replace(operator=None) for each in aside.mounts))
            after = edited(back, use_rig("tripod"))
            self.assertEqual(rigged.mounts[-1].id in {each.id for each in after.mounts}, stays)

    def test_what_nobody_worked_on_is_taken_away_together_and_the_pictures_compared_once(self) -> None:
        rigged = edited(shot(MOVE), use_rig("stabiliser"), {"type": "add_mount"})
        with mock.patch.object(rig_edits, "same_picture", wraps=same_picture) as compared:
            after = edited(rigged, use_rig("tripod"))
        self.assertEqual((compared.call_count, [mount.name for mount in after.mounts]), (1, ["Camera", "Head"]))
        self.assert_still_framed(rigged, after)

    def test_below_a_shake_and_behind_an_operator_the_right_neighbour_takes_over_at_once(self) -> None:
        raised = Mount(id="raised", name="Raised", y_m=fixed(1.4), springs=Springs())
        pole = Mount(id="pole", name="Pole", length_m=fixed(0.4), pan_deg=fixed(20.0))
        aims = Mount(id="aims", name="Aims", operator=Operator())
        before = shot(MOVE, raised, pole, aims, layers=(layer(swings={"tilt": 6.0, "roll": 3.0}, target="camera"),))
        with mock.patch.object(rig_edits, "same_picture", wraps=same_picture) as compared:
            after = edited(before, use_rig("tripod"))
        self.assertEqual(compared.call_count, 1)
        self.assertEqual([mount.name for mount in after.mounts], ["Camera", "Aims", "Head"])
        self.assert_still_framed(before, after)

    def test_one_that_nothing_can_take_over_keeps_no_other(self) -> None:
        held = Mount(id="held", name="Held", tilt_deg=fixed(20.0), roll_deg=fixed(30.0))
        spacer = Mount(id="spacer", name="Spacer", x_m=fixed(0.2))
        rolling = MOVE.replace(roll_deg=keyed((1, 0.0), (90, 20.0)))
        before = shot(rolling, held, TILTING, spacer)
        after = edited(before, use_rig("tripod"))
        self.assertEqual([mount.name for mount in after.mounts], ["Camera", "Held", "Head", "Head"])
        self.assert_still_framed(before, after)

    def assert_still_framed(self, before: Shot, after: Shot) -> None:
        """Without what gives, which only softens."""
        bare = [
            each.replace(mounts=tuple(one.replace(springs=None) for one in each.mounts)) for each in (before, after)
        ]
        self.assertTrue(same_picture(*bare))


class Arc(unittest.TestCase):
    def test_turning_about_a_shoulder_takes_the_sensor_along_an_arc(self) -> None:
        shoulder = Mount(
            id="shoulder",
            name="Shoulder",
            pan_deg=keyed((1, 0.0), (120, 90.0), interp="linear"),
            pivot_m=(0.0, 0.0, 0.3),
        )
        at = evaluate(shot(shoulder), BETWEEN).pose.position_m
        angle = np.radians(90.0 * (BETWEEN - 1) / 119)
        np.testing.assert_allclose(
            at, np.stack([-0.3 * np.sin(angle), 0 * angle, 0.3 - 0.3 * np.cos(angle)], axis=1), atol=1e-9
        )

    def test_no_rule_gives_anything_but_the_product(self) -> None:
        rng = np.random.default_rng(8)
        for _ in range(60):

            def some(id_: str) -> Mount:
                number = lambda: fixed(0.0) if rng.random() < 0.6 else fixed(float(rng.normal()))  # noqa: E731
                fields = {name: number() for name in ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg")}
                return Mount(
                    id=id_, name=id_, pivot_m=tuple(rng.normal(size=3)) if rng.random() < 0.5 else (0, 0, 0), **fields
                )  # type: ignore[arg-type]

            first, second = some("a"), some("b")
            before = shot(first, second)
            for fields in merged(first, second, before.scope(1)):
                self.assertTrue(same_picture(before, shot(first.replace(**fields))), f"{first} {second} {fields}")

    def test_beside_one_at_rest_the_other_keeps_its_own_numbers(self) -> None:
        rest, scope = Mount(id="rest", name="Rest"), shot(MOVE).scope(1)
        for pair in ((MOVE, rest), (rest, MOVE)):
            fields = next(merged(*pair, scope))
            self.assertIs(fields["x_m"], MOVE.x_m)
            self.assertIs(fields["y_m"], MOVE.y_m)

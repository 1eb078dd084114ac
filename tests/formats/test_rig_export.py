"""A rig with everything on it as nested nodes, there and back."""

import json
import struct
import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from tests.formats.test_gltf_write import composed, parsed
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.rig import rotations
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.springs import Springs
from zittern.core.timebase import Fps
from zittern.formats.files import no_sidecars
from zittern.formats.opening import open_shot
from zittern.formats.table import reader_of, written


def shot() -> Shot:
    sled = Ride(object="sled", x_m=keyed((1, 0.0), (48, 3.0)), pan_deg=keyed((1, 0.0), (48, 30.0)))
    mounts = (
        Mount(id="cart", name="Cart", kind="ground", z_m=keyed((1, 0.0), (48, -2.0)), ride=sled),
        Mount(id="arm", name="Arm", kind="arm", length_m=fixed(0.6), springs=Springs()),
        Mount(id="head", name="Head", kind="head", y_m=fixed(1.4), operator=Operator()),
    )
    kite = Subject(name="Kite", x_m=keyed((1, -3.0), (48, 4.0)), y_m=fixed(3.0), z_m=fixed(-9.0))
    return shot_with(
        layer("bob", seed=2, target="cart"),
        layer("hand", seed=3),
        mounts=mounts,
        subject=kite,
        hold=HoldFraming(),
        last_frame=48,
    )


class There(unittest.TestCase):
    def test_the_nodes_multiply_to_the_world_pose(self) -> None:
        made = shot()
        motion = evaluate(made)
        glb = written("glb", made, motion)
        self.assertEqual(
            [node["name"] for node in parsed(glb)[0]["nodes"]],
            ["Cart", "Layer: Bob", "Arm", "Head", "Layer: Hand", "Hold framing", "Test camera"],
        )
        positions, turned = composed(glb)
        np.testing.assert_allclose(positions, motion.pose.position_m, atol=1e-5)
        np.testing.assert_allclose(turned, rotations.matrices(motion.pose.angles_deg), atol=1e-5)


class AndBack(unittest.TestCase):
    def opened(self, glb: bytes) -> Shot:
        return open_shot("rig.glb", glb, no_sidecars, None, Fps(num=24)).shot

    def test_what_was_a_rig_comes_back_as_one_and_goes_out_as_the_same_again(self) -> None:
        motion = evaluate(shot())
        back = self.opened(written("glb", shot(), motion))
        self.assertEqual(
            [(mount.name, mount.kind) for mount in back.mounts][:3],
            [("Cart", "ground"), ("Layer: Bob", "free"), ("Arm", "arm")],
        )
        np.testing.assert_allclose(evaluate(back).pose.position_m, motion.pose.position_m, atol=1e-4)
        again = written("glb", back, evaluate(back))
        self.assertEqual(
            [node["name"] for node in parsed(again)[0]["nodes"]][:6],
            ["Cart", "Layer: Bob", "Arm", "Head", "Layer: Hand", "Hold framing"],
        )
        np.testing.assert_allclose(composed(again)[0], motion.pose.position_m, atol=1e-4)

    def test_a_tree_of_others_comes_as_one_path(self) -> None:
        glb = written("glb", shot(), evaluate(shot()))
        length = int.from_bytes(glb[12:16], "little")
        document = json.loads(glb[20 : 20 + length])
        for node in document["nodes"]:
            node.pop("extras", None)
        text = json.dumps(document).encode()
        text += b" " * (-len(text) % 4)
        rest = glb[20 + length :]
        other = struct.pack("<4sIII4s", b"glTF", 2, 20 + len(text) + len(rest), len(text), b"JSON") + text + rest
        back = self.opened(other)
        self.assertEqual(len(back.mounts), 1)
        np.testing.assert_allclose(evaluate(back).pose.position_m, evaluate(shot()).pose.position_m, atol=1e-4)

    def test_put_in_place_of_a_move_it_is_one_mount_unless_asked_for(self) -> None:
        glb = written("glb", shot(), evaluate(shot()))
        move = reader_of("rig.glb")(glb, no_sidecars).read(None, Fps(num=24)).move.model_dump()
        one = edited(shot_with(), {"type": "replace_move", "move": move, "name": "rig"})
        self.assertEqual(len(one.mounts), 1)
        self.assertEqual(
            len(edited(shot_with(), {"type": "replace_move", "move": move, "name": "rig", "with_rig": True}).mounts), 6
        )

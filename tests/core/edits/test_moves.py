import unittest

import numpy as np

from tests.core.making import command, edited, layer, over, shot_with, use_rig
from zittern.core.edits.table import apply
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import Mount

BASE = Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (240, 4.0)), y_m=1.6, pan_deg=keyed((1, 0.0), (240, 60.0)))
SHOT = shot_with(layer(target="camera"), layer("fine", seed=2), mounts=(BASE,))
PATH = {
    "x_m": 5.0,
    "y_m": keyed((1, 1.0), (48, 3.0), interp="linear").model_dump(),
    "z_m": -2.0,
    "pan_deg": keyed((1, 170.0), (48, 200.0)).model_dump(),
    "tilt_deg": keyed((1, 10.0), (24, -20.0), (48, 5.0)).model_dump(),
    "roll_deg": 0.0,
    "last_frame": 48,
}
ADD = {"type": "add_move", "name": "hand.glb", "move": PATH}


def poses(shot, frames):  # type: ignore[no-untyped-def]
    bare = evaluate(shot, frames).bare
    return transforms.from_parts(bare.position_m, bare.angles_deg)


class Riding(unittest.TestCase):
    def test_the_lens_departs_as_the_path_departs_from_its_start(self) -> None:
        frames = np.arange(1.0, 49.0)
        path = command(**ADD).move
        angles = np.stack(
            [path.pan_deg.sample(over(frames)), path.tilt_deg.sample(over(frames)), path.roll_deg.sample(over(frames))],
            axis=1,
        )
        place = np.stack(
            [path.x_m.sample(over(frames)), path.y_m.sample(over(frames)), path.z_m.sample(over(frames))], axis=1
        )
        own = transforms.from_parts(place, angles)
        expected = poses(SHOT, frames) @ np.linalg.inv(own[0]) @ own
        # Keys are linear between whole frames, which are asked for here; angles come back through arc functions.
        np.testing.assert_allclose(poses(edited(SHOT, ADD), frames), expected, atol=1e-9)

    def test_at_its_first_frame_nothing_changes(self) -> None:
        late = edited(SHOT, {"type": "set_values", "values": [{"at": "shot.first_frame", "value": 100}]})
        first = np.array([100.0])
        np.testing.assert_allclose(poses(edited(late, ADD), first), poses(late, first), atol=1e-12)

    def test_the_rest_of_the_shot_stays(self) -> None:
        after = edited(SHOT, ADD, ADD)
        self.assertEqual([mount.id for mount in after.mounts], ["camera", "path-1", "path-2"])
        self.assertEqual(after.replace(mounts=SHOT.mounts), SHOT)
        self.assertEqual(command(**ADD).label(SHOT), "Add move “hand.glb”")

    def test_a_path_that_reads_what_is_not_there_is_refused_by_name(self) -> None:
        for text, told in (("speed * 2", "speed"), ("nowhere + 1", "nowhere")):
            with self.subTest(text=text):
                formula = {"state": "formula", "text": text}
                change = command(**{**ADD, "move": {**PATH, "x_m": formula}})
                with self.assertRaisesRegex(EditError, told):
                    apply(SHOT, change)

    def test_a_path_through_the_zenith_has_no_jumps(self) -> None:
        arc = {**PATH, "pan_deg": 0.0, "tilt_deg": keyed((1, 0.0), (48, 170.0), interp="linear").model_dump()}
        mount = edited(SHOT, {**ADD, "move": arc}).mounts[-1]
        angles = mount.angles_deg(over(np.arange(1.0, 49.0)))
        self.assertLess(np.abs(np.diff(angles, axis=0)).max(), 4.0)
        np.testing.assert_allclose(
            rotations.matrices(angles)[-1], rotations.matrices(np.array([[0.0, 170.0, 0.0]]))[0], atol=1e-9
        )


class Removing(unittest.TestCase):
    def test_layers_on_it_fall_to_the_lens_end(self) -> None:
        after = edited(SHOT, ADD, {"type": "remove_mount", "mount": "camera"})
        self.assertEqual([mount.id for mount in after.mounts], ["path-1"])
        self.assertEqual([each.target for _, each in after.layers()], [None, None])

    def test_there_and_back(self) -> None:
        self.assertEqual(edited(SHOT, ADD, {"type": "remove_mount", "mount": "path-1"}), SHOT)

    def test_the_last_one_stays(self) -> None:
        for mount, pattern in (("camera", "needs one mount"), ("gone", "no mount 'gone'")):
            with self.subTest(mount), self.assertRaisesRegex(EditError, pattern):
                edited(SHOT, {"type": "remove_mount", "mount": mount})


class Bringing(unittest.TestCase):
    MOVE = {"x_m": 1, "y_m": 2, "z_m": 3, "pan_deg": 0, "tilt_deg": 0, "roll_deg": 0, "focal_mm": 50, "last_frame": 48}

    def test_the_path_is_replaced_and_the_layers_stay(self) -> None:
        rig = (Mount(id="crane", name="Crane"), Mount(id="head", name="Head"))
        shot = shot_with(layer(target="head"), layer("base", seed=2, target="crane"), mounts=rig)
        after = edited(shot, {"type": "replace_move", "name": "walk.glb", "move": self.MOVE})
        self.assertEqual([mount.id for mount in after.mounts], ["crane"])
        self.assertEqual([each.target for _, each in after.layers()], [None, "crane"])
        self.assertEqual((after.first_frame, after.last_frame, after.focal_mm.constant), (1, 48, 50.0))

    def test_a_command_survives_json(self) -> None:
        original = command(type="replace_move", name="walk.glb", move=self.MOVE)
        again = command(**original.model_dump(mode="json"))
        self.assertEqual(apply(SHOT, again), apply(SHOT, original))


class Held(unittest.TestCase):
    def test_a_path_that_is_brought_in_moves_whatever_was_muted_or_soloed(self) -> None:
        replace = {"type": "replace_move", "name": "walk.csv", "move": PATH}
        for fields in ({"mute": True}, {"solo": True}):
            held = shot_with(mounts=(BASE.replace(**fields), Mount(id="arm", name="Arm")))
            moved = edited(held, replace)
            self.assertGreater(float(np.ptp(evaluate(moved).pose.position_m[:, 1])), 1.0, fields)
            added = edited(held, ADD)
            self.assertGreater(float(np.ptp(evaluate(added).pose.position_m, axis=0).max()), 1.0, fields)
        others = shot_with(mounts=(BASE, Mount(id="arm", name="Arm", solo=True)))
        self.assertGreater(float(np.ptp(evaluate(edited(others, replace)).pose.position_m[:, 1])), 1.0)

    def test_a_rig_that_is_put_in_gives_whatever_is_soloed(self) -> None:
        soloed = edited(shot_with(mounts=(BASE.replace(solo=True),)), use_rig("shoulder"))
        self.assertTrue(evaluate(soloed).on.given)

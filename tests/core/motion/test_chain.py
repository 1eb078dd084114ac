import unittest

import numpy as np

from tests.core.making import over
from zittern.core.axes import no_offsets
from zittern.core.motion import chain
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount

FRAMES = np.array([1.0, 50.0, 100.0])
ARM = Mount(id="arm", name="Arm", pan_deg=keyed((1, 0.0), (100, 90.0), interp="linear"))
HEAD = Mount(id="head", name="Head", z_m=-2.0, tilt_deg=10.0)


def pose(*mounts: Mount, offsets: dict[str, np.ndarray] | None = None) -> np.ndarray:
    return chain.lens_pose(
        mounts,
        {mount.id: chain.local_pose(mount, over(FRAMES)) for mount in mounts},
        chain.RigOffsets(offsets=offsets or {}),
    )


class Chain(unittest.TestCase):
    def test_a_head_on_an_arm_is_swung_round(self) -> None:
        got = pose(ARM, HEAD)
        np.testing.assert_allclose(got[0, :3, 3], [0, 0, -2], atol=1e-12)
        np.testing.assert_allclose(got[2, :3, 3], [-2, 0, 0], atol=1e-12)

    def test_offsets_on_a_mount_move_what_hangs_on_it(self) -> None:
        rise = no_offsets(np.arange(3.0))
        rise[:, 4] = 50.0
        on_arm, at_lens = pose(ARM, HEAD, offsets={"arm": rise}), pose(ARM, HEAD, offsets={chain.LENS: rise})
        np.testing.assert_allclose(on_arm[:, 1, 3], 0.5, atol=1e-12)
        np.testing.assert_allclose(at_lens[:, 1, 3], 0.5 * np.cos(np.radians(10.0)), atol=1e-12)

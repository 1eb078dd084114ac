import unittest
from collections.abc import Callable
from contextlib import AbstractContextManager
from unittest import mock

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion import chain, spring_motion, spring_ways
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate, evaluate_in_parts, joined
from zittern.core.motion.evaluation import Evaluation
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.shot.springs import Springs
from zittern.core.units import Array

FRAMES = 1200


def rig() -> Shot:
    """Two springs one on the other; hold keys and a formula that jump, turns all round, a slow spring, a layer."""
    cart = Mount(
        id="cart",
        name="Cart",
        x_m=keyed((1, 0.0), (333, 4.0), (700, -3.0), interp="hold"),
        pan_deg=keyed((1, 0.0), (FRAMES, 900.0)),
        tilt_deg=by_formula("if t > 21.3 then 12 else 0", fixed(0.0)),
        springs=Springs(shift_hz=0.15, shift_damping=0.1, shift_stop_cm=400.0, turn_stop_deg=90.0),
    )
    camera = Mount(id="camera", name="Camera", y_m=keyed((1, 0.2), (FRAMES, 1.5)), springs=Springs(weight=fixed(0.8)))
    return shot_with(layer("bob", seed=3, target="cart"), mounts=(cart, camera), last_frame=FRAMES)


def in_stretches_of(points: int) -> AbstractContextManager[object]:
    return mock.patch.multiple(spring_ways, _WHOLE_POINTS=points, _STRETCH_POINTS=points)


class Stretches(unittest.TestCase):
    def assert_same(self, got: Motion, wanted: Motion) -> None:
        np.testing.assert_allclose(got.pose.position_m, wanted.pose.position_m, atol=1e-9)
        np.testing.assert_allclose(got.pose.angles_deg, wanted.pose.angles_deg, atol=1e-8)
        for name in wanted.on.given:
            np.testing.assert_allclose(got.on.given[name], wanted.on.given[name], atol=1e-9)

    def test_a_shot_in_stretches_is_the_shot_in_one(self) -> None:
        shot = rig()
        whole = evaluate(shot)
        self.assertGreater(np.max(np.abs(whole.on.given["cart"])), 0.5)
        for points in (500, 512, 1999):
            with self.subTest(points=points), in_stretches_of(points):
                self.assert_same(evaluate(shot), whole)

    def test_jumps_of_keys_and_of_formulas_each_stand_once(self) -> None:
        shot = rig()
        run = Evaluation(shot, np.arange(1.0, FRAMES + 1.0), Cache())
        ways = spring_ways.Ways(run, lambda *_: ({}, chain.RigOffsets()), shot.mounts)
        (stretch,) = [each for each, _ in ways.stretches(run.frames)]
        by_time = 1.0 + 21.3 * shot.fps.value
        inside = stretch.pairs[(stretch.pairs[:, 1] > 1.0) & (stretch.pairs[:, 1] < FRAMES)]
        np.testing.assert_allclose(np.sort(inside[:, 1]), [333.0, by_time, 700.0], atol=1e-3)
        apart = inside[:, 1] - inside[:, 0]
        self.assertTrue(np.all((apart > 0.0) & (apart < 2e-6)), apart)

    def test_any_frames_are_the_same_rows_also_with_what_was_kept(self) -> None:
        shot, cache = rig(), Cache()
        whole = evaluate(shot)
        asked = (np.arange(900.0, 990.0), np.arange(1.0, 1201.0, 40.0), np.arange(80.0, 130.0), np.array([1200.0]))
        with in_stretches_of(500):
            for frames in asked:
                got = evaluate(shot, frames, cache)
                wanted = whole.pose.position_m[frames.astype(int) - 1]
                np.testing.assert_allclose(got.pose.position_m, wanted, atol=1e-9)
            self.assert_same(joined(list(evaluate_in_parts(shot, whole.frames, 170))), whole)

    def test_a_look_into_the_middle_makes_its_own_stretch_alone_once_what_lies_before_was_made(self) -> None:
        shot, cache, made = rig(), Cache(), []
        plain = spring_motion.filled

        def noted(grid: Array, columns: int, make: Callable[[Array], Array]) -> Array:
            made.append((grid[0], grid[-1]))
            return plain(grid, columns, make)

        with in_stretches_of(500), mock.patch.object(spring_motion, "filled", noted):
            evaluate(shot, np.arange(1.0, 1201.0, 40.0), cache)
            count = len(made)
            made.clear()
            evaluate(shot, np.arange(910.0, 920.0), cache)
        self.assertGreater(count, 20)
        self.assertEqual(len(made), 2, "one stretch of each of two mounts")
        self.assertTrue(all(first > 890 and last < 1020 for first, last in made), made)

    def test_twice_as_many_mounts_are_twice_the_work(self) -> None:
        def poses_of(count: int) -> int:
            mounts = tuple(
                Mount(id=f"m{n}", name=f"M{n}", x_m=keyed((1, 0.0), (FRAMES, 1.0 + n)), springs=Springs())
                for n in range(count)
            )
            with (
                in_stretches_of(500),
                mock.patch.object(spring_ways, "_PARTS_BYTES", 0),
                mock.patch.object(chain, "local_pose", wraps=chain.local_pose) as made,
            ):
                evaluate(shot_with(mounts=mounts, last_frame=FRAMES))
            return made.call_count

        self.assertLess(poses_of(16), 2.3 * poses_of(8), "each way is worked out from the mounts since the one below")


if __name__ == "__main__":
    unittest.main()

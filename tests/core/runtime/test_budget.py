import time
import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.errors import ClientGone, TooDear
from zittern.core.motion.cost import arrays_bytes
from zittern.core.motion.evaluate import evaluate
from zittern.core.runtime import budget
from zittern.core.runtime.budget import Budget, on_budget
from zittern.core.shot.mounts import Mount
from zittern.core.shot.springs import Springs


class Limits(unittest.TestCase):
    def test_time_is_that_of_the_thread_and_the_layer_is_named(self) -> None:
        spent = Budget(0.0, 2**40)
        with (
            on_budget(spent),
            self.assertRaisesRegex(TooDear, "computing .* takes more than 0 s; nothing was changed. Lower"),
        ):
            evaluate(shot_with(layer()))
        with (
            on_budget(Budget(0.02, 2**40)),
            budget.doing(lambda: "“Slow sway”", "its rate"),
            self.assertRaisesRegex(TooDear, "computing “Slow sway” .*Lower its rate"),
        ):
            budget.check()
            while time.thread_time() >= 0.0:
                budget.check()

    def test_waiting_costs_nothing(self) -> None:
        generous = Budget(1e9, 2**40)
        with on_budget(generous):
            evaluate(shot_with(layer()))
        self.assertGreater(generous.spent_s, 0.0)
        self.assertLess(generous.spent_s, time.thread_time())

    def test_memory_is_told_before_it_is_taken(self) -> None:
        many = shot_with(*(layer(f"layer-{n}") for n in range(40)))
        with (
            on_budget(Budget(1e9, 10**7)),
            self.assertRaisesRegex(
                TooDear, "40 layers and 1 mounts at 20000 frames takes .* MB .*Lower the number of layers"
            ),
        ):
            evaluate(many, np.arange(20_000.0))
        mounts = tuple(Mount(id=f"m{n}", name="M") for n in range(40))
        with on_budget(Budget(1e9, 10**7)), self.assertRaisesRegex(TooDear, "the number of mounts"):
            evaluate(shot_with(mounts=mounts), np.arange(20_000.0))

    def test_the_estimate_is_what_a_motion_holds_within_a_factor_of_two(self) -> None:
        mounts = (Mount(id="arm", name="Arm", springs=Springs()), Mount(id="head", name="Head"))
        shot = shot_with(*(layer(f"layer-{n}", seed=n) for n in range(12)), mounts=mounts)
        motion = evaluate(shot)
        held = [
            *motion.layers.values(),
            *motion.layers.values(),
            *motion.weights.values(),
            *motion.rig.values(),
            *motion.locals_.values(),
        ]
        told = sum(arrays_bytes(shot, shot.frame_count).values())
        self.assertTrue(0.5 < told / sum(each.nbytes for each in held) < 2.0)

    def test_work_stops_when_nobody_waits(self) -> None:
        left = Budget(1e9, 2**40)
        left.gone = True
        with on_budget(left), self.assertRaises(ClientGone):
            evaluate(shot_with(layer()))
        evaluate(shot_with(layer()))  # outside of it nobody asks

import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.evaluation import Evaluation
from zittern.core.motion.mixing import active, contributions, sums, weights
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount

FRAMES = np.arange(1.0, 241.0)
RIG = (Mount(id="arm", name="Arm"), Mount(id="head", name="Head"))


class Contributions(unittest.TestCase):
    def test_those_that_do_not_count_are_silent_and_still_worked_out(self) -> None:
        shot = shot_with(layer("a"), layer("b", seed=2, mute=True))
        out, silent = contributions(Evaluation(shot, FRAMES, Cache()))
        self.assertEqual((set(out), set(silent), active(shot)), ({"a"}, {"b"}, {"a"}))
        self.assertGreater(np.abs(silent["b"]).max(), 0)

    def test_replacing_stays_at_its_mount_and_on_its_axes(self) -> None:
        under, elsewhere = layer("under", target="head"), layer("elsewhere", seed=2, target="arm")
        over = layer("over", seed=3, target="head", mode="replace", swings={"pan": 1.0})
        out, _ = contributions(Evaluation(shot_with(under, elsewhere, over, mounts=RIG), FRAMES, Cache()))
        self.assertEqual(np.abs(out["under"][:, 0]).max(), 0.0)
        self.assertGreater(np.abs(out["under"][:, 1]).max(), 0.0)
        self.assertGreater(np.abs(out["elsewhere"][:, 0]).max(), 0.0)

    def test_a_replacing_layer_gives_way_to_those_above_it(self) -> None:
        over, top = layer("over", mode="replace"), layer("top", seed=2)
        both = evaluate(shot_with(over, top))
        np.testing.assert_array_equal(both.layers["top"], evaluate(shot_with(top)).layers["top"])

    def test_weights_are_those_of_layer_and_clip_together(self) -> None:
        shot = shot_with(
            layer(weight=keyed((1, 0.0), (240, 1.0), interp="linear")),
            clip={"amount": 0.5, "span_frames": (1.0, 120.0)},
        )
        found = weights(Evaluation(shot, FRAMES, Cache()))["sway"]
        np.testing.assert_allclose(found[:120], 0.5 * np.linspace(0, 1, 240)[:120], atol=1e-12)
        self.assertEqual(found[120:].max(), 0.0)

    def test_sums_are_by_mount(self) -> None:
        shot = shot_with(layer("a", target="arm"), layer("b", seed=2), layer("c", seed=3), mounts=RIG)
        out, _ = contributions(Evaluation(shot, FRAMES, Cache()))
        found = sums(shot, out)
        self.assertEqual(set(found), {"arm", ""})
        np.testing.assert_allclose(found[""], out["b"] + out["c"], atol=1e-15)

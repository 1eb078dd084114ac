import random
import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from tests.core.motion.recording import recording
from tools import fuzz_cache
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.evaluation import Evaluation
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.clips import Clip
from zittern.core.shot.dials import Dial
from zittern.core.shot.lanes import Lane
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.shot.springs import Springs
from zittern.core.sources.breath import Breath
from zittern.core.sources.gait import Gait
from zittern.core.sources.wave import Wave
from zittern.core.timebase import Fps

WALK = Mount(id="camera", name="Camera", y_m=fixed(1.5), z_m=keyed((1, 0.0), (100, -3.0), (240, -12.0)))


def same(test: unittest.TestCase, shots: list[Shot]) -> None:
    """Each, evaluated with one cache for all, is as evaluated alone."""
    cache = Cache()
    for shot in shots:
        got, fresh = evaluate(shot, cache=cache), evaluate(shot)
        np.testing.assert_allclose(got.pose.position_m, fresh.pose.position_m, atol=1e-9)
        np.testing.assert_allclose(got.pose.angles_deg, fresh.pose.angles_deg, atol=1e-7)
        for name, values in fresh.layers.items():
            np.testing.assert_allclose(got.layers[name], values, atol=1e-9, err_msg=name)


class NeverStale(unittest.TestCase):
    def test_a_phase_by_the_path_at_another_frame_rate_and_first_frame(self) -> None:
        walk = shot_with(layer(source=Gait(follows="the path")), mounts=(WALK,))
        same(self, [walk, walk.replace(fps=Fps(num=30)), walk.replace(first_frame=-20), walk])

    def test_the_same_formula_under_other_limits(self) -> None:
        text = by_formula("10 * (1 + u)", fixed(1.0))
        one = shot_with(layer(source=Wave(rate_hz=text)), layer("breath", Breath(rate_hz=text)))
        same(self, [shot_with(layer("breath", Breath(rate_hz=text))), one, shot_with(layer(source=Wave(rate_hz=text)))])

    def test_which_clip_a_layer_below_springs_lies_in(self) -> None:
        camera = Mount(id="lens", name="Lens", springs=Springs())
        bob = layer("bob", weight=by_formula("u", fixed(1.0)), target="camera")

        def shot(within: int) -> Shot:
            clips = [
                Clip(
                    id=f"clip-{n}",
                    name="Clip",
                    span_frames=((1.0, 120.0), (40.0, 200.0))[n],
                    layers=(bob,) if n == within else (),
                )
                for n in (0, 1)
            ]
            return shot_with(mounts=(WALK, camera), lanes=(Lane(id="lane", name="Lane", clips=tuple(clips)),))

        same(self, [shot(0), shot(1), shot(0)])

    def test_random_edits_of_everything(self) -> None:
        self.assertEqual(list(fuzz_cache.run(shots=2, edits=8, seed=5)), [])


class Keys(unittest.TestCase):
    def test_all_that_is_read_is_in_the_key(self) -> None:
        """Attribute by attribute and name by name, on random shots with rigs, cues and all sources."""
        stages: set[str] = set()
        for number in range(8):
            rng = random.Random(number)
            shot = fuzz_cache.made(rng)
            with recording(lambda: shot) as recorder:  # noqa: B023
                evaluate(shot)
            self.assertEqual(recorder.missing, set(), number)
            stages |= set(recorder.checked)
        self.assertLessEqual(
            {"mount", "unit", "clip", "weight", "layer", "phase", "bare", "focal", "way", "springs", "aim", "hold"},
            stages,
        )

    def test_a_key_that_lacks_something_is_noticed(self) -> None:
        shot = shot_with(layer(weight=keyed((1, 0.0), (99, 1.0))))
        with recording(lambda: shot) as recorder:
            run = Evaluation(shot, np.arange(1.0, 9.0), Cache())
            run.memoized("lacking", (shot.focal_mm,), lambda: shot.lanes[0].clips[0].layers[0].weight.sample(run.scope))
        self.assertEqual(
            recorder.missing,
            {"lacking: Curve.keys", "lacking: Curve.before", "lacking: Curve.after"} & recorder.missing,
        )
        self.assertTrue(recorder.missing)

    def test_names_count_nothing(self) -> None:
        """Renaming a mount, a layer, a clip, a lane or a dial meets every array again."""
        camera = Mount(id="lens", name="Lens", springs=Springs())
        dials = (Dial(name="panic", value=fixed(40.0)),)
        shot = shot_with(
            layer(target="camera"),
            layer("more", weight=by_formula("panic / 50", fixed(1.0))),
            mounts=(WALK, camera),
            dials=dials,
        )
        renamed = edited(
            shot,
            {
                "type": "set_values",
                "values": [
                    {"at": at, "value": "Other"}
                    for at in ("mount:lens.name", "layer:sway.name", "clip:main.name", "lane:main.name")
                ],
            },
        )
        cache = Cache()
        evaluate(shot, cache=cache)
        before = cache.bytes
        evaluate(renamed, cache=cache)
        self.assertEqual(cache.bytes, before)

    def test_reads_are_a_property_of_the_instance(self) -> None:
        """A gait on a cadence does not look at the path, so another move meets its motion again."""
        for follows, again in (("a cadence", True), ("the path", False)):
            shot = shot_with(layer(source=Gait(follows=follows)), mounts=(WALK,))
            moved = shot.replace(mounts=(WALK.replace(x_m=keyed((1, 0.0), (240, 4.0))),))
            cache = Cache()
            one = evaluate(shot, cache=cache).layers["sway"]
            self.assertEqual(evaluate(moved, cache=cache).layers["sway"] is one, again, follows)

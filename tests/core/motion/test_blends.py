import unittest

import numpy as np

from tests.core.making import edited, layer, rms, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import Keyed, Number, by_formula, fixed, keyed
from zittern.core.shot.layers import Layer
from zittern.core.shot.pad import corners
from zittern.core.shot.shot import Shot
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.noise import Noise

NAMES = ("one", "two", "three", "four")


def noise(corner: str, seed: int, swing: float = 1.0, **fields: object) -> Layer:
    return layer(
        f"{corner}-{seed}", Noise(rate_hz=fixed(1.0)), seed, {"pan": swing, "tilt": swing}, corner=corner, **fields
    )


def blended(
    *layers: Layer,
    across: Number | float = 50.0,
    up: Number | float = 50.0,
    way: str = "mix",
    count: int = 2,
    **fields: object,
) -> Shot:
    numbers = [fixed(float(each)) if isinstance(each, (int, float)) else each for each in (across, up)]
    blend = {
        "method": way,
        "corners": [{"id": name, "name": name.title()} for name in NAMES[:count]],
        "across_percent": numbers[0],
        "up_percent": numbers[1],
    }
    return shot_with(*layers, clip={"blend": blend}, **fields)


class Mix(unittest.TestCase):
    def test_at_a_corner_it_is_that_corner_to_the_last_bit(self) -> None:
        layers = [noise(name, 7 + n, 0.5 + n) for n, name in enumerate(NAMES)]
        for n, (across, up) in enumerate(corners(4) * 100.0):
            alone = evaluate(shot_with(layers[n])).total
            np.testing.assert_array_equal(evaluate(blended(*layers, across=across, up=up, count=4)).total, alone)

    def test_the_size_stays_on_the_way_over_many_seeds(self) -> None:
        places = (20.0, 50.0, 80.0)
        sizes = []
        for seed in range(200):
            # Both contents are the same at each place.
            layers, cache = (noise("one", seed), noise("two", 5_000 + seed)), Cache()
            sizes.append([rms(evaluate(blended(*layers, across=at), cache=cache).total[:, :2]) for at in places])
        np.testing.assert_allclose(np.sqrt(np.mean(np.square(sizes), axis=0)), 0.5, rtol=0.1)

    def test_what_moves_alike_in_two_corners_does_not_swell(self) -> None:
        keys = HandKeys(tracks=Tracks(pan=keyed((1, 0.0), (60, 3.0), (120, 0.0))))
        for across in (0.0, 30.0, 50.0, 100.0):
            both = [layer(f"keys-{name}", keys, 3, {}, corner=name) for name in NAMES[:2]]
            np.testing.assert_allclose(
                evaluate(blended(*both, across=across)).total, evaluate(shot_with(both[0])).total, atol=1e-12
            )
            same = [noise(name, 9) for name in NAMES[:2]]
            same = [each.replace(id=f"{each.id}{n}") for n, each in enumerate(same)]
            np.testing.assert_allclose(
                evaluate(blended(*same, across=across)).total, evaluate(shot_with(same[0])).total, atol=1e-12
            )

    def test_a_layer_of_no_corner_counts_everywhere(self) -> None:
        common = layer("common", seed=5)
        shot = blended(common, noise("one", 1), noise("two", 2), across=100.0)
        np.testing.assert_array_equal(evaluate(shot).layers["common"], evaluate(shot_with(common)).total)

    def test_replacing_stays_within_its_corner(self) -> None:
        over = noise("one", 3, mode="replace")
        motion = evaluate(blended(noise("one", 1), over, noise("two", 2), across=50.0))
        self.assertEqual(np.abs(motion.layers["one-1"]).max(), 0.0)
        self.assertGreater(np.abs(motion.layers["two-2"]).max(), 0.1)


class Place(unittest.TestCase):
    def test_a_place_that_jumps_makes_nothing_jump(self) -> None:
        """Velocity is up to that of both contents, and what the way of the place explains: size over 0.1 s."""
        frames = np.arange(1.0, 241.0, 0.02)
        step_s = 0.02 / 24.0
        for way in ("mix", "morph"):
            for seed in range(20):
                layers = noise("one", seed), noise("two", 900 + seed, 2.0)
                jumps = blended(*layers, across=keyed((1, 0.0), (100, 100.0), (140, 0.0), interp="hold"), way=way)
                ends = [evaluate(blended(*layers, across=end, way=way), frames).total[:, 0] for end in (0.0, 100.0)]
                fastest = sum(np.abs(np.diff(each)).max() / step_s for each in ends)
                largest = sum(np.abs(each).max() for each in ends)
                most = np.abs(np.diff(evaluate(jumps, frames).total[:, 0])).max() / step_s
                # The powers of two corners change by up to 1.62 over the way.
                self.assertLess(most, fastest + 1.7 * largest / 0.1, (way, seed))

    def test_keyed_typed_and_by_dial_and_a_part_is_as_the_whole(self) -> None:
        dial = {"dials": ({"name": "worry", "value": keyed((1, 0.0), (200, 100.0)), "minimum": 0.0, "maximum": 100.0},)}
        for across, fields in (
            (keyed((20, 0.0), (90, 100.0), (91, 30.0)), {}),
            (by_formula("50 + 50 * sin(t)", fixed(0.0)), {}),
            (by_formula("100 * u", fixed(0.0)), {}),
            (by_formula("worry", fixed(0.0)), dial),
        ):
            for way in ("mix", "morph"):
                shot = blended(noise("one", 1), noise("two", 2, 3.0), across=across, way=way, **fields)
                whole = evaluate(shot)
                np.testing.assert_array_equal(evaluate(shot, whole.frames[50:90]).total, whole.total[50:90])
                self.assertGreater(np.ptp(whole.weights["two-2"]), 0.3)

    def test_never_stale(self) -> None:
        cache = Cache()
        shot = blended(noise("one", 1), noise("two", 2), noise("two", 3), across=30.0, way="morph")
        for edit in (
            {"at": "clip:main.blend.across_percent", "value": 70.0},
            {"at": "clip:main.blend.method", "value": "mix"},
            {"at": "layer:two-2.source.rate_hz", "value": 2.5},
            {"at": "clip:main.blend.method", "value": "morph"},
            {"at": "layer:two-2.weight", "value": 0.5},
            {"at": "layer:one-1.axes.pan.swing", "value": 2.0},
            {"at": "layer:two-2.mute", "value": True},
            {"at": "layer:two-3.ramp_in_frames", "value": 20.0},
            {"at": "clip:main.blend.across_percent", "value": Keyed.model_dump(keyed((1, 0.0), (90, 100.0)))},
        ):
            evaluate(shot, cache=cache)
            shot = edited(shot, {"type": "set_values", "values": [edit]})
            np.testing.assert_array_equal(evaluate(shot, cache=cache).total, evaluate(shot).total, str(edit))

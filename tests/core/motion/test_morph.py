import unittest

import numpy as np

from tests.core.making import layer, rms, shot_with
from tests.core.motion.test_blends import blended, noise
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.morph import groups
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot
from zittern.core.sources.gait import Gait
from zittern.core.sources.noise import Noise
from zittern.core.sources.wave import Wave


def walker(corner: str, cadence_hz: float, swing: float, seed: int, **fields: object) -> Layer:
    source = Gait(cadence_hz=fixed(cadence_hz), uneven=fixed(0.0), **fields)
    return layer(f"walk-{corner}", source, seed, {"tilt": swing, "pan": swing}, corner=corner)


def pairs(shot: Shot, way: str = "morph") -> list[list[str]]:
    clip = next(shot.clips())
    return [[each.id for each in group] for group in groups(clip, {layer.id for layer in clip.layers})]


def peak_hz(values: np.ndarray) -> float:
    power = np.abs(np.fft.rfft(values * np.hanning(len(values))))
    return float(np.fft.rfftfreq(len(values), 1.0 / 24.0)[np.argmax(power)])


class Between(unittest.TestCase):
    def test_halfway_between_a_stroll_and_a_run_is_one_walker(self) -> None:
        both = walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2)
        for across, expected in ((0.0, 1.7), (50.0, np.sqrt(1.7 * 2.8)), (100.0, 2.8)):
            motion = evaluate(blended(*both, across=across, way="morph", last_frame=2400))
            tilt = motion.total[:, 1]
            self.assertAlmostEqual(peak_hz(tilt), expected, delta=0.02)
            power = np.abs(np.fft.rfft(tilt)) ** 2
            rates = np.fft.rfftfreq(len(tilt), 1.0 / 24.0)
            near = np.abs(rates / expected - np.round(rates / expected)) < 0.06
            self.assertGreater(power[near].sum() / power.sum(), 0.95, "one cadence, not two")
        half = rms(evaluate(blended(*both, across=50.0, way="morph", last_frame=2400)).total)[1]
        whole = [
            rms(evaluate(blended(*both, across=end, way="morph", last_frame=2400)).total)[1] for end in (0.0, 100.0)
        ]
        self.assertAlmostEqual(half, np.sqrt(whole[0] * whole[1]), delta=0.02)

    def test_at_a_corner_it_is_that_corner_in_its_numbers(self) -> None:
        both = walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 1)
        for across, alone in ((0.0, both[0]), (100.0, both[1])):
            found = evaluate(blended(*both, across=across, way="morph")).total
            np.testing.assert_allclose(found, evaluate(shot_with(alone)).total, atol=1e-9)

    def test_it_clamps_a_swing_as_a_plain_layer_does_and_never_its_weight(self) -> None:
        strong = walker("one", 1.7, 50.0, 1).replace(weight=fixed(3.0))
        driven = strong.replace(axes={"tilt": {"swing": by_formula("500 + 500", fixed(1.0))}})
        for one in (strong, driven):
            both = one, walker("two", 2.8, 0.8, 2)
            found = evaluate(blended(*both, across=0.0, way="morph")).total
            np.testing.assert_allclose(found, evaluate(shot_with(one)).total, atol=1e-9)

    def test_a_place_that_moves_runs_through_the_rates_between_without_a_jump(self) -> None:
        both = walker("one", 1.5, 0.4, 1), walker("two", 3.0, 0.4, 2)
        shot = blended(*both, across=keyed((240, 0.0), (2160, 100.0), interp="linear"), way="morph", last_frame=2400)
        tilt = evaluate(shot).total[:, 1]
        rates = [peak_hz(tilt[start : start + 240]) for start in range(240, 2160, 240)]
        self.assertTrue(np.all(np.diff(rates) > 0.0), rates)
        fine = evaluate(shot, np.arange(1000.0, 1100.0, 0.01)).total[:, 1]
        self.assertLess(np.abs(np.diff(fine)).max(), 0.02)

    def test_what_the_layers_give_adds_up_to_the_one_between(self) -> None:
        motion = evaluate(blended(walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2), across=25.0, way="morph"))
        each = [rms(values)[1] for values in motion.layers.values()]
        self.assertAlmostEqual(each[0] / each[1], 3.0, places=9)
        np.testing.assert_allclose(sum(motion.layers.values()), motion.total, atol=1e-12)

    def test_between_nothing_and_something_the_way_is_straight(self) -> None:
        both = noise("one", 4, 0.0), noise("two", 4, 2.0)
        sizes = [rms(evaluate(blended(*both, across=at, way="morph")).total)[0] for at in (25.0, 50.0, 100.0)]
        np.testing.assert_allclose(np.array(sizes) / sizes[-1], [0.25, 0.5, 1.0], rtol=1e-9)

    def test_ramps_are_each_ones_own(self) -> None:
        late = noise("two", 2, span_frames=(120.0, 240.0))
        motion = evaluate(blended(noise("one", 1), late, across=100.0, way="morph"))
        self.assertEqual(np.abs(motion.total[:110]).max(), 0.0)
        self.assertGreater(np.abs(motion.total[130:]).max(), 0.1)


class Partners(unittest.TestCase):
    def test_only_what_differs_by_numbers_alone(self) -> None:
        one = noise("one", 1)
        for other, alike in (
            (noise("two", 2, 3.0), True),
            (noise("two", 2, target="camera"), False),
            (noise("two", 2, steady=True), False),
            (noise("two", 2, mode="replace"), False),
            (noise("two", 2).replace(source=Noise(octaves=4)), False),
            (noise("two", 2).replace(source=Noise(loop=True)), False),
            (noise("two", 2).replace(source=Wave()), False),
            (noise("one", 2), False),
        ):
            self.assertEqual(pairs(blended(one, other, way="morph")), [[one.id, other.id]] if alike else [], other)

    def test_of_several_the_nearest_rate_and_the_rest_is_mixed(self) -> None:
        slow, fast = (noise("one", n).replace(source=Noise(rate_hz=fixed(hz))) for n, hz in ((1, 0.5), (2, 6.0)))
        quick = noise("two", 3).replace(source=Noise(rate_hz=fixed(5.0)))
        calm = noise("two", 4).replace(source=Noise(rate_hz=fixed(0.4)))
        self.assertEqual(
            pairs(blended(slow, fast, quick, calm, way="morph")), [[slow.id, calm.id], [fast.id, quick.id]]
        )
        self.assertEqual(pairs(blended(slow, fast, calm, way="morph")), [[slow.id, calm.id]])
        alone = evaluate(blended(slow, fast, calm, across=0.0, way="morph")).layers[fast.id]
        np.testing.assert_array_equal(alone, evaluate(shot_with(fast)).total)

    def test_a_mix_has_none(self) -> None:
        self.assertEqual(pairs(blended(noise("one", 1), noise("two", 2))), [])

import unittest

import numpy as np

from tests.core.making import layer, rms, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.fades import fade, overlapping
from zittern.core.numbers.envelope import RampShape
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot
from zittern.core.sources.noise import Noise

FRAMES = np.arange(1.0, 241.0)


def clip(id_: str, first: float, last: float, seed: int, **fields: object) -> Clip:
    noise = layer(f"{id_}-layer", seed=seed, source=Noise(rate_hz=2.0), swings={"pan": 1.0})
    return Clip(id=id_, name=id_, span_frames=(first, last), layers=(noise,), **fields)  # type: ignore[arg-type]


def lane_of(*clips: Clip, fade: RampShape = "equal-power") -> Shot:
    return shot_with(lanes=(Lane(id="lane", name="Lane", clips=clips, fade=fade),))


class Energy(unittest.TestCase):
    def test_equal_power_keeps_it_where_linear_dips(self) -> None:
        """RMS at the middle of a fade between two unrelated noises, over 200 seeds, as a share of either alone."""
        alone_and_middle = np.concatenate([np.arange(20.0, 25.0), np.arange(118.0, 123.0)])
        shapes: tuple[RampShape, ...] = ("equal-power", "linear")
        pans = np.empty((len(shapes), 200, len(alone_and_middle)))
        for seed in range(200):
            cache = Cache()
            for pan, shape in zip(pans[:, seed], shapes, strict=True):
                shot = lane_of(clip("a", 1, 180, 2 * seed), clip("b", 60, 240, 2 * seed + 1), fade=shape)
                pan[:] = evaluate(shot, alone_and_middle, cache).total[:, 0]
        kept, dipped = (float(rms(pan[:, 5:].ravel()) / rms(pan[:, :5].ravel())) for pan in pans)
        self.assertAlmostEqual(kept, 1.0, delta=0.1)
        self.assertAlmostEqual(dipped, 1 / np.sqrt(2), delta=0.08)


class Shares(unittest.TestCase):
    def test_they_add_up_as_their_shape_says(self) -> None:
        mine, theirs = (1.0, 100.0), (60.0, 200.0)
        for shape in ("linear", "smooth", "equal-power"):
            out = fade(FRAMES, mine, ((theirs, False),), shape)
            into = fade(FRAMES, theirs, ((mine, True),), shape)
            total = out**2 + into**2 if shape == "equal-power" else out + into
            np.testing.assert_allclose(total[(FRAMES >= 60) & (FRAMES <= 100)], 1.0, atol=1e-12)
            self.assertTrue(np.all(out[FRAMES <= 60] == 1) and np.all(np.isclose(into[FRAMES >= 100], 1)))

    def test_one_within_another_comes_and_goes(self) -> None:
        around, within = (1.0, 240.0), (100.0, 140.0)
        inner = fade(FRAMES, within, ((around, True),), "linear")
        outer = fade(FRAMES, around, ((within, False),), "linear")
        self.assertEqual((inner[119], outer[119]), (1.0, 0.0))
        np.testing.assert_allclose((inner + outer)[99:140], 1.0)
        self.assertTrue(np.all(outer[:99] == 1) and np.all(outer[140:] == 1))

    def test_muted_clips_and_those_elsewhere_take_nothing(self) -> None:
        a, b, c = clip("a", 1, 100, 1), clip("b", 60, 200, 2, mute=True), clip("c", 150, 220, 3)
        lane = Lane(id="lane", name="Lane", clips=(a, b, c))
        self.assertEqual(overlapping(lane, a, (1.0, 240.0)), ())
        self.assertEqual(overlapping(lane, b, (1.0, 240.0)), (((1.0, 100.0), True), ((150.0, 220.0), False)))

    def test_three_at_once_are_defined_and_never_more_than_whole(self) -> None:
        stretches = ((1.0, 150.0), (50.0, 200.0), (80.0, 240.0))
        clips = [clip(str(f"c{n}"), *each, seed=n) for n, each in enumerate(stretches)]
        weights = evaluate(lane_of(*clips), FRAMES).weights
        for values in weights.values():
            self.assertTrue(np.all((values >= 0) & (values <= 1)))
        self.assertGreater(sum(weights.values()).min(), 0.3)


class Ends(unittest.TestCase):
    def test_pose_and_speed_are_continuous_at_both_ends_of_a_fade(self) -> None:
        shot = lane_of(clip("a", 1, 140, 1), clip("b", 80, 240, 2), fade="smooth")
        for end in (80.0, 140.0):
            at = end + np.array([-2e-4, -1e-4, 0.0, 1e-4, 2e-4])
            pan = evaluate(shot, at).total[:, 0]
            self.assertLess(np.abs(np.diff(pan)).max(), 1e-3)
            self.assertLess(np.abs(np.diff(pan, n=2)).max(), 1e-6)

import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.edits.timing import ReverseTime
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.cues import Cue
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.breath import Breath
from zittern.core.sources.cycle import Cycle
from zittern.core.sources.drift import Drift
from zittern.core.sources.hit import Hit
from zittern.core.sources.noise import Noise
from zittern.core.sources.tremor import Tremor
from zittern.core.sources.wave import Wave
from zittern.core.timing.reversing import mirrored

PATH = (
    Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (40, 3.0), (96, 1.0)), pan_deg=keyed((10, 0.0), (80, 30.0))),
)
A, B = 25, 60


def reversed_(shot: Shot, first: int = A, last: int = B) -> Shot:
    return ReverseTime(first_frame=first, last_frame=last).apply(shot)


def random_curve(rng: np.random.Generator) -> Curve:
    frames = np.sort(rng.choice(np.arange(1, 100), size=rng.integers(2, A), replace=False)).astype(float)
    kinds = rng.choice(["hold", "linear", "smooth", "free"], size=len(frames))
    keys = []
    for frame, kind in zip(frames, kinds, strict=True):
        reach = float(rng.uniform(0.3, 3.0))
        handles = (
            {"handle_in": (-reach, float(rng.normal())), "handle_out": (reach, float(rng.normal()))}
            if kind == "free"
            else {}
        )
        keys.append(Key(frame=float(frame), value=float(rng.normal()), interp=str(kind), **handles))  # type: ignore[arg-type]
    ends = ("hold", "continue", "repeat")
    return Curve(keys=tuple(keys), before=str(rng.choice(ends)), after=str(rng.choice(ends)))  # type: ignore[arg-type]


class Curves(unittest.TestCase):
    def test_inside_the_other_way_round_and_outside_as_before(self) -> None:
        rng = np.random.default_rng(5)
        between = np.concatenate([np.linspace(A + 0.01, B - 0.01, 300), np.arange(A, B + 1)])
        outside = np.concatenate([np.linspace(1.0, A - 0.01, 100), np.linspace(B + 0.01, 100.0, 100)])
        for number in range(200):
            curve = random_curve(rng)
            turned = mirrored(curve, A, B, (1.0, 100.0))
            jumps = np.concatenate([curve.jumps((0.0, 101.0)).ravel(), [0.0]])
            near = np.min(np.abs((A + B - between)[:, None] - jumps[None]), axis=1) < 0.01
            # The last key of what repeats is its first one too: which of both counts there is nobody's promise.
            whole = (between == np.round(between)) & (A + B - between != curve.keys[-1].frame)
            exact = between[~near | whole]
            np.testing.assert_allclose(
                turned.sample(exact), curve.sample(A + B - exact), atol=1e-8, err_msg=f"{number} inside"
            )
            clear = outside[np.min(np.abs(outside[:, None] - jumps[None]), axis=1) > 0.01]
            np.testing.assert_allclose(
                turned.sample(clear), curve.sample(clear), atol=1e-8, err_msg=f"{number} outside"
            )


class Shots(unittest.TestCase):
    def test_path_and_whatever_runs_by_phase_shows_what_it_showed_the_other_way_round(self) -> None:
        for source in (
            Noise(octaves=3),
            Wave(),
            Drift(),
            Tremor(),
            Breath(),
            Cycle(),
            Noise(loop=True, rate_hz=keyed((1, 0.5), (96, 3.0))),
        ):
            with self.subTest(source.kind):
                shot = shot_with(layer(source=source, weight=keyed((20, 0.2), (70, 1.0))), mounts=PATH, last_frame=96)
                before, after = evaluate(shot), evaluate(reversed_(shot))
                inside, mirror = slice(A - 1, B), slice(B - 1, A - 2, -1)
                np.testing.assert_allclose(after.total[inside], before.total[mirror], atol=1e-9)
                np.testing.assert_allclose(after.pose.position_m[inside], before.pose.position_m[mirror], atol=1e-9)
                for rest in (slice(0, A - 1), slice(B, 96)):
                    np.testing.assert_allclose(after.total[rest], before.total[rest], atol=1e-9)
                    np.testing.assert_allclose(after.bare.angles_deg[rest], before.bare.angles_deg[rest], atol=1e-9)

    def test_twice_is_as_before(self) -> None:
        shot = shot_with(layer(), mounts=PATH, last_frame=96, clip={"span_frames": (30.0, 50.0), "ramp_in_frames": 6.0})
        once, twice = reversed_(shot), reversed_(reversed_(shot))
        (clip,) = once.clips()
        self.assertEqual((clip.span_frames, clip.ramp_in_frames, clip.ramp_out_frames), ((35.0, 55.0), 0.0, 6.0))
        np.testing.assert_allclose(evaluate(twice).total, evaluate(shot).total, atol=1e-9)
        np.testing.assert_allclose(evaluate(twice).pose.position_m, evaluate(shot).pose.position_m, atol=1e-9)
        self.assertGreater(np.abs(evaluate(once).total - evaluate(shot).total).max(), 0.1)

    def test_a_hit_still_rings_after_its_cue(self) -> None:
        hit = layer("hit", Hit(), swings={"tilt": 1.0})
        shot = reversed_(shot_with(hit, last_frame=96, cues=(Cue(id="blow", frame=30.0),)))
        self.assertEqual([cue.frame for cue in shot.cues], [A + B - 30.0])
        moved = np.abs(evaluate(shot).total[:, 1])
        at = A + B - 30 - 1
        self.assertLess(moved[A:at].max(), 0.01, "what is left of the one at the start of the clip")
        self.assertGreater(moved[at : at + 12].max(), 0.3)

    def test_the_whole_shot_and_one_frame_and_what_lies_outside(self) -> None:
        shot = shot_with(layer(), mounts=PATH, last_frame=96)
        np.testing.assert_allclose(evaluate(reversed_(shot, 1, 96)).total, evaluate(shot).total[::-1], atol=1e-9)
        self.assertEqual(reversed_(shot, 7, 7), shot)
        for first, last in ((0, 5), (90, 97), (50, 40)):
            with self.assertRaises(EditError):
                reversed_(shot, first, last)
        later = edited(reversed_(shot), {"type": "insert_time", "frame": 10, "frames": 5})
        np.testing.assert_allclose(
            evaluate(later).total[A + 4 : B + 5], evaluate(reversed_(shot)).total[A - 1 : B], atol=1e-9
        )

    def test_a_reversed_part_equals_the_whole(self) -> None:
        shot = reversed_(
            shot_with(
                layer(source=Noise(rate_hz=keyed((1, 0.5), (96, 3.0)), octaves=2), speed=fixed(1.3)), last_frame=96
            )
        )
        part = evaluate(shot, np.array([30.5, 41.25]))
        np.testing.assert_allclose(part.total, evaluate(shot, np.arange(30.0, 60.0, 0.25)).total[[2, 45]], atol=1e-9)

"""A flattened or baked blend moves as the blend did, at whole and fractional frames."""

import random
import unittest
from collections.abc import Iterable

import numpy as np

from tests.core.making import edited, layer
from tests.core.motion.test_blends import NAMES, blended, noise
from tests.core.motion.test_morph import walker
from zittern.core.axes import AXES
from zittern.core.edits.parts import find_clip
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import Number, by_formula, fixed, keyed
from zittern.core.shot.clips import Clock
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.shot import Shot
from zittern.core.sources.drift import Drift
from zittern.core.sources.noise import Noise
from zittern.core.sources.source import SourceDoc
from zittern.core.sources.wave import Wave

# Whole and fractional frames, those next to keys, spans and ramps included.
FRAMES = np.unique(np.concatenate([np.arange(1.0, 121.0, 0.37), np.arange(1.0, 121.0), [59.999, 60.001, 39.9999]]))
# Part of the swing by which a plain clip may differ.
CLOSE = 1e-3
FLATTEN = {"type": "flatten_blend", "clip": "main"}


def largest_swing(shot: Shot, axis: str) -> float:
    """Of all layers, with their weights and the amount of the clip."""
    out = 1e-3
    for clip, each in shot.layers():
        scope = shot.scope(FRAMES)
        setting = each.axes.of(axis)
        if setting.on:
            weight = np.max(each.weight.sample(clip.clocked(scope, each)))
            out = max(out, float(np.max(setting.swing.sample(scope)) * weight * np.max(clip.amount.sample(scope))))
    return out


class Case(unittest.TestCase):
    def assert_equal_motion(self, plain: Shot, shot: Shot, note: str = "") -> None:
        found, expected = evaluate(plain, FRAMES).total, evaluate(shot, FRAMES).total
        for n, axis in enumerate(AXES):
            off = float(np.max(np.abs(found[:, n] - expected[:, n])))
            self.assertLessEqual(off, CLOSE * largest_swing(shot, axis), f"{note} {axis}")

    def assert_flattens(self, shot: Shot, note: str = "") -> Shot:
        flat = edited(shot, FLATTEN)
        self.assertIsNone(find_clip(flat, "main").blend)
        self.assert_equal_motion(flat, shot, note)
        return flat


def replacing(corner: str | None, swings: dict[str, float], **fields: object) -> Layer:
    return layer(f"over-{corner}", seed=9, swings=swings, corner=corner, mode="replace", **fields)


SWINGING = by_formula("50 + 50 * sin(tau * t)", fixed(50.0))


class Flattened(Case):
    def test_weights_above_one_keep_their_strength(self) -> None:
        way = keyed((1, 0.0), (60, 80.0), (110, 30.0))
        for weight in (fixed(3.0), fixed(10.0), keyed((1, 0.5), (120, 3.0)), by_formula("2 + sin(t)", fixed(1.0))):
            for method in ("mix", "morph"):
                both = noise("one", 1), noise("two", 2, 2.0).replace(weight=weight)
                self.assert_flattens(blended(*both, across=way, way=method), f"{method} {weight}")

    def test_replacing_layers_take_from_their_own_corner_only(self) -> None:
        way = keyed((1, 0.0), (60, 80.0), (110, 30.0))
        for over in (
            replacing("one", {"pan": 0.8}, weight=fixed(0.7)),
            replacing("one", {"pan": 0.8, "tilt": 0.4}, span_frames=(30.0, 90.0), ramp_in_frames=20.0),
            replacing(None, {"tilt": 0.5}, weight=keyed((1, 0.0), (100, 1.0))),
        ):
            for method in ("mix", "morph"):
                shot = blended(noise("one", 1), over, noise("two", 2, 2.0), across=way, way=method)
                self.assert_flattens(shot, f"{method} {over.corner}")

    def test_a_clock_and_a_place_may_begin_before_the_shot(self) -> None:
        both = walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2)
        shot = blended(*both, across=keyed((-400, 0.0), (-100, 90.0), (100, 20.0)), way="morph")
        (clip,) = shot.clips()
        early = clip.replace(clock=Clock(start_frame=-500.0))
        self.assert_flattens(shot.replace(lanes=(shot.lanes[0].replace(clips=(early,)),)))

    def test_muted_and_soloed_layers_stay_so(self) -> None:
        one, two = walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2)
        for layers in (
            (one.replace(mute=True), two),
            (one, two.replace(mute=True)),
            (one.replace(solo=True), two),
            (one.replace(solo=True), two.replace(solo=True), noise("two", 4)),
        ):
            for across in (40.0, keyed((1, 0.0), (100, 100.0))):
                self.assert_flattens(blended(*layers, across=across, way="morph"), str(layers))

    def test_a_muted_clip_sounds_as_before_when_it_is_heard_again(self) -> None:
        shot = blended(walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2), across=30.0, way="morph")
        (clip,) = shot.clips()
        muted = shot.replace(lanes=(shot.lanes[0].replace(clips=(clip.replace(mute=True),)),))
        flat = edited(muted, FLATTEN)
        self.assertTrue(find_clip(flat, "main").mute)
        unmuted = edited(flat, {"type": "set_values", "values": [{"at": "clip:main.mute", "value": False}]})
        self.assert_equal_motion(unmuted, shot)

    def test_a_place_that_swings_at_one_hertz(self) -> None:
        for method in ("mix", "morph"):
            both = walker("one", 1.7, 0.2, 1), walker("two", 2.8, 0.8, 2), noise("one", 3), noise("two", 4)
            self.assert_flattens(blended(*both, across=SWINGING, way=method), method)

    def test_ramps_and_slow_places_take_few_keys(self) -> None:
        ramped = noise("one", 1, span_frames=(20.0, 110.0), ramp_in_frames=40.0), noise("two", 2, 2.0)
        shot = blended(*ramped, across=keyed((1, 0.0), (60, 80.0), (110, 30.0)), way="morph")
        for _, each in self.assert_flattens(shot).layers():
            self.assertLess(len(each.weight.curve.keys), 40)
        still = blended(*ramped, across=30.0, way="morph")
        for _, each in self.assert_flattens(still).layers():
            self.assertLess(len(each.weight.curve.keys), 10)

    def test_random_blends(self) -> None:
        for seed in range(60):
            choice = random.Random(seed)
            shot = random_blend(choice)
            with self.subTest(seed):
                self.assert_flattens(shot)

    def test_random_blends_baked_at_a_frame(self) -> None:
        for seed in range(100, 120):
            choice = random.Random(seed)
            at = choice.uniform(0.0, 100.0)
            shot = random_blend(choice, place=(fixed(at), fixed(choice.uniform(0.0, 100.0))))
            with self.subTest(seed):
                self.assert_equal_motion(edited(shot, {"type": "bake_blend", "clip": "main", "frame": 50}), shot)


def random_number(choice: random.Random, low: float, high: float) -> Number:
    """A number between two values, in any state."""
    a, b = sorted((choice.uniform(low, high), choice.uniform(low, high)))
    kind = choice.randrange(4)
    if kind == 0:
        return keyed(
            (choice.uniform(-90, 30), a), (60, b), (choice.uniform(61, 140), low), interp=choice.choice(INTERPS)
        )
    if kind == 1:
        return by_formula(
            f"{a:.4f} + {0.5 * (b - a):.4f} * (1 + sin(tau * {choice.uniform(0.1, 1.0):.3f} * t))", fixed(a)
        )
    return fixed(b)


INTERPS = ("smooth", "linear", "hold")


def random_source(choice: random.Random) -> SourceDoc:
    rate = random_number(choice, 0.5, 2.0)
    return choice.choice((Noise(rate_hz=rate, octaves=2), Wave(rate_hz=rate), Drift(rate_hz=fixed(0.3))))


def random_layers(choice: random.Random, corners: Iterable[str]) -> list[Layer]:
    out = []
    for corner in corners:
        for n in range(choice.randint(1, 2)):
            names = choice.sample(AXES[:6], 2)
            board = AxisBoard(**{name: {"swing": random_number(choice, 0.0, 2.0)} for name in names})
            fields: dict[str, object] = {"corner": corner, "weight": random_number(choice, 0.0, 10.0)}
            if choice.random() < 0.25:
                fields["mode"] = "replace"
                fields["weight"] = random_number(choice, 0.0, 1.0)
            if choice.random() < 0.3:
                fields |= {"span_frames": (20.0, 100.0), "ramp_in_frames": 15.0, "ramp_shape": "equal-power"}
            fields["mute"], fields["solo"] = choice.random() < 0.1, choice.random() < 0.1
            made = layer(f"{corner}-{n}", random_source(choice), choice.randrange(9), {}, **fields)
            out.append(made.replace(axes=board))
    return out


def random_blend(choice: random.Random, place: tuple[Number, Number] | None = None) -> Shot:
    count = choice.randint(2, 4)
    across, up = place or (random_number(choice, 0.0, 100.0), random_number(choice, 0.0, 100.0))
    layers = random_layers(choice, NAMES[:count])
    shot = blended(*layers, across=across, up=up, count=count, way=choice.choice(("mix", "morph")), last_frame=120)
    (clip,) = shot.clips()
    if choice.random() < 0.5:
        clip = clip.replace(clock=Clock(start_frame=choice.uniform(-200.0, 50.0)))
    return shot.replace(lanes=(shot.lanes[0].replace(clips=(clip,)),))

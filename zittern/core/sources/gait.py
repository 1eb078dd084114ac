"""Gait: the person with the camera walks or runs.

Steps come where the integral of the step rate reaches whole numbers. The body rises and falls once a step and sways,
rolls and turns once in two (a stride); each step ends with a knock of the heel, a damped ringing. From the path, the
step rate follows the speed v along it as walkers do, f = f₀ (v / v₀)^p, and motion grows with the square of the step
length, v / f, since the body rolls over its legs as over the spoke of a wheel (rise ≈ length² / 8 leg).

Walking: f₀ = 1.9 Hz (114 a minute) at v₀ = 1.4 m/s, so a step of 0.74 m (Winter 1991, The Biomechanics and Motor
Control of Human Gait: natural cadence 105 to 118, 1.4 m/s); p = 0.58 (Grieve and Gear 1966, Ergonomics 9: step
frequency by speed in adults). Running: 2.75 Hz at 3 m/s, p = 0.16: runners lengthen their steps and hardly quicken them
(Cavanagh and Kram 1989, Med. Sci. Sports Exerc. 21). Valid from a stroll of 0.3 m/s to about 6 m/s.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from zittern.core.axes import Axis
from zittern.core.noise import streams
from zittern.core.numbers.envelope import shape_of
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Number, Param, by_formula, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources.ringing import HEARD_DECAYS, beats, first_peak, ringing
from zittern.core.sources.source import SETTLED_SPEED, Inputs, Start
from zittern.core.sources.stepping import StepEdit, Stepping
from zittern.core.units import Array, IntArray

__all__ = ["WAYS", "Gait", "Way"]


@dataclass(frozen=True, slots=True)
class Way:
    """rate_hz at speed_m_s, growing by a power of the speed."""

    rate_hz: float
    speed_m_s: float
    power: float

    @property
    def step_m(self) -> float:
        """Length of a step at that speed."""
        return self.speed_m_s / self.rate_hz


WAYS: dict[str, Way] = {"walk": Way(1.9, 1.4, 0.58), "run": Way(2.75, 3.0, 0.16)}
# Below the first speed there are no steps; above the second all of them.
_STANDS_M_S, _STEPS_M_S = 0.08, 0.3
_LEGS = {"short": 0.85, "usual": 1.0, "long": 1.15}
# Share of the heel strike in the vertical motion, its frequency and its decay.
_KNOCKS = {"hard": 0.45, "firm": 0.28, "soft": 0.08}
_KNOCK_HZ, _KNOCK_SETTLES_S = 11.0, 0.16
# Cycles per step, and the delay of an axis after the lowest point, in cycles: the nod follows the fall, the body
# leans over the standing leg. Other axes are at their lowest with the body.
_PER_STEP: dict[Axis, tuple[float, float]] = {
    "tilt": (1.0, 0.12), "dolly": (1.0, 0.25), "truck": (0.5, 0.0), "roll": (0.5, 0.04), "pan": (0.5, 0.2),
    "shift_x": (0.5, 0.0),
}  # fmt: skip
_WITH_THE_BODY = (1.0, 0.0)
_KNOCKED: dict[Axis, float] = {"pedestal": -1.0, "tilt": -1.0, "dolly": 0.6, "shift_y": -1.0}
# A limp takes this much from every other step, and hastens the one after it by this share of a step.
_LIMP_SIZE, _LIMP_TIME = 0.7, 0.16
_UNEVEN_SIZE, _UNEVEN_TIME = 0.5, 0.08
_MOST_SIZE = 2.5
_ROUNDING = 1e-9


class Gait(Stepping):
    """follows: the speed along the path (then there are no steps at rest), or a cadence.

    cadence_hz: steps per second. limp: left against right. steps: those that were moved or muted by hand, in increasing
    order.
    """

    rates: ClassVar[frozenset[str]] = frozenset({"cadence_hz"})

    kind: Literal["gait"] = "gait"
    way: Literal["walk", "run"] = "walk"
    follows: Literal["the path", "a cadence"] = "a cadence"
    cadence_hz: Annotated[Param, bounded(0.0, 6.0)] = fixed(1.9)
    legs: Literal["short", "usual", "long"] = "usual"
    surface: Literal["hard", "firm", "soft"] = "firm"
    limp: Annotated[Param, bounded(0.0, 1.0)] = fixed(0.0)
    uneven: Annotated[Param, bounded(0.0, 1.0)] = fixed(0.3)
    steps: Annotated[tuple[StepEdit, ...], Field(max_length=20_000)] = ()
    start: Start = 0.0

    @model_validator(mode="after")
    def _rising(self) -> Self:
        for before, after in zip(self.steps, self.steps[1:], strict=False):
            if after.number <= before.number:
                raise ValueError(
                    f"edited steps are in rising order, each once; got {before.number} before {after.number}"
                )
        return self

    @property
    def reads(self) -> frozenset[str]:
        """Return the speed along the path, if the gait follows it."""
        return frozenset({"speed", SETTLED_SPEED}) if self.follows == "the path" else frozenset()

    @property
    def step_rate(self) -> Number:
        """Steps a second, as a number that may follow the speed along the path."""
        if self.follows == "a cadence":
            return self.cadence_hz
        way = WAYS[self.way]
        text = (
            f"smoothstep({_STANDS_M_S}, {_STEPS_M_S}, speed) * {self._usual_hz} * pow(max(speed, {_STANDS_M_S}) / "
            f"{way.speed_m_s}, {way.power})"
        )
        return by_formula(text, fixed(0.0))

    @property
    def _usual_hz(self) -> float:
        """Steps a second at the usual speed of its way."""
        return WAYS[self.way].rate_hz / _LEGS[self.legs]

    @property
    def counted(self) -> Number:
        """Return the step rate."""
        return self.step_rate

    def peak_hz(self, scope: Scope) -> Array:
        """Return the step rate.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.step_rate.sample(scope)

    def beats_hz(self, scope: Scope) -> Array:
        """Return the step rate.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.peak_hz(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), about unit RMS and zero mean at the usual pace of its way, more for longer steps, nothing for who
        stands.
        """
        rate = self.step_rate
        phase = inputs.phase(rate) + self.start
        if np.array_equal(phase, np.broadcast_to(phase[:, :1], phase.shape)):
            phase = phase[:, :1]  # all axes walk in step
        size = self._size(inputs.scope)[:, None]
        seed = _one(inputs.shared_seed)
        limp = self.limp.sample(inputs.scope)[:, None]
        uneven = self.uneven.sample(inputs.scope)[:, None]
        warped = _warped(phase, self._early(limp, uneven, seed))
        knock = _KNOCKS[self.surface]
        cycles = np.array([_PER_STEP.get(axis, _WITH_THE_BODY) for axis in inputs.axes])
        turn = 2.0 * np.pi * (warped * cycles[:, 0] - cycles[:, 1])
        waves = np.sqrt(2.0) * np.where(cycles[:, 0] == 1.0, -np.cos(turn), np.sin(turn))
        body = size * _by_step(warped, limp, uneven, seed, self._kept) * waves
        shares = np.array([knock * _KNOCKED.get(axis, 0.0) for axis in inputs.axes])
        return np.asarray(body + self._heels(inputs, rate, shares, seed), dtype=np.float64)

    def _size(self, scope: Scope) -> Array:
        """Return the size of the motion relative to that at the usual pace. (F,)."""
        if self.follows == "a cadence":
            return np.where(self.cadence_hz.sample(scope) > 0.0, 1.0, 0.0)
        speed, way = scope.value(SETTLED_SPEED), WAYS[self.way]
        # By the law of the rate, not by the generated steps: during start and stop, fewer steps are not longer ones.
        rate = self._usual_hz * (np.maximum(speed, _STANDS_M_S) / way.speed_m_s) ** way.power
        length = speed / rate / way.step_m
        begun = shape_of("smooth", (speed - _STANDS_M_S) / (_STEPS_M_S - _STANDS_M_S))
        return np.minimum(length**2, _MOST_SIZE) * begun

    def times(self, inputs: Inputs) -> tuple[IntArray, Array]:
        """Numbers and frames of the steps among the frames asked for. (H,), (H,)."""
        numbers, frames = beats(
            inputs, self.step_rate, 1.0, 1.0, self._early_if_fixed(_one(inputs.shared_seed)), self.start, between=True
        )
        if not len(inputs.scope.frames):
            return numbers[:0], frames[:0]
        at = np.flatnonzero(
            (numbers > 0) & (frames >= inputs.scope.frames.min()) & (frames <= inputs.scope.frames.max())
        )
        moving = self._size(inputs.scope.over(frames[at])) > 0.0
        return numbers[at[moving]], frames[at[moving]]

    def later_at(self, inputs: Inputs, number: int, frame: float) -> float:
        """Return the shift of a step, as a share of a step, if it is placed at a frame."""
        untouched = self.replace(steps=())._early_if_fixed(_one(inputs.shared_seed))
        place = float(inputs.beat_at(self.step_rate, np.array([frame]))[0]) + self.start
        return place - number + float(untouched(np.array([float(number)]))[0])

    def _early_if_fixed(self, seed: streams.Seeds) -> Callable[[Array], Array]:
        """Return the lead of each step, as a share of a step, for constant limp and unevenness."""
        limp, uneven = (each.constant if each.constant is not None else 0.0 for each in (self.limp, self.uneven))
        return self._early(limp, uneven, seed)

    def _early(self, limp: Array | float, uneven: Array | float, seed: streams.Seeds) -> Callable[[Array], Array]:
        return lambda number: (
            _early(number, limp, uneven, seed) - self._edited(number, [step.later for step in self.steps], 0.0)
        )

    def _kept(self, number: Array) -> Array:
        """0 for steps that are left out, else 1."""
        return self._edited(number, [float(not step.mute) for step in self.steps], 1.0)

    def _edited(self, number: Array, values: list[float], otherwise: float) -> Array:
        if not self.steps:
            return np.full(np.shape(number), otherwise)
        numbers = np.array([step.number for step in self.steps])
        at = np.clip(np.searchsorted(numbers, number), 0, len(numbers) - 1)
        return np.where(numbers[at] == number, np.array(values)[at], otherwise)

    def _heels(self, inputs: Inputs, rate: Number, shares: Array, seed: streams.Seeds) -> Array:
        """Return the knock at each step. (F, A)."""
        if not np.any(shares):
            return np.zeros((len(inputs.scope.frames), len(shares)))
        fps = inputs.scope.fps.value
        tail = HEARD_DECAYS * _KNOCK_SETTLES_S / 3.0 * fps
        numbers, frames = beats(inputs, rate, tail + fps, fps, self._early_if_fixed(seed), self.start)
        numbers, frames = numbers[numbers > 0], frames[numbers > 0]  # the first is where it starts from
        at = inputs.scope.over(frames)
        limp, uneven = self.limp.sample(at)[:, None], self.uneven.sample(at)[:, None]
        decay = np.array([3.0 / _KNOCK_SETTLES_S])
        size = self._size(at)[:, None] * _by_step(
            numbers[:, None].astype(np.float64) + _ROUNDING, limp, uneven, seed, self._kept
        )
        sizes = np.sqrt(2.0) * size * shares / first_peak(np.array([_KNOCK_HZ]), decay)
        return ringing(inputs, fixed(_KNOCK_HZ), frames, sizes, np.repeat(decay, len(frames)))


def _one(seed: int) -> streams.Seeds:
    return np.array([seed], dtype=np.uint64)


def _warped(phase: Array, early: Callable[[Array], Array]) -> Array:
    """Step that come early or late: a limp hastens every other one, none is like another, some were moved.

    Still rising. (F, A) -> (F, A).
    """
    return phase + _blended_steps(phase, early)


def _early(number: Array, limp: Array | float, uneven: Array | float, seed: streams.Seeds) -> Array:
    """Return the lead of each step, as a share of a step."""
    return np.asarray(
        _LIMP_TIME * limp * np.mod(number, 2.0) + _UNEVEN_TIME * uneven * streams.numbered(number, seed, 41),
        dtype=np.float64,
    )


def _by_step(phase: Array, limp: Array, uneven: Array, seed: streams.Seeds, kept: Callable[[Array], Array]) -> Array:
    """Return the size of each step, with smooth transitions; 1 on average. (F, A) -> (F, A)."""

    def size(number: Array) -> Array:
        limped = _LIMP_SIZE * limp * (np.mod(number, 2.0) - 0.5)
        return np.asarray(
            (1.0 + limped + _UNEVEN_SIZE * uneven * streams.numbered(number, seed, 42)) * kept(number), dtype=np.float64
        )

    return _blended_steps(phase, size)


def _blended_steps(phase: Array, of: Callable[[Array], Array]) -> Array:
    """Return a value per step, with smooth transitions. (F, A) -> (F, A)."""
    index = np.floor(phase)
    fade = shape_of("smooth", phase - index)
    return np.asarray(of(index) + (of(index + 1.0) - of(index)) * fade, dtype=np.float64)

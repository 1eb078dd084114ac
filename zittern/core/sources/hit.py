"""Hit: something strikes, and the camera rings.

Each hit is the answer of a damped oscillator to a blow: x(s) = a exp(-σ s) sin(2π φ(s)) / p for s seconds since it
arrived, σ = 3 / settle (down to 5 %, since exp(-3) = 0.05), φ the integral of the ring frequency, p the height of the
first peak: exp(-σ s*) ω / √(ω² + σ²) at s* = atan(ω/σ) / ω (the impulse response of x'' + 2σ x' + (ω² + σ²) x = 0; Den
Hartog 1956, Mechanical Vibrations, §2.6). So the position never jumps, only its speed does, and the first peak on an
axis is its swing. Hits add up exactly; the remainder below 1e-9 of one is omitted.

Arrival = cue + distance / wave speed. Strength falls with distance as waves do: along the ground by the root of it, in
the air by itself, from NEAR_M on (Kramer 1996, Geotechnical Earthquake Engineering, §5.2: surface and body waves). A
cue with a place pushes the camera away from it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from zittern.core.axes import Axis
from zittern.core.noise import streams
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources.ringing import HEARD_DECAYS, beats, first_peak, ringing
from zittern.core.sources.source import CUE_NAMES, CUES, Inputs, SourceDoc, Start
from zittern.core.units import Array, IntArray

__all__ = ["NEAR_M", "Hit"]

# Settled: the remainder after the settle time is exp(-3), 5 %.
_SETTLED = 3.0
NEAR_M = 3.0
_MOST_SETTLE_S = 20.0
_FALLS = {"not at all": 0.0, "along the ground": 0.5, "in the air": 1.0}
# A ring that speed has slowed down to less than this is as slow as that: its peak would never come.
_LEAST_RING_HZ = 1e-3
# Axes that go back where all hits move the same way: a drop pulls the camera down, and it nods.
_DOWN: frozenset[Axis] = frozenset({"tilt", "pedestal", "dolly", "shift_y"})
# Random share of the direction of a hit, besides that away from its position.
_OWN_WAY = 0.3
# A beat comes early or late by no more than this, however slow the rhythm.
_MOST_EARLY_FRAMES = 2_000.0
# A beat varies in time by up to half a beat, and in strength by as much.
_HALF = 0.5
_SALTS = {"when": 31, "size": 32, "way": 33, "cue": 34}


class Hit(SourceDoc):
    """answers: names of the cues that it responds to.

    at_start: one where the clip's motion starts. rhythm_hz: regular beats from there on; 0 for none. uneven: variation
    between beats. same_way: all hits move the camera in the same direction, down and forward like a step or a thud,
    instead of random ones. way_spread: maximum relative reduction of a hit on an axis; with 0 its first peak is the
    swing. start: start phase of the rhythm.
    """

    kind: Literal["hit"] = "hit"
    ring_hz: Annotated[Param, bounded(0.1, 100.0)] = fixed(5.0)
    settle_s: Annotated[Param, bounded(0.02, _MOST_SETTLE_S)] = fixed(0.7)
    answers: Literal["all cues", "cues of its name", "no cues"] = "all cues"
    wave_m_s: Annotated[Param, bounded(1.0, 10_000.0)] = fixed(300.0)
    falls: Literal["not at all", "along the ground", "in the air"] = "along the ground"
    at_start: bool = True
    rhythm_hz: Annotated[Param, bounded(0.0, 10.0)] = fixed(0.0)
    uneven: Annotated[Param, bounded(0.0, 1.0)] = fixed(0.2)
    same_way: bool = False
    way_spread: Annotated[float, Field(ge=0.0, le=1.0)] = 0.0
    start: Start = 0.0

    @property
    def reads(self) -> frozenset[str]:
        """Return the cues, if the source responds to them."""
        if self.answers == "no cues":
            return frozenset()
        return frozenset({CUES, CUE_NAMES}) if self.reads_name else frozenset({CUES})

    @property
    def reads_name(self) -> bool:
        """Return whether it responds to cues with the name of its layer."""
        return self.answers == "cues of its name"

    @property
    def impulsive(self) -> bool:
        """Return True: hits are impulsive."""
        return True

    @property
    def starts_abruptly(self) -> bool:
        """Return whether it starts with the clip or responds to cues."""
        return self.at_start or self.answers != "no cues"

    def responding(self) -> Hit:
        """Return a hit at the start of its clip, without a rhythm, responds to the cues instead."""
        if not self.at_start or self.rhythm_hz.constant != 0.0:
            return self
        return self.replace(at_start=False, answers="all cues" if self.answers == "no cues" else self.answers)

    def peak_hz(self, scope: Scope) -> Array:
        """Return the ring frequency.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.ring_hz.sample(scope)

    def beats_hz(self, scope: Scope) -> Array:
        """Its rhythm.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.rhythm_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A): a first peak of 2 on each axis for a hit of strength 1, so that the swing is its maximum; not of unit
        RMS: hits are single events.
        """
        hits = _joined_hits(self._of_cues(inputs), self._own(inputs))
        if not len(hits.frames):
            return np.zeros((len(inputs.scope.frames), len(inputs.axes)))
        at = inputs.scope.over(hits.frames)
        sigma = _SETTLED / self.settle_s.sample(at)
        ring_hz = self.ring_hz.sample(at)[:, None] * inputs.pace_at(hits.frames)
        sizes = 2.0 * hits.sizes / first_peak(np.maximum(ring_hz, _LEAST_RING_HZ), sigma[:, None])
        return ringing(inputs, self.ring_hz, hits.frames, sizes, sigma)

    def _of_cues(self, inputs: Inputs) -> _Hits:
        cues = inputs.moments
        chosen = np.full(len(cues.frames), self.answers == "all cues")
        if self.answers == "cues of its name":
            chosen = np.array([name == inputs.name for name in cues.names], dtype=bool)
        frames = cues.frames[chosen]
        scope = inputs.scope.over(frames)
        distance = np.linalg.norm(cues.away_m[chosen], axis=1)
        arrival = frames + distance / self.wave_m_s.sample(scope) * inputs.scope.fps.value
        strength = cues.strengths[chosen] * (NEAR_M / np.maximum(distance, NEAR_M)) ** _FALLS[self.falls]
        return _Hits(
            arrival, strength[:, None] * self._ways(inputs, cues.numbers[chosen], cues.away_m[chosen], _SALTS["cue"])
        )

    def _own(self, inputs: Inputs) -> _Hits:
        """Return the hits of the clip itself: at its start, and in its rhythm within reach of the frames."""
        numbers, frames = (
            self._beats(inputs) if self.rhythm_hz.constant != 0.0 else (np.empty(0, dtype=np.int64), np.empty(0))
        )
        if self.at_start and 0 not in numbers:
            numbers, frames = np.append(numbers, 0), np.append(frames, inputs.start_frame)
        seed = np.array([inputs.shared_seed], dtype=np.uint64)
        early, size = (streams.at(streams.spawn(seed, _SALTS[salt]), numbers)[0] * _HALF for salt in ("when", "size"))
        at = inputs.scope.over(frames)
        uneven = self.uneven.sample(at) * (numbers > 0)
        rhythm = self.rhythm_hz.sample(at)
        between = np.where(rhythm > 0.0, inputs.scope.fps.value / np.where(rhythm > 0.0, rhythm, 1.0), 0.0)
        frames = frames + uneven * early * np.minimum(between, _MOST_EARLY_FRAMES)
        return _Hits(
            frames,
            (1.0 + uneven * size)[:, None] * self._ways(inputs, numbers, np.zeros((len(numbers), 3)), _SALTS["way"]),
        )

    def _beats(self, inputs: Inputs) -> tuple[IntArray, Array]:
        """Return the beats within reach of the frames."""
        settle = self.settle_s.constant
        tail = HEARD_DECAYS * (_MOST_SETTLE_S if settle is None else settle) / _SETTLED * inputs.scope.fps.value
        return beats(inputs, self.rhythm_hz, tail + _MOST_EARLY_FRAMES, _MOST_EARLY_FRAMES, start=self.start)

    def _ways(self, inputs: Inputs, numbers: IntArray, away_m: Array, salt: int) -> Array:
        """Return the direction of each hit on each axis, -1 to 1: away from its position, and partly random.

        Fully random without a position. (H, A).
        """
        own = _own_ways(inputs, numbers, salt, self.way_spread)
        if self.same_way:
            own = np.abs(own) * np.array([-1.0 if axis in _DOWN else 1.0 for axis in inputs.axes])
        distance = np.linalg.norm(away_m, axis=1, keepdims=True)
        right, up, forward = (away_m / np.where(distance > 0.0, distance, 1.0)).T
        pushed: dict[Axis, Array] = {
            "truck": right, "pedestal": up, "dolly": forward, "pan": -right, "tilt": forward, "roll": -right,
            "shift_x": -right, "shift_y": -up,
        }  # fmt: skip
        along = np.stack([pushed.get(axis, 0.0 * right) for axis in inputs.axes], axis=1)
        return np.where(distance > 0.0, (1.0 - _OWN_WAY) * along + _OWN_WAY * own, own)


@dataclass(frozen=True, slots=True)
class _Hits:
    """frames (H,) of arrival; sizes (H, A) of the first peak."""

    frames: Array
    sizes: Array


def _joined_hits(a: _Hits, b: _Hits) -> _Hits:
    return _Hits(np.concatenate([a.frames, b.frames]), np.concatenate([a.sizes, b.sizes]))


def _own_ways(inputs: Inputs, numbers: IntArray, salt: int, spread: float) -> Array:
    """Return the random direction of each hit on each axis: 1 - spread to 1, or negative. (H, A)."""
    seeds = np.array([streams.mix(int(seed), salt) for seed in inputs.seeds], dtype=np.uint64)
    own = streams.at(seeds, numbers).T
    return np.asarray(np.sign(own) * (1.0 - spread + spread * np.abs(own)), dtype=np.float64)

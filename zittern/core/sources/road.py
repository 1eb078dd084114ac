"""Road: wheels roll over an uneven road, and the body on its springs answers.

The height of the road is a sum of sines scattered evenly in log wavenumber, of the spectrum of ISO 8608:2016: G(n) =
G(n₀) (n/n₀)^-2 with n₀ = 0.1 cycles a metre and G(n₀) = 16, 64, 256 … · 10^-6 m³ in the middle of classes A, B, C … to
H. Each sine goes through a quarter car, two masses on springs,

    H(s) = k_t (c s + k) / ((m s² + c s + k) (m_u s² + c s + k + k_t) - (c s + k)²)

(Gillespie 1992, Fundamentals of Vehicle Dynamics, ch. 5), at the frequency with which it is met, wavenumber times
speed. That is exact at a steady speed; where the speed changes the answer follows it without ringing on, so that any
frame is computed separately. The rear axle meets what the front one met a wheelbase before; left and right wheels
differ more, the shorter the wave. Hills that are met more slowly than `high_pass_hz` are removed: they would use up the
swing. Heave is the mean of both axles, pitch their difference over the wheelbase, roll that of the sides over the
track.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
import numpy.typing as npt
from pydantic import Field

from zittern.core.axes import Axis
from zittern.core.noise import streams
from zittern.core.numbers.envelope import shape_of
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Number, Param, by_formula, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.runtime import budget
from zittern.core.sources.source import SETTLED_SPEED, Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["CLASSES", "SUSPENSIONS", "WAVENUMBERS", "Road", "Suspension", "amplitudes_m"]

Complex = npt.NDArray[np.complex128]


@dataclass(frozen=True, slots=True)
class Suspension:
    """Body on springs and wheel on its tyre.

    Natural frequencies, damping ratio of the body, and the wheel's mass against the body's.
    """

    body_hz: float
    damping: float
    wheel_hz: float
    mass_ratio: float

    def response(self, f_hz: Array) -> Complex:
        """Motion of the body against that of the road.

        Parameters
        ----------
        f_hz: (..., F).

        Returns
        -------
        (..., F), complex.
        """
        s = 2j * np.pi * f_hz
        k = (2.0 * np.pi * self.body_hz) ** 2
        c = 2.0 * self.damping * 2.0 * np.pi * self.body_hz
        tyre = self.mass_ratio * (2.0 * np.pi * self.wheel_hz) ** 2 - k
        spring = c * s + k
        return np.asarray(
            tyre * spring / ((s * s + spring) * (self.mass_ratio * s * s + spring + tyre) - spring * spring),
            dtype=np.complex128,
        )


# Usual figures of cars (Gillespie 1992: body 1 to 1.5 Hz, wheel hop 10 to 12 Hz, damping 0.2 to 0.4); a sled or cart
# has hardly any give.
SUSPENSIONS: dict[str, Suspension] = {
    "soft": Suspension(1.1, 0.25, 10.0, 0.12),
    "firm": Suspension(1.6, 0.35, 11.0, 0.14),
    "hardly any": Suspension(4.5, 0.12, 16.0, 0.2),
}
# G(n0) in 1e-6 m3 at the middle of each class.
CLASSES: dict[str, float] = {name: 16.0 * 4.0**n for n, name in enumerate("ABCDEFGH")}
_N0, _SINES = 0.1, 120
# Wavenumbers of the standard's own range, cycles a metre.
WAVENUMBERS = (0.011, 2.83)
_EDGES = np.exp(np.linspace(np.log(WAVENUMBERS[0]), np.log(WAVENUMBERS[1]), _SINES + 1))
_WIDTHS = np.diff(_EDGES)
# Swings are calibrated for this class: others are larger or smaller. By the path, and where no speed is set, they are
# for this speed.
_REFERENCE_CLASS, _REFERENCE_M_S = "C", 12.0
_USUAL_BASE_M = 2.7
_TRACK_M = 1.5
_RIPPLES_M = {"none": 0.0, "short": 0.55, "long": 0.9}
# Ripples of washboard are a centimetre or two high where cars go (Mather 1963; Both, Hong and Kurtze 2001).
_RIPPLE_M = 0.012
_STANDS_M_S, _ROLLS_M_S = 0.02, 0.5
# Part of the body's motion on an axis; heave on others.
_PARTS: dict[Axis, str] = {
    "tilt": "pitch", "dolly": "pitch", "roll": "roll", "truck": "roll", "pan": "roll", "shift_x": "roll",
}  # fmt: skip
_SALTS = {"where": 51, "mean": 52, "sides": 53}
_CHUNK_FRAMES = 2048
# Maximum difference of equal steps along the path, meters; minimum number of steps for block evaluation.
_EVEN_M, _LEAST_STEPS, _BLOCK_STEPS = 1e-10, 256, 48


class Road(SourceDoc):
    """follows: the speed along the path, or one that is set.

    roughness: a class of ISO 8608, A (new tarmac) to H (hardly a track).
    """

    kind: Literal["road"] = "road"
    roughness: Literal["A", "B", "C", "D", "E", "F", "G", "H"] = "C"
    follows: Literal["the path", "a set speed"] = "a set speed"
    speed_m_s: Annotated[Param, bounded(0.0, 100.0)] = fixed(12.0)
    springs: Literal["soft", "firm", "hardly any"] = "soft"
    wheelbase_m: Annotated[Param, bounded(0.3, 12.0)] = fixed(2.7)
    ripples: Literal["none", "short", "long"] = "none"
    high_pass_hz: Annotated[float, Field(ge=0.0, le=5.0)] = 0.3

    @property
    def reads(self) -> frozenset[str]:
        """Return the speed along the path, if the road follows it."""
        return frozenset({"speed", SETTLED_SPEED}) if self.follows == "the path" else frozenset()

    @property
    def speed(self) -> Number:
        """Metres a second."""
        return self.speed_m_s if self.follows == "a set speed" else by_formula("speed", fixed(0.0))

    def reference(self, part: str) -> float:
        """RMS of heave (m), pitch or roll (radians) that counts as 1."""
        set_speeds = self.speed_m_s.set_values() if self.follows == "a set speed" else ()
        speed = max(set_speeds, default=0.0)
        met_m_s = speed if speed > _STANDS_M_S else _REFERENCE_M_S
        return _reference(part, self.springs, self.ripples, met_m_s, self.high_pass_hz)

    @property
    def counted(self) -> Number:
        """Return the speed."""
        return self.speed

    def peak_hz(self, scope: Scope) -> Array:
        """Return the body on its springs, while it rolls; ripples where they are met.

        Returns
        -------
        (F,) float64, Hz.
        """
        speed = self.speed.sample(scope)
        wave = _RIPPLES_M[self.ripples]
        peak = speed / wave if wave else np.full(speed.shape, SUSPENSIONS[self.springs].body_hz)
        return np.where(speed > _STANDS_M_S, peak, 0.0)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS on a class C road at the set speed (the largest where it is keyed; 12 m/s by the path), on the
        same springs; twice as large from class to class.
        """
        by_path = self.follows == "the path"
        speed = inputs.scope.value(SETTLED_SPEED) if by_path else self.speed.sample(inputs.scope)
        rolls = shape_of("smooth", (speed - _STANDS_M_S) / (_ROLLS_M_S - _STANDS_M_S))
        base = self.wheelbase_m.sample(inputs.scope)
        way = inputs.phase(self.speed)
        size = np.sqrt(CLASSES[self.roughness] / CLASSES[_REFERENCE_CLASS])
        seed = np.array([inputs.shared_seed], dtype=np.uint64)
        parts = [_PARTS.get(axis, "heave") for axis in inputs.axes]
        out = np.empty(way.shape)
        for start in range(0, len(speed), _CHUNK_FRAMES):
            budget.check()
            rows = slice(start, start + _CHUNK_FRAMES)
            made = _Stretch(self, way[rows], _one_row(speed[rows]), _one_row(base[rows]), size, seed)
            for column, part in enumerate(parts):
                # Axes that share a part of the body's motion, at the same pace, share its arrays.
                twin = next(
                    (n for n in range(column) if parts[n] == part and np.array_equal(way[rows, n], way[rows, column])),
                    None,
                )
                out[rows, column] = made.part(part, column) if twin is None else out[rows, twin]
        return out * rolls[:, None]


@dataclass
class _Stretch:
    """Some frames of a road. way_m (F, A).

    Speed and base_m (F,) or (1,) where they do not change: most work is then done once.
    """

    road: Road
    way_m: Array
    speed: Array
    base_m: Array
    size: float
    seed: streams.Seeds
    turns: dict[tuple[str, bytes], tuple[Array, Array]] = field(default_factory=dict)
    even_turns: dict[tuple[str, bytes], tuple[Complex, Complex]] = field(default_factory=dict)

    def part(self, part: str, column: int) -> Array:
        """Heave, pitch or roll along the way. (F,)."""
        sides = "sides" if part == "roll" else "mean"
        n, starts = _sines(self.seed, sides)
        amplitude = amplitudes_m(_REFERENCE_CLASS, n) * self.size
        if wave := _RIPPLES_M[self.road.ripples]:
            n, starts = np.append(n, 1.0 / wave), np.append(starts, 0.0)
            amplitude = np.append(amplitude, _RIPPLE_M / 2.0)
        way = self.way_m[:, column]
        met_hz = n * self.speed[:, None]
        moved = (
            SUSPENSIONS[self.road.springs].response(met_hz)
            * _without_hills(met_hz, self.road.high_pass_hz)
            * _wheels(part, n, self.base_m[:, None])
            * amplitude
        )
        return np.asarray(
            self._sum_of_waves(sides, way, n, starts, moved) / self.road.reference(part), dtype=np.float64
        )

    def _sum_of_waves(self, sides: str, way: Array, n: Array, starts: Array, moved: Complex) -> Array:
        """Sum of the sines as the body answers to them. moved: (F, N), or (1, N) where that does not change. (F,)."""
        if len(moved) == 1 and (step := _even_step(way)) is not None:
            return self._at_even_steps(sides, way, step, n, starts, moved[0])
        if len(moved) == 1 and sides == "sides":  # not shared with another wave, so one sine is enough
            return np.asarray(np.sin(_angle(way, n, starts + np.angle(moved[0]) / (2.0 * np.pi))) @ np.abs(moved[0]))
        cosine, sine = self._turn(sides, way, n, starts)
        if len(moved) == 1:
            return np.asarray(cosine @ moved[0].imag + sine @ moved[0].real)
        return np.asarray(np.einsum("fn,fn->f", cosine, moved.imag) + np.einsum("fn,fn->f", sine, moved.real))

    def _at_even_steps(self, sides: str, way: Array, step: float, n: Array, starts: Array, moved: Complex) -> Array:
        """Return the motion where all distances are equal, ten times faster.

        The rotation of step j of block b is that of the block times that of the step, e^i(x + y) = e^ix e^iy, so that
        few of them are computed. moved: (N,) meters.
        """
        key = (sides, way.tobytes())
        if key not in self.even_turns:
            blocks = way[0] + step * np.arange(0.0, len(way), _BLOCK_STEPS)
            inside = step * np.arange(float(_BLOCK_STEPS))
            self.even_turns[key] = (
                _unit_turns(_angle(blocks, n, starts)),
                _unit_turns(_angle(inside, n, np.zeros(len(n)))).T,
            )
        at_block, at_step = self.even_turns[key]
        here = at_block * moved
        both = here.real @ at_step.imag + here.imag @ at_step.real
        return np.asarray(both.ravel()[: len(way)], dtype=np.float64)

    def _turn(self, sides: str, way: Array, n: Array, starts: Array) -> tuple[Array, Array]:
        """Return the phase of each sine under the wheels, as cosine and sine; heave and pitch use the same ones.

        (F, N) each.
        """
        key = (sides, way.tobytes())
        if key not in self.turns:
            angle = _angle(way, n, starts)
            self.turns[key] = np.cos(angle), np.sin(angle, out=angle)
        return self.turns[key]


def _even_step(way: Array) -> float | None:
    """Return the distance between adjacent frames, where it is constant and there are many.

    way: (F,) meters along the path.
    """
    if len(way) < _LEAST_STEPS:
        return None
    step = float(way[-1] - way[0]) / (len(way) - 1)
    return step if np.max(np.abs(way[0] + step * np.arange(len(way)) - way)) <= _EVEN_M else None


def _angle(way: Array, n: Array, starts: Array) -> Array:
    """Radians of each sine along a way. (F, N)."""
    angle = np.multiply.outer(way, n)
    angle += starts
    angle *= 2.0 * np.pi
    return angle


def _unit_turns(angle: Array) -> Complex:
    """e^(i angle); twice as fast as asking for it in complex numbers. (F, N)."""
    out = np.empty(angle.shape, dtype=np.complex128)
    out.real, out.imag = np.cos(angle), np.sin(angle)
    return out


def _one_row(values: Array) -> Array:
    return values[:1] if np.all(values == values[0]) else values


def amplitudes_m(roughness: str, n: Array) -> Array:
    """Height of each of the road's sines, one a band of wavenumbers: √(2 G(n) Δn).

    Parameters
    ----------
    n: (N,) wavenumbers, 1/m.

    Returns
    -------
    (N,) metres.
    """
    return np.asarray(np.sqrt(2.0 * CLASSES[roughness] * 1e-6 * (n / _N0) ** -2.0 * _WIDTHS), dtype=np.float64)


def _sines(seed: streams.Seeds, what: str) -> tuple[Array, Array]:
    """Return wavenumbers, one at a random position in each band, and start phases in cycles. (N,), (N,)."""
    places = np.arange(_SINES, dtype=np.int64)
    where = streams.at(streams.spawn(seed, _SALTS["where"]), places)[0] * 0.5 + 0.5
    starts = streams.at(streams.spawn(seed, _SALTS[what]), places)[0]
    return _EDGES[:-1] * (_EDGES[1:] / _EDGES[:-1]) ** where, starts


def _wheels(part: str, n: Array, base_m: Array) -> Complex:
    """Return the motion of the body by a wave of the road: both axles together, opposite, or left against right.

    (F, N) float64, meters, one column per wave.
    """
    if part == "roll":
        # Waves much longer than the track lift both sides alike.
        return np.asarray(np.sqrt(1.0 - np.exp(-np.pi * n * _TRACK_M)) / _TRACK_M + 0j * base_m, dtype=np.complex128)
    rear = np.exp(-2j * np.pi * n * base_m)
    return np.asarray((1.0 + rear) / 2.0 if part == "heave" else (1.0 - rear) / base_m, dtype=np.complex128)


def _without_hills(f_hz: Array, high_pass_hz: float) -> Array:
    """Gain of a high-pass without delay, of the magnitude of a Butterworth filter of second order.

    Hills that take seconds are part of the path, not of the shake. (F, N).
    """
    if high_pass_hz == 0.0:
        return np.ones_like(f_hz)
    squared = (f_hz / high_pass_hz) ** 2
    return np.asarray(squared / np.sqrt(1.0 + squared * squared))


@lru_cache(maxsize=256)
def _reference(part: str, springs: str, ripples: str, speed_m_s: float, high_pass_hz: float) -> float:
    """RMS of a part of the motion at the reference class on a usual wheelbase: half the sum of squares of its sines."""
    n = np.sqrt(_EDGES[:-1] * _EDGES[1:])
    amplitude = amplitudes_m(_REFERENCE_CLASS, n)
    if wave := _RIPPLES_M[ripples]:
        n, amplitude = np.append(n, 1.0 / wave), np.append(amplitude, _RIPPLE_M / 2.0)
    body = SUSPENSIONS[springs].response(n * speed_m_s) * _without_hills(n * speed_m_s, high_pass_hz)
    moved = amplitude * body * _wheels(part, n, np.array([[_USUAL_BASE_M]]))[0]
    return float(np.sqrt(np.sum(np.abs(moved) ** 2) / 2.0))

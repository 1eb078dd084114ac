"""Breath: in, out, a pause; uneven, and never twice the same.

One breath is a raised cosine up over the inhale and another down over the exhale, then rest. Depth differs from breath
to breath, and the clock itself wanders. All axes breathe together, each with its own small lag: the chest lifts the
camera before it tilts it. Exertion makes inhale and exhale alike, closes the pause and evens out the depth.
"""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

import numpy as np

from zittern.core.axes import Axis
from zittern.core.noise import streams
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.sources.source import Inputs, SourceDoc, Start
from zittern.core.units import Array

__all__ = ["Breath"]

# Share of the cycle at which inhale and exhale end, at rest and at full exertion (a resting inhale takes about 40 %).
_INHALE_END = (0.38, 0.47)
_EXHALE_END = (0.86, 1.0)
# Depth varies by this share of itself (half width), at rest and at full exertion.
_DEPTH_SPREAD = (0.3, 0.1)
# The clock wanders by this share of a breath, over several breaths.
_WANDER = 0.1
# Delay of an axis behind the chest, in cycles; 0 for others.
_LAGS: dict[Axis, float] = {"tilt": 0.05, "dolly": 0.03, "roll": 0.09, "pan": 0.12, "truck": 0.12, "shift_x": 0.12}


class Breath(SourceDoc):
    """Breathing of the person with the camera."""

    runs_back: ClassVar[bool] = True

    rates: ClassVar[frozenset[str]] = frozenset({"rate_hz"})

    kind: Literal["breath"] = "breath"
    rate_hz: Annotated[Param, bounded(0.0, 3.0)] = fixed(14.0 / 60.0)
    exertion: Annotated[Param, bounded(0.0, 1.0)] = fixed(0.2)
    loop: bool = False
    start: Start = 0.0

    def peak_hz(self, scope: Scope) -> Array:
        """Breaths a second.

        Returns
        -------
        (F,) float64, Hz.
        """
        return self.rate_hz.sample(scope)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), zero mean and unit RMS over many breaths.
        """
        lags = np.array([_LAGS.get(axis, 0.0) for axis in inputs.axes])
        clock = inputs.phase(self.rate_hz)
        breaths: Array | None = None
        if self.loop:
            totals = inputs.total_phase(self.rate_hz)
            breaths = np.maximum(1.0, np.round(totals))
            clock = clock * np.where(totals > 0, breaths / np.where(totals > 0, totals, 1.0), 0.0)
        seed = np.array([inputs.shared_seed], dtype=np.uint64)
        effort = self.exertion.sample(inputs.scope)[:, None]
        return _breathing(_wandering(clock + self.start - lags, seed, breaths), effort, seed, breaths)


def _wandering(clock: Array, seed: streams.Seeds, breaths: Array | None) -> Array:
    """Return the clock with uneven breaths: each starts a little early or late, smoothly between.

    (F, A) -> (F, A), still rising.
    """
    index = np.floor(clock)
    u = clock - index
    fade = u * u * (3.0 - 2.0 * u)
    early = _numbered(index, seed, 1, breaths)
    late = _numbered(index + 1.0, seed, 1, breaths)
    return np.asarray(clock + _WANDER * (early + (late - early) * fade), dtype=np.float64)


def _breathing(clock: Array, effort: Array, seed: streams.Seeds, breaths: Array | None) -> Array:
    index = np.floor(clock)
    u = clock - index
    inhale, exhale, spread = (low + (high - low) * effort for low, high in (_INHALE_END, _EXHALE_END, _DEPTH_SPREAD))
    up = 0.5 - 0.5 * np.cos(np.pi * np.clip(u / inhale, 0.0, 1.0))
    down = 0.5 + 0.5 * np.cos(np.pi * np.clip((u - inhale) / (exhale - inhale), 0.0, 1.0))
    depth = 1.0 + spread * _numbered(index, seed, 2, breaths)
    # Over a cycle the shape has mean exhale/2 and mean square 3/8 exhale; depth has mean 1 and variance spread^2 / 3.
    mean = 0.5 * exhale
    rms = np.sqrt(0.375 * exhale * (1.0 + spread**2 / 3.0) - mean**2)
    return np.asarray((depth * np.where(u < inhale, up, down) - mean) / rms, dtype=np.float64)


def _numbered(index: Array, seed: streams.Seeds, salt: int, breaths: Array | None) -> Array:
    """Return a random number in -1..1 for each breath; breaths repeat when there is a whole number of them.

    (F, A) -> (F, A).
    """
    turn = index if breaths is None else np.mod(index, breaths)
    return streams.numbered(turn, seed, salt)

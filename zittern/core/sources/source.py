"""What a source of motion is given, and what it must return.

A source is a frozen document with a `kind` and a function `motion(inputs) -> (F, A)`. It returns motion of unit RMS and zero
mean for the axes asked for; swing, weight and ramps are applied outside.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar

import numpy as np

from zittern.core.axes import Axis
from zittern.core.doc import Doc
from zittern.core.params import Fixed, Keyed
from zittern.core.sources.streams import Seeds
from zittern.core.units import Array

__all__ = ["Inputs", "SourceDoc"]


@dataclass(frozen=True, slots=True)
class Inputs:
    """Everything a source may depend on.

    frames: (F,) shot frames. axes: the A axes asked for. seeds: (A,) one stream an axis; shared_seed is the layer's, for
    what all axes have in common. phase(rate): integral of
    rate x pace x speed from the clip's start, (F, A) cycles. total_phase(rate): the same over the whole clip, one
    frame past its last, (A,) cycles.
    """

    frames: Array
    axes: tuple[Axis, ...]
    seeds: Seeds
    shared_seed: int
    phase: Callable[[Fixed | Keyed], Array]
    total_phase: Callable[[Fixed | Keyed], Array]


class SourceDoc(Doc):
    """Base of all sources. An absolute one returns the axes' own units instead of unit RMS, and swings do not scale it."""

    absolute: ClassVar[bool] = False

    def axes(self) -> tuple[Axis, ...]:
        """Of an absolute source: the axes it moves at all."""
        return ()

    def motion(self, inputs: Inputs) -> Array:
        """(F, A), unit RMS, zero mean."""
        raise NotImplementedError

    def peak_hz(self, frames: Array) -> Array:
        """Where the spectrum peaks at pace 1 and speed 1. (F,) -> (F,) Hz."""
        return np.zeros(frames.shape)

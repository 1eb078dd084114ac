"""What a source of motion is given, and what it must return.

A source is a frozen document with a `kind` and a function `motion(inputs) -> (F, A)`. It returns motion of unit RMS and zero
mean for the axes asked for; swing, weight and ramps are applied outside.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, ClassVar

import numpy as np

from zittern.core.axes import Axis
from zittern.core.doc import Doc
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.streams import Seeds
from zittern.core.units import Array

__all__ = ["Inputs", "SourceDoc"]


@dataclass(frozen=True, slots=True)
class Inputs:
    """Everything a source may depend on.

    scope: the frames (F,), and the facts of the path by name. axes: the A axes asked for. seeds: (A,) one stream an axis; shared_seed is the layer's, for
    what all axes have in common. phase(rate): integral of
    rate x pace x speed from the clip's start, (F, A) cycles. total_phase(rate): the same over the whole clip, one
    frame past its last, (A,) cycles.
    """

    scope: Scope
    axes: tuple[Axis, ...]
    seeds: Seeds
    shared_seed: int
    phase: Callable[[Number], Array]
    total_phase: Callable[[Number], Array]


class SourceDoc(Doc):
    """Base of all sources. An absolute one returns the axes' own units instead of unit RMS, and swings do not scale it."""

    if TYPE_CHECKING:

        @property
        def kind(self) -> str:
            """Its name in documents: a field of each source."""

    absolute: ClassVar[bool] = False
    # Facts of the path that it asks the scope for.
    reads: ClassVar[frozenset[str]] = frozenset()

    def axes(self) -> tuple[Axis, ...]:
        """Of an absolute source: the axes it moves at all."""
        return ()

    def motion(self, inputs: Inputs) -> Array:
        """(F, A), unit RMS, zero mean."""
        raise NotImplementedError

    def peak_hz(self, scope: Scope) -> Array:
        """Where the spectrum peaks at pace 1 and speed 1. (F,) Hz."""
        return np.zeros(scope.frames.shape)

"""Inputs of a source of motion, and its result.

A source is a frozen document with a `kind` and a function `motion(inputs) -> (F, A)`. It returns motion of unit RMS and
zero mean for the axes asked for; swing, weight and ramps are applied outside.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Annotated, ClassVar

import numpy as np
from pydantic import Field

from zittern.core.axes import Axis
from zittern.core.documents.doc import Doc
from zittern.core.noise.streams import Seeds
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array, IntArray

__all__ = ["CUES", "CUE_NAMES", "NO_MOMENTS", "SETTLED_SPEED", "Inputs", "Moments", "SourceDoc", "Start"]


@dataclass(frozen=True, slots=True)
class Moments:
    """The shot's cues for sources. frames (C,), any order; names; strengths (C,).

    Numbers (C,) a fixed random number for each; away_m (C, 3): vector from its position to the bare lens at that frame,
    in the camera's own frame (right, up, forward), 0 without a position.
    """

    frames: Array
    names: tuple[str, ...]
    strengths: Array
    numbers: IntArray
    away_m: Array


NO_MOMENTS = Moments(np.empty(0), (), np.empty(0), np.empty(0, dtype=np.int64), np.empty((0, 3)))


@dataclass(frozen=True, slots=True)
class Inputs:
    """Everything a source may depend on.

    scope: the frames (F,), and the path attributes by name. axes: the A axes requested. seeds: (A,) one stream per
    axis; shared_seed is the layer's, for properties that all axes share. phase(rate): integral of rate x pace x speed
    from the clip's start, (F, A) cycles, read-only: axes of one pace may share one column. total_phase(rate): the same
    over the whole clip, one frame past its last, (A,) cycles.
    """

    scope: Scope
    axes: tuple[Axis, ...]
    seeds: Seeds
    shared_seed: int
    phase: Callable[[Number], Array]
    total_phase: Callable[[Number], Array]
    phase_at: Callable[[Number, Array], Array]
    beat_at: Callable[[Number, Array], Array]
    pace_at: Callable[[Array], Array]
    start_frame: float
    name: str
    moments: Moments


# Names that sources read and no formula can spell. The shot's cues, and what they are called.
CUES = "·cues"
CUE_NAMES = "·cue names"
# The speed along the path, with its jumps replaced by fades.
SETTLED_SPEED = "·settled speed"


# Start phase of a periodic source, on all of its axes.
Start = Annotated[float, Field(ge=0.0, le=1.0)]


class SourceDoc(Doc):
    """Base of all sources.

    An absolute one returns the axes' own units instead of unit RMS, and swings do not scale it.
    """

    if TYPE_CHECKING:

        @property
        def kind(self) -> str:
            """Its name in documents: a field of each source."""

    absolute: ClassVar[bool] = False
    # Its rates, of a source that may be blended with another of its kind by their numbers.
    rates: ClassVar[frozenset[str]] = frozenset()
    # Whether it is a function of its phases alone, so that it can run backwards.
    runs_back: ClassVar[bool] = False

    @property
    def reads(self) -> frozenset[str]:
        """Return the names of the path attributes that it reads from the scope.

        Or CUES: it then moves at moments, and is not of unit RMS.
        """
        return frozenset()

    @property
    def counted(self) -> Number | None:
        """The rate that its motion integrates; None for a source without one."""
        rate: Number | None = getattr(self, "rate_hz", None)
        return rate

    def edge_hz(self, scope: Scope) -> Array | None:
        """Return the frequency above which its motion has next to nothing; None where that is unknown.

        Returns
        -------
        (F,) float64, Hz.
        """
        return None

    @property
    def reads_name(self) -> bool:
        """Return whether it depends on the name of its layer."""
        return False

    @property
    def may_jump(self) -> bool:
        """Return whether its motion may jump where none of its numbers does."""
        return False

    @property
    def impulsive(self) -> bool:
        """Return whether it is impulsive: it starts abruptly, and needs no soft ends."""
        return False

    @property
    def starts_abruptly(self) -> bool:
        """Return whether it starts abruptly, at moments that include the start of its clip."""
        return False

    def responding(self) -> SourceDoc:
        """Return the source for a place with cues."""
        return self

    def started(self, cycles: float) -> SourceDoc:
        """Return the source with a start phase (0 to 1), where it is periodic."""
        return self.replace(start=cycles) if "start" in type(self).model_fields else self

    def axes(self) -> tuple[Axis, ...]:
        """Return the axes that an absolute source moves."""
        return ()

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS, zero mean.
        """
        raise NotImplementedError

    def peak_hz(self, scope: Scope) -> Array:
        """Return the spectral peak at pace 1 and speed 1.

        Returns
        -------
        (F,) Hz.
        """
        return np.zeros(scope.frames.shape)

    def beats_hz(self, scope: Scope) -> Array:
        """Return the beats per second at speed 1, of a source with beats.

        Those that are too fast to be visible are not generated.

        Returns
        -------
        (F,) Hz.
        """
        return np.zeros(scope.frames.shape)

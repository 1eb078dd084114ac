"""What a source of motion is given, and what it must return.

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
    """The shot's cues as sources see them. frames (C,), any order; names; strengths (C,); numbers (C,) one of its own
    for each, which stays with it; away_m (C, 3): from its place to the bare lens at that frame, in the camera's own
    frame (right, up, forward), 0 without a place.
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

    scope: the frames (F,), and the path attributes by name. axes: the A axes asked for. seeds: (A,) one stream an axis;
    shared_seed is the layer's, for what all axes have in common. phase(rate): integral of rate x pace x speed from the
    clip's start, (F, A) cycles, read-only: axes of one pace may have one column in common.
    total_phase(rate): the same over the whole clip, one frame past its last, (A,) cycles.
    phase_at(rate, frames): phase at other frames, (N, A); beat_at the same without the axes' pace, (N,).
    pace_at(frames): pace x speed, by which every rate counts, (N, A). start_frame: where the motion starts to count.
    name: the layer's, for a source that reads it. moments: the cues, where a source hears them.
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


# So far into its cycle a periodic source begins, on all of its axes.
Start = Annotated[float, Field(ge=0.0, le=1.0)]


class SourceDoc(Doc):
    """Base of all sources. An absolute one returns the axes' own units instead of unit RMS, and swings do not scale
    it.
    """

    if TYPE_CHECKING:

        @property
        def kind(self) -> str:
            """Its name in documents: a field of each source."""

    absolute: ClassVar[bool] = False
    # Its rates, of a source that may be blended with another of its kind by their numbers.
    rates: ClassVar[frozenset[str]] = frozenset()
    # Whether it is a function of its phases alone, so that it can run back.
    runs_back: ClassVar[bool] = False

    @property
    def reads(self) -> frozenset[str]:
        """Path attributes that it asks the scope for, as it is set; or CUES: it then moves at moments, and is not of
        unit RMS.
        """
        return frozenset()

    @property
    def counted(self) -> Number | None:
        """The rate that its motion integrates; None for a source without one."""
        rate: Number | None = getattr(self, "rate_hz", None)
        return rate

    def edge_hz(self, scope: Scope) -> Array | None:
        """The frequency above which its motion has next to nothing; None where that is unknown.

        Returns
        -------
        (F,).
        """
        return None

    @property
    def reads_name(self) -> bool:
        """Whether it depends on what its layer is called."""
        return False

    @property
    def may_jump(self) -> bool:
        """Whether its motion may jump where none of its numbers does."""
        return False

    @property
    def blows(self) -> bool:
        """Whether it comes as blows: these begin at once, and need no soft ends."""
        return False

    @property
    def sudden(self) -> bool:
        """Whether it comes at moments of its own, that of its clip's start among them."""
        return False

    def responding(self) -> SourceDoc:
        """The same as it is placed where there are cues."""
        return self

    def started(self, cycles: float) -> SourceDoc:
        """The same, beginning so far into its cycle (0 to 1), where it has one."""
        return self.replace(start=cycles) if "start" in type(self).model_fields else self

    def axes(self) -> tuple[Axis, ...]:
        """Of an absolute source: the axes it moves at all."""
        return ()

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A), unit RMS, zero mean.
        """
        raise NotImplementedError

    def peak_hz(self, scope: Scope) -> Array:
        """Where the spectrum peaks at pace 1 and speed 1.

        Returns
        -------
        (F,) Hz.
        """
        return np.zeros(scope.frames.shape)

    def beats_hz(self, scope: Scope) -> Array:
        """Beats a second at speed 1, of a source that has beats of its own: those that come too fast to be seen are not
        made.

        Returns
        -------
        (F,) Hz.
        """
        return np.zeros(scope.frames.shape)

"""A clip: a stretch of time that holds layers. Without a span it reaches over the whole shot."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.documents.timemarks import AT, END, LATER
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.shot.blends import Blend
from zittern.core.shot.layers import Layer, Span, Spanned
from zittern.core.shot.origins import ClipOrigin

__all__ = ["Clip", "Clock"]


class Clock(Doc):
    """Time of a clip's content in the shot, independent of the bar.

    Phases start at `start_frame`, loops and progress extend to `end_frame` (by default the end of the bar).
    later_frames: delay of its time relative to the shot's, as `t` and `f` in its formulas. backwards: phases run
    backwards from `start_frame`, which is then the later one, to `end_frame`.
    """

    start_frame: Annotated[Frame, AT]
    end_frame: Annotated[Frame | None, END] = None
    later_frames: Annotated[Frame, LATER] = 0.0
    backwards: bool = False


class Clip(Spanned):
    """Layers in order, from the bottom up.

    clock: of their motion; it follows the bar while missing. A clip that was cut, trimmed or moved has its own.
    from_preset: what it was placed from. blend: the corners that its layers belong to, and the place among them.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"id", "name", "mute", "from_preset"})

    id: Id
    name: Label
    layers: Annotated[tuple[Layer, ...], Field(max_length=500)] = ()
    amount: Annotated[Param, bounded(0.0, 10.0)] = fixed(1.0)
    speed: Annotated[Param, bounded(0.0, 1e3)] = fixed(1.0)
    mute: bool = False
    clock: Clock | None = None
    from_preset: ClipOrigin | None = None
    blend: Blend | None = None

    def clock_in(self, shot_span: Span) -> Clock:
        """Its clock in a shot of a span, with an end."""
        first, last = self.span_frames or shot_span
        if self.clock is None:
            return Clock(start_frame=first, end_frame=last)
        return self.clock if self.clock.end_frame is not None else self.clock.replace(end_frame=last)

    def extent_in(self, shot_span: Span) -> tuple[float, float, float]:
        """Return start and end of its content in a shot with a span, and the delay of its time.

        As `clock_in`, without a document: there are many.
        """
        first, last = self.span_frames or shot_span
        if self.clock is None:
            return first, last, 0.0
        start, end = self.clock.start_frame, last if self.clock.end_frame is None else self.clock.end_frame
        return (end, start, self.clock.later_frames) if self.clock.backwards else (start, end, self.clock.later_frames)

    @property
    def backwards(self) -> bool:
        """Return whether motion by phase runs backwards."""
        return self.clock is not None and self.clock.backwards

    def clocked(self, scope: Scope, layer: Layer | None = None) -> Scope:
        """Return the scope of its numbers, or of one of its layers, for a scope of the shot.

        On its clock, with progress through its content or the layer's span.
        """
        start, end, later = self.extent_in(scope.span)
        own = None if layer is None else layer.span_frames
        return scope.with_clock(own or (start, end), later)

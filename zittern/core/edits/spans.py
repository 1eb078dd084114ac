"""Commands on the spans of layers and clips."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from pydantic import Field

from zittern.core.edits.address import change_at, get_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_clip, lane_of
from zittern.core.edits.titles import owners_title
from zittern.core.errors import EditError
from zittern.core.numbers.curves import Frame
from zittern.core.shot.clips import Clip, Clock
from zittern.core.shot.layers import Span, Spanned
from zittern.core.shot.shot import Shot
from zittern.core.timing.carry import retimed
from zittern.core.timing.ripple import moved_by
from zittern.core.timing.time_map import TimeMap

__all__ = ["MoveFade", "OnlyHere", "SetSpan"]

_Length = Annotated[float, Field(ge=0.0, le=1e6)]
# A span that is dragged shut keeps this much, so that it can be found and opened again.
_LEAST_FRAMES = 1.0
# Soft edges: so many seconds, and no more than this share of the stretch each.
_EDGE_S = 0.25
_EDGE_SHARE = 0.25


class SetSpan(CommandDoc):
    """Drags an end, a ramp or the whole of a span.

    Conflicts are resolved: an end stops before the other one, ramps shrink with their span, the changed ramp stops at
    the other one. A ramp is set by its length, or by the frame where it is done (`ramp_in_until`) or begins
    (`ramp_out_from`).
    """

    at: Annotated[tuple[Annotated[str, Field(max_length=300)], ...], Field(min_length=1, max_length=500)]
    first_frame: Frame | None = None
    last_frame: Frame | None = None
    ramp_in_frames: _Length | None = None
    ramp_out_frames: _Length | None = None
    ramp_in_until: Frame | None = None
    ramp_out_from: Frame | None = None
    by_frames: float = Field(default=0.0, ge=-1e6, le=1e6)
    whole: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for an address that has no span."""
        for at in self.at:
            owner = get_at(shot, at)
            if not isinstance(owner, Spanned):
                raise EditError("only layers and clips have a span", at)
            if self.by_frames:
                spanned = owner.replace(span_frames=shot.span_of(owner))
                shot = change_at(shot, at, lambda _, each=spanned: _shifted_span(each, self.by_frames))  # type: ignore[misc]
                owner = get_at(shot, at)
            span = None if self.whole else self._span(owner, shot)
            ramp_in, ramp_out = self._ramps(owner, span or shot.span)
            changes: dict[str, object] = {"span_frames": span, "ramp_in_frames": ramp_in, "ramp_out_frames": ramp_out}
            if isinstance(owner, Clip):
                changes["clock"] = self._clock(owner, shot)
            shot = change_at(shot, at, lambda each, c=changes: each.replace(**c))  # type: ignore[misc]
        return shot

    def _span(self, owner: Spanned, shot: Shot) -> Span | None:
        if self.first_frame is None and self.last_frame is None:
            return owner.span_frames
        first, last = shot.span_of(owner)
        if self.last_frame is not None:
            last = self.last_frame if self.first_frame is not None else max(self.last_frame, first + _LEAST_FRAMES)
        if self.first_frame is not None:
            first = min(self.first_frame, last - _LEAST_FRAMES)
        return first, last

    def _clock(self, clip: Clip, shot: Shot) -> Clock | None:
        """Return a clip that is trimmed keeps the motion that it had."""
        if self.whole:
            return None
        if self.first_frame is None and self.last_frame is None:
            return clip.clock
        return clip.clock_in(shot.span)

    def _ramps(self, owner: Spanned, span: Span) -> tuple[float, float]:
        length = span[1] - span[0]
        into = self.ramp_in_frames if self.ramp_in_until is None else max(0.0, self.ramp_in_until - span[0])
        out = self.ramp_out_frames if self.ramp_out_from is None else max(0.0, span[1] - self.ramp_out_from)
        if into is not None:
            other = min(owner.ramp_out_frames, length)
            return min(into, length - other), other
        if out is not None:
            other = min(owner.ramp_in_frames, length)
            return other, min(out, length - other)
        both = owner.ramp_in_frames + owner.ramp_out_frames
        if both <= length:
            return owner.ramp_in_frames, owner.ramp_out_frames
        into = float(np.floor(owner.ramp_in_frames * length / both))
        return into, min(owner.ramp_out_frames, length - into)

    def label(self, shot: Shot) -> str:
        """Return `Span of “Slow sway” from frame 24`, `Ramp in of 2 layers`."""
        what = owners_title(shot, self.at)
        if self.whole:
            return f"Extend {what} to whole shot"
        for side, frames in (("in", self.ramp_in_frames), ("out", self.ramp_out_frames)):
            if frames is not None:
                return f"Ramp {side} of {what}: {frames:g} frames"
        for side, frame in (("in of", self.ramp_in_until), ("out of", self.ramp_out_from)):
            if frame is not None:
                return f"Ramp {side} {what} {'until' if side == 'in of' else 'from'} frame {frame:g}"
        if self.by_frames:
            return f"Move span of {what} by {self.by_frames:+g} frames"
        ends = [
            f"{word} frame {frame:g}"
            for word, frame in (("from", self.first_frame), ("to", self.last_frame))
            if frame is not None
        ]
        return f"Span of {what} {' '.join(ends)}".strip()


def _shifted_span(part: Spanned, frames: float) -> Spanned:
    """Return a clip with all that is in it; a layer with its keys, in the clip's own time."""
    return moved_by(part, frames) if isinstance(part, Clip) else retimed(part, TimeMap.even(shift_frames=frames))


class OnlyHere(CommandDoc):
    """Limit layers and clips to a range, with soft edges inside it."""

    at: Annotated[tuple[Annotated[str, Field(max_length=300)], ...], Field(min_length=1, max_length=500)]
    first_frame: Frame
    last_frame: Frame

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for an address that has no span, and for a stretch that ends before it starts.
        """
        length = self.last_frame - self.first_frame
        if length < _LEAST_FRAMES:
            raise EditError(
                f"a stretch from frame {self.first_frame:g} to {self.last_frame:g} has no frames; mark a longer one",
                "last_frame",
            )
        edge = min(float(round(_EDGE_S * shot.fps.value)), length * _EDGE_SHARE)
        shot = SetSpan(at=self.at, first_frame=self.first_frame, last_frame=self.last_frame).apply(shot)
        for at in self.at:
            shot = change_at(shot, at, lambda each: each.replace(ramp_in_frames=edge, ramp_out_frames=edge))
        return shot

    def label(self, shot: Shot) -> str:
        """Return `“Fine shake” only from frame 48 to 96`."""
        return f"{owners_title(shot, self.at)} only from frame {self.first_frame:g} to {self.last_frame:g}"


class MoveFade(CommandDoc):
    """Move the cross-fade of two clips on a lane: the end of one and the start of the other."""

    earlier: str
    later: str
    by_frames: float = Field(ge=-1e6, le=1e6)

    def apply(self, shot: Shot) -> Shot:
        """Move the cross-fade. Both keep their content in time, and at least a frame.

        Raises EditError for clips that are not neighbours on a lane.
        """
        first, second = find_clip(shot, self.earlier), find_clip(shot, self.later)
        if lane_of(shot, first) is not lane_of(shot, second):
            raise EditError("these clips are on different lanes", f"clip:{self.later}")
        (start, end), (begin, stop) = shot.span_of(first), shot.span_of(second)
        if not (start <= begin and end <= stop):
            raise EditError("these clips do not cross-fade", f"clip:{self.later}")
        least, most = start + _LEAST_FRAMES - end, stop - _LEAST_FRAMES - begin
        by = min(max(self.by_frames, least), most)
        trimmed = SetSpan(at=(f"clip:{first.id}",), last_frame=end + by).apply(shot)
        return SetSpan(at=(f"clip:{second.id}",), first_frame=begin + by).apply(trimmed)

    def label(self, shot: Shot) -> str:
        """Return `Move cross-fade of “Calm” and “Panic” by +12 frames`."""
        names = " and ".join(f"“{find_clip(shot, each).name}”" for each in (self.earlier, self.later))
        return f"Move cross-fade of {names} by {self.by_frames:+g} frames"

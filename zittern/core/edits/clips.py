"""Commands on clips: placed, moved, split, repeated, taken away."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Label
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_clip, find_lane, lane_of, with_clip, with_lane
from zittern.core.errors import EditError
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.envelope import RampShape
from zittern.core.shot.clips import Clip
from zittern.core.shot.ids import free_id
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot
from zittern.core.timing.ripple import again, moved_by

__all__ = ["AddClip", "DuplicateClip", "MoveClip", "RemoveClip", "SplitClip", "on_lane", "without_clip"]

_LEAST_FRAMES = 1.0


class AddClip(CommandDoc, label="Add clip “{name}”"):
    """An empty clip over a range, on a lane or on a new one."""

    name: Label = "Clip"
    first_frame: Frame
    last_frame: Frame
    lane: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a stretch that ends before it starts."""
        clip = Clip(id=free_id(shot, "clip"), name=self.name, span_frames=(self.first_frame, self.last_frame))
        return on_lane(shot, clip, self.lane)


class MoveClip(CommandDoc):
    """Move a clip in time, with its keys, and to another lane or a new one."""

    clip: str
    by_frames: float = Field(default=0.0, ge=-1e6, le=1e6)
    lane: str | None = None
    new_lane: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Move the clip; one over the whole shot cannot be moved. Raises EditError."""
        clip = find_clip(shot, self.clip)
        if self.by_frames and clip.span_frames is None:
            raise EditError("this clip spans the whole shot; give it a start and an end first", f"clip:{self.clip}")
        moved = moved_by(clip, self.by_frames)
        lane = lane_of(shot, clip)
        if not self.new_lane and self.lane in (None, lane.id):
            return with_clip(shot, clip, moved)
        if self.new_lane:
            # A clip alone on its lane keeps the lane, with its name and fade.
            return (
                with_clip(shot, clip, moved)
                if len(lane.clips) == 1
                else on_lane(without_clip(shot, clip), moved, None, lane.fade)
            )
        return on_lane(without_clip(shot, clip), moved, self.lane)

    def label(self, shot: Shot) -> str:
        """Return `Move clip “Panic” by +24 frames`."""
        by = f" by {self.by_frames:+g} frames" if self.by_frames else ""
        return f"Move clip “{find_clip(shot, self.clip).name}”{by}"


class SplitClip(CommandDoc, label="Split clip {clip} at frame {frame:g}"):
    """Split a clip at a frame. The motion is continuous through the cut."""

    clip: str
    frame: Frame

    def apply(self, shot: Shot) -> Shot:
        """Split the clip. Each half keeps the ramp at its own end. Raises EditError for a frame that is not inside."""
        clip = find_clip(shot, self.clip)
        first, last = shot.span_of(clip)
        if not first + _LEAST_FRAMES <= self.frame <= last - _LEAST_FRAMES:
            raise EditError(
                f"frame {self.frame:g} is not inside the clip, which goes from {first:g} to {last:g}",
                f"clip:{self.clip}",
            )
        cut = self.frame - _LEAST_FRAMES
        clock = clip.clock_in(shot.span)
        left = clip.replace(
            span_frames=(first, cut),
            clock=clock,
            ramp_in_frames=min(clip.ramp_in_frames, cut - first),
            ramp_out_frames=0.0,
        )
        right = clip.replace(
            id=free_id(shot, clip.id), span_frames=(self.frame, last), clock=clock,
            ramp_in_frames=0.0, ramp_out_frames=min(clip.ramp_out_frames, last - self.frame),
            layers=again(shot, clip.layers),
        )  # fmt: skip
        return with_clip(shot, clip, left, right)


class DuplicateClip(CommandDoc):
    """Duplicate a clip after itself on its lane, `times` in sequence. Copies have the same motion."""

    clip: str
    times: Annotated[int, Field(ge=1, le=100)] = 1

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a clip over the whole shot: there is no later time."""
        clip = find_clip(shot, self.clip)
        if clip.span_frames is None:
            raise EditError("this clip spans the whole shot; give it a start and an end first", f"clip:{self.clip}")
        length = clip.span_frames[1] - clip.span_frames[0] + _LEAST_FRAMES
        for n in range(1, self.times + 1):
            later = moved_by(clip, n * length)
            copy = later.replace(id=free_id(shot, clip.id), layers=again(shot, later.layers))
            shot = on_lane(shot, copy, lane_of(shot, find_clip(shot, self.clip)).id)
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Duplicate clip “Panic”`, `Repeat clip “Panic” 3 times`."""
        name = find_clip(shot, self.clip).name
        return f"Duplicate clip “{name}”" if self.times == 1 else f"Repeat clip “{name}” {self.times} times"


class RemoveClip(CommandDoc, label="Remove clip {clip}"):
    """Remove a clip with its layers, and its lane if it is empty."""

    clip: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when it is not there."""
        return without_clip(shot, find_clip(shot, self.clip))


def without_clip(shot: Shot, clip: Clip) -> Shot:
    """Return the shot without a clip, and without its lane when that was all on it."""
    lane = lane_of(shot, clip)
    if len(lane.clips) > 1:
        return with_clip(shot, clip)
    return shot.replace(lanes=tuple(each for each in shot.lanes if each is not lane))


def on_lane(shot: Shot, clip: Clip, lane: str | None, fade: RampShape = "equal-power") -> Shot:
    """Return the shot with a clip on a lane, or on a new one. Raises EditError for a lane that is not there."""
    if lane is None:
        name = free_id(shot, "lane")
        return shot.replace(lanes=(*shot.lanes, Lane(id=name, name=clip.name, clips=(clip,), fade=fade)))
    found = find_lane(shot, lane)
    return with_lane(shot, found, found.replace(clips=(*found.clips, clip)))

"""Time edits: insert, remove, stretch frames; shift later content; slip a clip's content."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zittern.core.edits.clips import SplitClip
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_clip, with_clip
from zittern.core.edits.rippling import with_time_edit
from zittern.core.errors import EditError
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frames_told
from zittern.core.timing.reversing import mirrored_clip, mirrored_path
from zittern.core.timing.ripple import Runs, moved_by
from zittern.core.timing.time_map import TimeMap

__all__ = ["EaseTime", "InsertTime", "ReverseTime", "ShiftAfter", "SlipClip", "StretchTime", "TakeOutTime"]

MOST_INSERTED = 1_000_000
_Count = Annotated[int, Field(ge=1, le=MOST_INSERTED)]
_Share = Annotated[float, Field(ge=0.0, le=1.0)]
_Whole = Annotated[int, Field(ge=-1_000_000, le=10_000_000)]


class InsertTime(CommandDoc):
    """Insert frames before a frame: all later content shifts.

    gap: whether cut keyed segments hold over the new frames or run through them. runs: whether motion by phase
    continues, or keeps its later course.
    """

    everywhere: ClassVar[bool] = True

    frame: _Whole
    frames: _Count
    gap: Literal["hold", "through"] = "hold"
    runs: Runs = "on"

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a frame that is neither in the shot nor the one after it."""
        if not shot.first_frame <= self.frame <= shot.last_frame + 1:
            raise _outside(shot, self.frame, "frame")
        return with_time_edit(shot, TimeMap.inserted(self.frames, self.frame, self.gap == "through"), self.runs)

    def label(self, shot: Shot) -> str:
        """Return `Insert 24 frames at frame 96`."""
        return f"Insert {frames_told(self.frames)} at frame {self.frame}"


class TakeOutTime(CommandDoc, label="Take out frames {first_frame} to {last_frame}"):
    """Remove frames: keys, cues, layers and clips in them are removed, all later content shifts.

    Both edges keep their values.
    """

    everywhere: ClassVar[bool] = True

    first_frame: _Whole
    last_frame: _Whole
    runs: Runs = "on"

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a range that is not in the shot, and for all of it."""
        _check_range(shot, self.first_frame, self.last_frame)
        return with_time_edit(shot, TimeMap.taken_out(self.first_frame, self.last_frame + 1), self.runs)


class StretchTime(CommandDoc):
    """Retime a range to a number of frames: keys are scaled, motion by phase keeps its rates."""

    everywhere: ClassVar[bool] = True

    first_frame: _Whole
    last_frame: _Whole
    frames: _Count
    runs: Runs = "on"

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a range that is not in the shot."""
        _check_range(shot, self.first_frame, self.last_frame)
        return with_time_edit(shot, TimeMap.stretched(self.first_frame, self.last_frame + 1, self.frames), self.runs)

    def label(self, shot: Shot) -> str:
        """Return `Stretch frames 96 to 119 to 48 frames`, `Squeeze frames 96 to 119 to 12 frames`."""
        longer = self.frames >= self.last_frame - self.first_frame + 1
        what = f"frames {self.first_frame} to {self.last_frame} to {frames_told(self.frames)}"
        return f"{'Stretch' if longer else 'Squeeze'} {what}"


class EaseTime(CommandDoc, label="Ease frames {first_frame} to {last_frame}"):
    """Ease keys in a range: they start and stop slowly.

    The range lasts as long as it did. ease_in and ease_out are shares of it. Keys stay, at other times; each curve gets
    up to four more, where the range and its eases begin and end. Linear segments are eased exactly; for others the new
    cubic has exact values and velocities at its keys.
    """

    everywhere: ClassVar[bool] = True

    first_frame: _Whole
    last_frame: _Whole
    ease_in: _Share = 0.5
    ease_out: _Share = 0.5

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for a range that is not in the shot, and for shares of more than all of it.
        """
        _check_range(shot, self.first_frame, self.last_frame)
        if self.ease_in + self.ease_out > 1.0:
            raise EditError("the two eases share the range: their sum must not exceed 1", "ease_out")
        if self.ease_in + self.ease_out == 0.0:
            return shot
        timing = TimeMap.eased(self.first_frame, self.last_frame + 1, self.ease_in, self.ease_out)
        return with_time_edit(shot, timing, "on")


class ReverseTime(CommandDoc, label="Reverse frames {first_frame} to {last_frame}"):
    """Runs a range backwards: the move, the lens, dials, plates and cues in it, and the shakes.

    Clips are split at its ends. Hits, steps, roads, takes, formulas, springs, the operator and the set depend on
    earlier time and continue forwards.
    """

    everywhere: ClassVar[bool] = True

    first_frame: _Whole
    last_frame: _Whole

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a range that is not in the shot. One frame is the same backwards."""
        _check_range(shot, self.first_frame, self.last_frame)
        if self.first_frame == self.last_frame:
            return shot
        first, last = float(self.first_frame), float(self.last_frame)
        reach = shot.span
        for frame in (first, last + 1.0):
            shot = self._split(shot, frame)

        def turned(clip: Clip) -> Clip:
            start, end = shot.span_of(clip)
            return mirrored_clip(clip, first, last, reach) if start >= first and end <= last else clip

        lanes = (lane.replace(clips=tuple(map(turned, lane.clips))) for lane in shot.lanes)
        return mirrored_path(shot.replace(lanes=tuple(lanes)), first, last)

    def _split(self, shot: Shot, frame: float) -> Shot:
        for clip in tuple(shot.clips()):
            start, end = shot.span_of(clip)
            if start + 1.0 <= frame <= end - 1.0 and clip.layers:
                shot = SplitClip(clip=clip.id, frame=frame).apply(shot)
        return shot


class ShiftAfter(CommandDoc, label="Shift everything from frame {frame} on by {by_frames:+d} frames"):
    """Shift everything from a frame on: later, so that keys run through the new frames.

    Or earlier, so that the frames before it go.
    """

    everywhere: ClassVar[bool] = True

    frame: _Whole
    by_frames: Annotated[int, Field(ge=-MOST_INSERTED, le=MOST_INSERTED)]
    runs: Runs = "on"

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for a frame that is not in the shot, and for more frames than lie before it.
        """
        if self.by_frames == 0:
            return shot
        if self.by_frames > 0:
            return InsertTime(frame=self.frame, frames=self.by_frames, gap="through", runs=self.runs).apply(shot)
        return TakeOutTime(first_frame=self.frame + self.by_frames, last_frame=self.frame - 1, runs=self.runs).apply(
            shot
        )


class SlipClip(CommandDoc, label="Slip what is in {clip} by {by_frames:+g} frames"):
    """Move the content of a clip in time, under its bar: its clock, and the keys and spans of its layers."""

    clip: str
    by_frames: float = Field(ge=-1e6, le=1e6)

    def apply(self, shot: Shot) -> Shot:
        """Slip the clip; one over the whole shot gets a span. Raises EditError when it is not there."""
        clip = find_clip(shot, self.clip)
        span = shot.span_of(clip)
        slipped = moved_by(clip.replace(span_frames=span, clock=clip.clock_in(span)), self.by_frames)
        bar = {name: getattr(clip, name) for name in ("ramp_in_frames", "ramp_out_frames", "amount", "speed")}
        return with_clip(shot, clip, slipped.replace(span_frames=span, **bar))


def _outside(shot: Shot, frame: int, where: str) -> EditError:
    return EditError(f"the shot goes from frame {shot.first_frame} to {shot.last_frame}, got frame {frame}", where)


def _check_range(shot: Shot, first: int, last: int) -> None:
    if last < first:
        raise EditError(f"the range ends at frame {last}, before it starts at frame {first}", "last_frame")
    for frame, where in ((first, "first_frame"), (last, "last_frame")):
        if not shot.first_frame <= frame <= shot.last_frame:
            raise _outside(shot, frame, where)

"""A whole shot carried through an edit of time: path, rig, cues and dials by the map; clips by their clocks.

Parts that span the cut continue without a jump: noise and other motion by phase either *runs on*, as if the shot had
always had this length, or *keeps* the content after the cut: the clip is split there, its left part
continues while it cross-fades into its right part, whose clock is shifted.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import Literal

from zittern.core.errors import EditError
from zittern.core.shot.clips import Clip, Clock
from zittern.core.shot.ids import free_id
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import Layer, Span
from zittern.core.shot.reads import spanned
from zittern.core.shot.shot import Shot
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["Rippled", "Runs", "again", "moved_by", "rippled"]

# Motion by phase: it continues through the edit, or keeps its later course.
Runs = Literal["on", "keep"]
# Cross-fade before the cut, for a clip that keeps its later course and without inserted frames.
_FADE_S = 0.5
# A part of a clip that is split has at least so many more frames than one.
_LEAST_FRAMES = 1.0
# Spans that are no further apart than this meet.
_MEET_FRAMES = 1e-6


@dataclass(frozen=True)
class Rippled:
    """A shot after an edit of time.

    moved: clips before the edit, each with the id of the clip that has its motion after it, `later_frames` later, from
    frame `stop` of the old shot.
    """

    shot: Shot
    moved: tuple[tuple[Clip, str], ...]
    stop: float
    later_frames: float


@dataclass(frozen=True)
class _Edit:
    """An edit of time of a shot. start, stop: the frames that it is about, the same where something is inserted."""

    shot: Shot
    timing: TimeMap
    runs: Runs
    # Ids of new parts; and clips with the ids of the clips that have their motion from `stop` on.
    taken: list[str] = field(default_factory=list)
    moved: list[tuple[Clip, str]] = field(default_factory=list)

    @property
    def start(self) -> float:
        return self.timing.cuts[0]

    @property
    def stop(self) -> float:
        return self.timing.cuts[-1]

    @property
    def later(self) -> float:
        """Return the shift of the later content."""
        return self.timing.at(self.stop) - self.stop

    @property
    def whole(self) -> Span:
        return float(self.shot.first_frame), float(self.shot.last_frame)

    def lane(self, lane: Lane) -> Lane | None:
        """Return a lane after the edit; None when it is empty."""
        clips = tuple(each for clip in lane.clips for each in self.clip(clip))
        if not clips and lane.clips:
            return None
        spans = [self.shot.span_of(clip) for clip in lane.clips]
        return lane.replace(clips=tuple(self._meeting(clip, lane, spans, clips) for clip in clips))

    def clip(self, clip: Clip) -> Iterable[Clip]:
        """Return a clip afterwards: gone, one, or two parts of it."""
        first, last = self.shot.span_of(clip)
        stop = last + 1.0
        if stop <= self.start:
            return [clip]
        if self.runs == "keep" and clip.span_frames is None and clip.layers:
            return self._kept_whole(clip)
        if first >= self.stop and clip.span_frames is not None:
            return [self._later(clip)]
        if first >= self.start and stop <= self.stop and self.timing.takes_out(self.start) and clip.span_frames:
            return []
        if self.runs == "keep" and clip.layers and first < self.stop < stop and self._room(first) >= _LEAST_FRAMES:
            return self._split(clip, first, last)
        if clip.span_frames is None:
            return [self._content(clip)]
        if first >= self.start:
            return [self._begun_inside(clip, first, last)]
        clock = self._clock(clip.clock_in(self.whole))
        return [self._content(clip).replace(clock=clock)]

    def _later(self, clip: Clip) -> Clip:
        """Return a clip moved with the later part."""
        self.moved.append((clip, clip.id))
        return moved_by(clip, self.later)

    def _kept_whole(self, clip: Clip) -> Iterable[Clip]:
        """Return a clip over the whole shot that keeps its motion: it has a span from then on."""
        placed = clip.replace(span_frames=self.whole, clock=clip.clock_in(self.whole))
        if self.whole[0] < self.stop:
            return self.clip(placed)
        moved = self._later(placed)
        return [moved.replace(span_frames=(self.timing.before(self.whole[0]), self.whole[1] + self.later))]

    def _begun_inside(self, clip: Clip, first: float, last: float) -> Clip:
        """Return a clip that begins in the frames that the edit is about."""
        if self.timing.takes_out(first):
            moved = self._later(clip)
            start, end = self.timing.at(first), self.timing.end(last)
            out = min(clip.ramp_out_frames, end - start)
            into = min(clip.ramp_in_frames, end - start - out)
            return moved.replace(span_frames=(start, end), ramp_in_frames=into, ramp_out_frames=out)
        by = self.timing.at(first) - first
        clock = clip.clock_in(self.whole)
        ended = None if clock.end_frame is None else self.timing.end(clock.end_frame)
        begun = Clock(start_frame=clock.start_frame + by, end_frame=ended, later_frames=clock.later_frames + by)
        return self._content(clip).replace(clock=begun)

    def _clock(self, clock: Clock) -> Clock:
        """Return the clock of a clip that begins before the edit: only its end is later."""
        end = None if clock.end_frame is None else max(self.timing.end(clock.end_frame), clock.start_frame)
        return clock.replace(end_frame=end)

    def _content(self, clip: Clip, as_before: bool = False) -> Clip:
        """Return a clip with its numbers and layers carried, and an unchanged clock.

        Layers within the removed range are dropped. as_before: nothing changes before the edit, progress through the
        spans of layers included.
        """
        layers = tuple(layer for layer in clip.layers if not self._gone(layer.span_frames))
        after = retimed(clip.replace(layers=layers, clock=None), self.timing).replace(clock=clip.clock)
        if not as_before:
            return after
        pairs = zip(layers, after.layers, strict=True)
        return after.replace(layers=tuple(self._as_before(layer, carried) for layer, carried in pairs))

    def _as_before(self, layer: Layer, carried: Layer) -> Layer:
        """Return a carried layer, with its old span if the carried one would change it before the edit."""
        span = layer.span_frames
        if span is None or not (spanned(layer) or span[1] - layer.ramp_out_frames < self.start):
            return carried
        return carried.replace(
            **{name: getattr(layer, name) for name in ("span_frames", "ramp_in_frames", "ramp_out_frames")}
        )

    def _gone(self, span: Span | None) -> bool:
        return (
            span is not None
            and self.timing.takes_out(self.start)
            and self.start <= span[0]
            and span[1] + 1.0 <= self.stop
        )

    def _split(self, clip: Clip, first: float, last: float) -> list[Clip]:
        """Return both parts of a clip that keeps its later course.

        They cross-fade over what is inserted, or before the cut.
        """
        clock = clip.clock_in(self.whole)
        goes_over = self.timing.at(self.stop)
        room = self._room(first)
        fade = min(self.later if self._inserts else _FADE_S * self.shot.fps.value, room)
        left = self._content(clip, as_before=True).replace(
            span_frames=(self.timing.at(first), goes_over - 1.0),
            clock=clock,
            ramp_in_frames=min(clip.ramp_in_frames, room),
            ramp_out_frames=0.0,
        )
        moved = moved_by(clip.replace(span_frames=(first, last), clock=clock), self.later)
        layers = again(self.shot, moved.layers, self.taken)
        name = free_id(self.shot, clip.id, self.taken)
        self.taken.extend([name, *(layer.id for layer in layers)])
        self.moved.append((clip, name))
        right = moved.replace(
            id=name,
            span_frames=(goes_over - fade, last + self.later),
            ramp_in_frames=0.0,
            layers=layers,
        )
        return [left, right]

    def _room(self, first: float) -> float:
        """Return the frames of the left part of a clip besides its first one; none where that is removed."""
        return 0.0 if self.timing.takes_out(first) else self.timing.at(self.stop) - self.timing.at(first) - 1.0

    @property
    def _inserts(self) -> bool:
        return self.start == self.stop

    def _meeting(self, clip: Clip, lane: Lane, spans: list[Span], after: tuple[Clip, ...]) -> Clip:
        """Extend the earlier one of two adjacent clips over inserted frames, so that they stay adjacent."""
        if not self._inserts or clip.span_frames is None:
            return clip
        before = {each.id: span for each, span in zip(lane.clips, spans, strict=True)}
        mine = before.get(clip.id)
        if mine is None or abs(mine[1] + 1.0 - self.stop) > _MEET_FRAMES:
            return clip
        now = {each.id: each.span_frames for each in after}
        starts = [
            now[name]
            for name, span in before.items()
            if name in now and name != clip.id and abs(span[0] - self.stop) <= _MEET_FRAMES
        ]
        following = next((span for span in starts if span is not None), None)
        if following is None:
            return clip
        return clip.replace(span_frames=(clip.span_frames[0], following[0] - 1.0), clock=clip.clock_in(self.whole))


def rippled(shot: Shot, timing: TimeMap, runs: Runs) -> Rippled:
    """Carry a shot through an edit of time.

    Raises EditError when the shot would become empty, or for parts that cannot be cut.
    """
    timing = replace(timing, reach=shot.span)
    if timing.at(shot.last_frame + 1.0) - timing.before(float(shot.first_frame)) < 1.0:
        raise EditError("nothing would be left of the shot; leave it at least one frame", "")
    edit = _Edit(shot, timing, runs)
    cues = tuple(cue for cue in shot.cues if not timing.takes_out(cue.frame))
    bare = retimed(shot.replace(lanes=(), cues=cues), timing)
    lanes = tuple(lane for each in shot.lanes if (lane := edit.lane(each)) is not None)
    return Rippled(bare.replace(lanes=lanes), tuple(edit.moved), edit.stop, edit.later)


def moved_by(clip: Clip, frames: float) -> Clip:
    """Return a clip with a span, moved in time with all that is in it.

    keys, ramps, and the clock that its motion and formulas go by.
    """
    if frames == 0.0 or clip.span_frames is None:
        return clip
    clock = clip.clock_in(clip.span_frames)
    moved = retimed(clip.replace(clock=clock), TimeMap.even(shift_frames=frames))
    return moved.replace(
        clock=retimed(clock, TimeMap.even(shift_frames=frames)).replace(later_frames=clock.later_frames + frames)
    )


def again(shot: Shot, layers: tuple[Layer, ...], also_taken: Iterable[str] = ()) -> tuple[Layer, ...]:
    """Return the layers with new ids. They keep their random starts."""
    taken = list(also_taken)
    start = len(taken)
    for layer in layers:
        taken.append(free_id(shot, layer.source.kind, taken))
    return tuple(layer.replace(id=name) for layer, name in zip(layers, taken[start:], strict=True))

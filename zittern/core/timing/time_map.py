"""Frame mapping of a time edit.

A map consists of pieces. In a straight one a frame goes to new + (frame - old) x factor; eases bend. Where two pieces
meet, a frame has two positions: `at` returns the one from the right, `before` the one from the left. Content at a cut
belongs to the later part; a part up to a cut ends before it.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

__all__ = ["Bend", "Piece", "TimeMap"]


# Eases of fewer frames than this are omitted: they would be invisible.
_SHORTEST_EASE_FRAMES = 0.05


@dataclass(frozen=True, slots=True)
class Piece:
    """From a frame on (-inf for the first piece), up to the next one. factor 0: these frames are taken out."""

    start: float
    old: float
    new: float
    factor: float = 1.0

    def at(self, frame: float) -> float:
        """Return the new position of a frame of the piece."""
        return self.new + (frame - self.old) * self.factor


@dataclass(frozen=True, slots=True)
class Bend(Piece):
    """A piece whose speed rises evenly from 0, or falls evenly to 0: a parabola with its vertex at (old, new).

    old_frames, new_frames: from there to its other end, both negative where the vertex is the end.
    """

    old_frames: float = 1.0
    new_frames: float = 1.0

    def at(self, frame: float) -> float:
        """Return the new position of a frame of the piece."""
        return self.new + self.new_frames * self._reached(frame)

    def speed_at(self, frame: float) -> float:
        """Return the old frames per new frame at an old frame."""
        return 2.0 * self.old_frames / self.new_frames * self._reached(frame)

    def _reached(self, frame: float) -> float:
        """Return the share of its new frames, from the vertex on, at an old frame."""
        return math.sqrt(min(max((frame - self.old) / self.old_frames, 0.0), 1.0))


@dataclass(frozen=True)
class TimeMap:
    """pieces in order of their starts.

    through: whether a keyed segment runs through inserted time, or holds there. reach: first and last frame of the
    earlier shot, (-inf, inf) without one: repetitions are expanded within it.

    >>> later = TimeMap.inserted(24.0, at=96.0)
    >>> later.before(96.0), later.at(96.0), later.length(90.0, 10.0)
    (96.0, 120.0, 34.0)
    """

    pieces: tuple[Piece, ...]
    through: bool = False
    reach: tuple[float, float] = (-math.inf, math.inf)

    @classmethod
    def even(cls, shift_frames: float = 0.0, factor: float = 1.0, about_frame: float = 0.0) -> TimeMap:
        """Frame -> about + (frame - about) x factor + shift."""
        return cls((Piece(-math.inf, about_frame, about_frame + shift_frames, factor),))

    @classmethod
    def inserted(cls, frames: float, at: float, through: bool = False) -> TimeMap:
        """Frames put in before a frame."""
        return cls((Piece(-math.inf, 0.0, 0.0), Piece(at, at, at + frames)), through)

    @classmethod
    def taken_out(cls, start: float, stop: float) -> TimeMap:
        """Without the frames from start up to, without, stop."""
        return cls((Piece(-math.inf, 0.0, 0.0), Piece(start, start, start, 0.0), Piece(stop, stop, start)))

    @classmethod
    def stretched(cls, start: float, stop: float, frames: float) -> TimeMap:
        """Return the frames from start up to, without, stop last so many frames."""
        return cls(
            (
                Piece(-math.inf, 0.0, 0.0),
                Piece(start, start, start, frames / (stop - start)),
                Piece(stop, stop, start + frames),
            )
        )

    @classmethod
    def eased(cls, start: float, stop: float, into: float, out: float) -> TimeMap:
        """Return the map of an ease over the frames from start up to, without, stop.

        The duration stays; velocity rises evenly from 0 over the share `into`, stays, and falls evenly to 0 over the
        share `out`.
        """
        length = stop - start
        into, out = (frames if frames > _SHORTEST_EASE_FRAMES else 0.0 for frames in (into * length, out * length))
        steady = length / (length - 0.5 * (into + out))
        pieces = [Piece(-math.inf, 0.0, 0.0)]
        if into:
            pieces.append(Bend(start, start, start, old_frames=0.5 * steady * into, new_frames=into))
        begun, ending = start + 0.5 * steady * into, stop - 0.5 * steady * out
        if length - into - out > _SHORTEST_EASE_FRAMES:
            pieces.append(Piece(begun, begun, start + into, 1.0 / steady))
        if out:
            pieces.append(Bend(ending, stop, stop, old_frames=-0.5 * steady * out, new_frames=-out))
        return cls((*pieces, Piece(stop, stop, stop)))

    @cached_property
    def _starts(self) -> list[float]:
        return [piece.start for piece in self.pieces]

    @property
    def cuts(self) -> list[float]:
        """Return the frames between pieces."""
        return self._starts[1:]

    @property
    def is_identity(self) -> bool:
        """Return whether this is the identity map."""
        return len(self.pieces) == 1 and self.pieces[0].factor == 1.0 and self.pieces[0].old == self.pieces[0].new

    def at(self, frame: float) -> float:
        """Return the new position of a frame, from the right."""
        return self._piece(frame).at(frame)

    def takes_out(self, frame: float) -> bool:
        """Return whether a frame is removed."""
        return self._piece(frame).factor == 0.0

    def _piece(self, frame: float) -> Piece:
        return self.pieces[bisect_right(self._starts, frame) - 1]

    def before(self, frame: float) -> float:
        """Return the new position of a frame, from the left: the end of a range up to it."""
        return self.pieces[max(bisect_left(self._starts, frame) - 1, 0)].at(frame)

    def end(self, last: float) -> float:
        """Return the last frame of a range that includes a frame."""
        return self.before(last + 1.0) - 1.0

    def length(self, start: float, frames: float) -> float:
        """Return the new duration of a range that starts at a frame."""
        return self.before(start + frames) - self.at(start)

    def parts(self) -> Iterator[tuple[Piece, float, float]]:
        """Each piece with the frames that it begins and stops at."""
        for piece, stop in zip(self.pieces, [*self.cuts, math.inf], strict=True):
            yield piece, piece.start, stop

"""Where each frame of a shot goes in an edit of time.

A map is made of pieces, each straight: a frame of a piece goes to new + (frame - old) x factor. Where two pieces meet,
a frame has two places: `at` gives the one from the right, `before` the one from the left. What lies at a cut belongs to
what comes after it; what lasts up to a cut ends before it.
"""

from __future__ import annotations

import math
from bisect import bisect_left, bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property

__all__ = ["Piece", "TimeMap", "ease_error"]


# So far straight pieces stray from a time warp: in frames, and of long ranges as a share.
_EASE_ERROR_FRAMES, _EASE_ERROR_SHARE = 0.05, 2.5e-5


@dataclass(frozen=True, slots=True)
class Piece:
    """From a frame on (-inf for the first piece), up to the next one. factor 0: these frames are taken out."""

    start: float
    old: float
    new: float
    factor: float = 1.0

    def at(self, frame: float) -> float:
        """Where a frame of it goes."""
        return self.new + (frame - self.old) * self.factor


@dataclass(frozen=True)
class TimeMap:
    """pieces in order of their starts. through: whether a keyed segment runs through inserted time, or holds there.
    reach: first and last frame of the shot before, (-inf, inf) where there is none: what repeats is written out so far.

    >>> later = TimeMap.inserted(24.0, at=96.0)
    >>> later.before(96.0), later.at(96.0), later.length(90.0, 10.0)
    (96.0, 120.0, 34.0)
    """

    pieces: tuple[Piece, ...]
    through: bool = False
    reach: tuple[float, float] = (-math.inf, math.inf)

    @classmethod
    def even(cls, shift_frames: float = 0.0, factor: float = 1.0, about_frame: float = 0.0) -> TimeMap:
        """frame -> about + (frame - about) x factor + shift."""
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
        """The frames from start up to, without, stop last so many frames."""
        return cls(
            (
                Piece(-math.inf, 0.0, 0.0),
                Piece(start, start, start, frames / (stop - start)),
                Piece(stop, stop, start + frames),
            )
        )

    @classmethod
    def eased(cls, start: float, stop: float, into: float, out: float) -> TimeMap:
        """The frames from start up to, without, stop last as long as they did, but set off slowly over the share `into`
        of them and come to rest over the share `out`: velocity rises evenly from 0, stays, falls evenly to 0. Straight
        pieces stray from that by `ease_error` at most.
        """
        length = stop - start
        error = ease_error(length)
        # What is shorter than that is none.
        into, out = (share if share * length > error else 0.0 for share in (into, out))
        steady = 1.0 / (1.0 - 0.5 * (into + out))

        def reached(share: float) -> float:
            """How much of the motion has gone by when that share of the time has."""
            if share < into:
                return 0.5 * steady * share * share / into
            if share > 1.0 - out:
                return 1.0 - 0.5 * steady * (1.0 - share) ** 2 / out
            return steady * (share - 0.5 * into)

        shares = [*_steps(0.0, into, length * steady, error), *_steps(1.0 - out, 1.0, length * steady, error)]
        places = sorted({0.0, 1.0, *shares})
        pieces = [Piece(-math.inf, 0.0, 0.0)]
        for share, after in zip(places, places[1:], strict=False):
            old, old_after = start + length * reached(share), start + length * reached(after)
            pieces.append(Piece(old, old, start + length * share, length * (after - share) / (old_after - old)))
        return cls((*pieces, Piece(stop, stop, stop)))

    @cached_property
    def _starts(self) -> list[float]:
        return [piece.start for piece in self.pieces]

    @property
    def cuts(self) -> list[float]:
        """Frames at which one piece goes over into the next."""
        return self._starts[1:]

    @property
    def still(self) -> bool:
        """Whether nothing goes anywhere."""
        return len(self.pieces) == 1 and self.pieces[0].factor == 1.0 and self.pieces[0].old == self.pieces[0].new

    def at(self, frame: float) -> float:
        """Where a frame goes, from the right."""
        return self._piece(frame).at(frame)

    def takes_out(self, frame: float) -> bool:
        """Whether a frame is no more."""
        return self._piece(frame).factor == 0.0

    def _piece(self, frame: float) -> Piece:
        return self.pieces[bisect_right(self._starts, frame) - 1]

    def before(self, frame: float) -> float:
        """Where a frame goes, from the left: where what lasts up to it ends."""
        return self.pieces[max(bisect_left(self._starts, frame) - 1, 0)].at(frame)

    def end(self, last: float) -> float:
        """Where a stretch that lasts through a frame has its last one."""
        return self.before(last + 1.0) - 1.0

    def length(self, start: float, frames: float) -> float:
        """How long what begins at a frame lasts then."""
        return self.before(start + frames) - self.at(start)

    def parts(self) -> Iterator[tuple[Piece, float, float]]:
        """Each piece with the frames that it begins and stops at."""
        for piece, stop in zip(self.pieces, [*self.cuts, math.inf], strict=True):
            yield piece, piece.start, stop


def ease_error(frames: float) -> float:
    """So far straight pieces may stray from the warp of a range of so many frames, in frames."""
    return max(_EASE_ERROR_FRAMES, _EASE_ERROR_SHARE * frames)


def _steps(start: float, stop: float, slope: float, error: float) -> list[float]:
    """Places at which to break a part of a warp that bends evenly from standing to a slope (frames for all of the
    time): a straight piece over a share h strays by slope h^2 / 8 / (stop - start).
    """
    width = stop - start
    if width <= 0.0:
        return []
    count = max(1, math.ceil(math.sqrt(slope * width / (8.0 * error))))
    return [start + width * n / count for n in range(count + 1)]

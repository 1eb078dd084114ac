"""Triangles of the objects in a set, and their first intersection with a segment.

Nothing is read here: pieces are handed in.

Triangles are grouped by position, each group with a bounding box. A ray is tested against the boxes
(Kay and Kajiya 1986), and against the triangles of those that it enters (Moeller and Trumbore 1997).
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zittern.core.runtime import budget
from zittern.core.units import Array, IntArray

__all__ = ["Piece", "SetPieces", "first_met"]

# Triangles in a box.
_IN_A_BOX = 16
# Grid positions that order the triangles of a piece.
_PLACES = 1024
# Rays and boxes that are tested together, and triangles.
_MOST_TOGETHER = 1_000_000
_MOST_TRIANGLES_TOGETHER = 400_000
_NOTHING = 1e-12


@dataclass(frozen=True)
class Piece:
    """A part of a set that moves as one.

    names: of it and of what it hangs under. triangles_m: (T, 3, 3) corners in its own frame. world_at: seconds (F,) ->
    its pose in the world (F, 4, 4); None for a static object.
    """

    name: str
    names: frozenset[str]
    triangles_m: Array
    world_at: Callable[[Array], Array] | None = None

    @cached_property
    def ordered_m(self) -> Array:
        """Triangles with neighbours next to each other, filled up to whole boxes with the last.

        Returns
        -------
        (T, 3, 3) metres, T a multiple of 16.
        """
        middle = self.triangles_m.mean(axis=1)
        low, size = middle.min(axis=0), np.maximum(np.ptp(middle, axis=0), _NOTHING)
        place = np.minimum((middle - low) / size * _PLACES, _PLACES - 1).astype(np.int64)
        rows = np.argsort(_woven(place), kind="stable")
        missing = -len(rows) % _IN_A_BOX
        return np.asarray(self.triangles_m[np.concatenate([rows, np.repeat(rows[-1:], missing)])])

    @cached_property
    def boxes_m(self) -> Array:
        """Least and largest corner of each group.

        Returns
        -------
        (B, 2, 3) float64, meters, in the world.
        """
        corners = self.ordered_m.reshape(-1, _IN_A_BOX * 3, 3)
        return np.stack([corners.min(axis=1), corners.max(axis=1)], axis=1)


@dataclass(frozen=True)
class SetPieces:
    """A set for intersection tests. left_out: number of triangles beyond the limit. fault: why it cannot be read."""

    pieces: tuple[Piece, ...] = ()
    left_out: int = 0
    fault: str = ""


def first_met(piece: Piece, start_m: Array, stop_m: Array, seconds: Array, until: Array | None = None) -> Array:
    """Return the first hit of segments on a piece, as a share of each; infinite without a hit.

    Parameters
    ----------
    start_m: (N, 3) metres in the world.
    stop_m: (N, 3) metres in the world.
    seconds: (N,) time of the set at the start.
    until: (N,) time of the set at the end; the same when left out.

    Returns
    -------
    (N,) above 0, up to 1.
    """
    start_m = _in_piece_frame(piece, start_m, seconds)
    way_m = _in_piece_frame(piece, stop_m, seconds if until is None else until) - start_m
    out = np.full(len(start_m), np.inf)
    together = max(1, _MOST_TOGETHER // len(piece.boxes_m))
    for first in range(0, len(start_m), together):
        budget.check()
        part = slice(first, first + together)
        rays, boxes = _entered(piece.boxes_m, start_m[part], way_m[part])
        for at in range(0, len(rays), _MOST_TRIANGLES_TOGETHER // _IN_A_BOX):
            some = slice(at, at + _MOST_TRIANGLES_TOGETHER // _IN_A_BOX)
            ray = np.repeat(rays[some] + first, _IN_A_BOX)
            triangle = (boxes[some, None] * _IN_A_BOX + np.arange(_IN_A_BOX)).ravel()
            np.minimum.at(out, ray, _met(piece.ordered_m[triangle], start_m[ray], way_m[ray]))
    return out


def _in_piece_frame(piece: Piece, places: Array, seconds: Array) -> Array:
    """Places in the world in a piece's own frame. (N, 3) -> (N, 3)."""
    if piece.world_at is None:
        return places
    world = piece.world_at(seconds)
    found = np.linalg.solve(world[:, :3, :3], (places - world[:, :3, 3])[:, :, None])[:, :, 0]
    return np.asarray(found, dtype=np.float64)


def _woven(place: IntArray) -> IntArray:
    """Return the interleaved bits of three whole numbers below 1024.

    Neighbors in space are then neighbors in order (Morton 1966). (T, 3) -> (T,).
    """
    out = np.zeros(len(place), dtype=np.int64)
    for bit in range(10):
        for axis in range(3):
            out |= ((place[:, axis] >> bit) & 1) << (3 * bit + axis)
    return out


def _entered(boxes: Array, start: Array, way: Array) -> tuple[IntArray, IntArray]:
    """Pairs of rays and the boxes that they enter. (P,), (P,)."""
    with np.errstate(divide="ignore", invalid="ignore"):
        inverse = 1.0 / way
        near, far = np.zeros((len(start), len(boxes))), np.ones((len(start), len(boxes)))
        for axis in range(3):
            a = (boxes[None, :, 0, axis] - start[:, None, axis]) * inverse[:, None, axis]
            b = (boxes[None, :, 1, axis] - start[:, None, axis]) * inverse[:, None, axis]
            # For a segment along a face, 0 × infinity is undefined: the other axes decide.
            np.fmax(near, np.fmin(a, b), out=near)
            np.fmin(far, np.fmax(a, b), out=far)
    rays, entered = np.nonzero(near <= far + _NOTHING)
    return rays, entered


def _met(triangles: Array, start: Array, way: Array) -> Array:
    """Return the share of the segment at the hit, for pairs of a triangle (P, 3, 3) and a ray; infinite without a hit.

    (P,) float64, share of the segment.
    """
    origin, one, other = triangles[:, 0], triangles[:, 1] - triangles[:, 0], triangles[:, 2] - triangles[:, 0]
    across = np.cross(way, other)
    volume = np.einsum("pi,pi->p", one, across)
    flat = np.abs(volume) < _NOTHING
    inverse = 1.0 / np.where(flat, 1.0, volume)
    off = start - origin
    u = np.einsum("pi,pi->p", off, across) * inverse
    turned = np.cross(off, one)
    v = np.einsum("pi,pi->p", way, turned) * inverse
    share = np.einsum("pi,pi->p", other, turned) * inverse
    inside = ~flat & (u >= 0.0) & (v >= 0.0) & (u + v <= 1.0) & (share > 0.0) & (share <= 1.0)
    return np.where(inside, share, np.inf)

"""Area of a picture past the edge of the set: below the horizon, beyond the ground."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.pose import Pose
from zittern.core.plates.border import rays_through
from zittern.core.plates.coverage import counting, covered
from zittern.core.plates.set_pieces import Piece, SetPieces, first_met
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, BoolArray

__all__ = ["FAR_M", "bare_strips", "looks_past", "places_px"]

# Angle to the horizon (degrees) within which even wide ground has ended; maximum distance (m) of the search.
_BELOW_DEG, FAR_M = 2.0, 2_000.0
# Columns and rows that are sampled per picture; number of bisections for the ends of a strip.
_STRIPS, _ROWS, _HALVINGS = 64, 18, 6


def places_px(shot: Shot, wide: int, high: int) -> Array:
    """Return a grid over the picture, its border included, row by row from below.

    Returns
    -------
    (N, 2) pixels right and up from the middle, N = wide * high.
    """
    across, up = np.meshgrid(np.linspace(-1.0, 1.0, wide), np.linspace(-1.0, 1.0, high))
    return np.stack([across.ravel(), up.ravel()], axis=1) * _half_px(shot)


def looks_past(shot: Shot, pieces: SetPieces, pose: Pose, frames: Array, at_px: Array) -> BoolArray:
    """Return the points of the picture whose downward rays hit no object of the set and no coverage plate.

    Parameters
    ----------
    pose: of the lens at F frames.
    frames : (F,) float64, frame numbers.
    at_px: (N, 2) pixels right and up from the middle.

    Returns
    -------
    (F, N) bool, True where a ray hits nothing.
    """
    rays = rays_through(shot, pose, at_px)
    rays /= np.linalg.norm(rays, axis=2)[:, :, None]
    down = rays[:, :, 1] < -np.sin(np.radians(_BELOW_DEG))
    frame, place = np.nonzero(down)
    start = pose.position_m[frame]
    seconds = shot.fps.seconds(frames, shot.first_frame)[frame]
    left = np.ones(len(frame), dtype=bool)
    # The ground is the largest: after it few are left.
    for piece in sorted(pieces.pieces, key=_size, reverse=True):
        if not left.any():
            break
        some = np.flatnonzero(left)
        stop = start[some] + FAR_M * rays[frame[some], place[some]]
        left[some] = ~np.isfinite(first_met(piece, start[some], stop, seconds[some]))
    bare: BoolArray = np.zeros(down.shape, dtype=bool)
    bare[frame[left], place[left]] = True
    if bare.any() and shot.plates:
        bare &= ~covered(shot, counting(shot), pose, shot.scope(frames), at_px)
    return bare


def bare_strips(shot: Shot, pieces: SetPieces, pose: Pose, frame: float) -> Array:
    """Return the area of one picture past the edge of the set, in vertical strips.

    Parameters
    ----------
    pose: of the lens at the frame alone.

    Returns
    -------
    (S, 4) left, top, right and bottom as shares of the picture, from its upper left corner.
    """
    across, up = np.linspace(0.0, 1.0, _STRIPS + 1), np.linspace(0.0, 1.0, _ROWS)
    middle = (across[:-1] + across[1:]) / 2.0

    def bare(column: Array, height: Array) -> BoolArray:
        at_px = np.stack([2.0 * column - 1.0, 2.0 * height - 1.0], axis=1) * _half_px(shot)
        return np.asarray(looks_past(shot, pieces, pose, np.array([frame]), at_px)[0])

    grid = bare(np.repeat(middle, _ROWS), np.tile(up, _STRIPS)).reshape(_STRIPS, _ROWS)
    # Changes along a column, between adjacent points.
    column, row = np.nonzero(grid[:, 1:] != grid[:, :-1])
    low, high, first = up[row], up[row + 1], grid[column, row]
    for _ in range(_HALVINGS if len(column) else 0):
        half = (low + high) / 2.0
        same = bare(middle[column], half) == first
        low, high = np.where(same, half, low), np.where(same, high, half)
    ends = (low + high) / 2.0
    strips = [
        (across[n], 1.0 - to, across[n + 1], 1.0 - since)
        for n in range(_STRIPS)
        for since, to in _stretches(grid[n], ends[column == n])
    ]
    return np.array(strips).reshape(-1, 4)


def _stretches(bare: BoolArray, ends: Array) -> list[tuple[float, float]]:
    """From below to above, of a column that changes at some heights."""
    edges = [0.0, *ends.tolist(), 1.0]
    return [(edges[n], edges[n + 1]) for n in range(0 if bare[0] else 1, len(edges) - 1, 2)]


def _half_px(shot: Shot) -> Array:
    return np.array([shot.picture.width_px, shot.picture.height_px]) / 2.0


def _size(piece: Piece) -> float:
    return float(np.prod(np.ptp(piece.boxes_m.reshape(-1, 3), axis=0)[[0, 2]]))

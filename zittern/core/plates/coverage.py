"""Gaps: the width of the area at each side of the picture without a plate."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.evaluate import Motion
from zittern.core.motion.move import bare_poses
from zittern.core.motion.picture import shift_px, tangents
from zittern.core.motion.pose import Pose
from zittern.core.numbers.scope import Scope
from zittern.core.optics.lens import focal_px
from zittern.core.plates.border import INWARD, border_px, rays_through
from zittern.core.plates.surface import along_m, covers
from zittern.core.rig import rotations
from zittern.core.rig.vectors import turned
from zittern.core.runtime import budget
from zittern.core.shot.plates import Plate
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, BoolArray, IntArray

__all__ = ["A_LOOK", "A_SIDE", "counting", "covered", "depths_m", "in_order", "uncovered_px"]

# Sampled points per side; fewer for interactive requests.
A_SIDE, A_LOOK = 33, 9
# A gap is searched at this many points inwards, and its end then bisected: to less than a hundredth of a pixel.
_STEPS, _HALVINGS = 27, 15
# Frames that are looked at together.
_PART_FRAMES = 512
_FEW_STEPS, _FEW_HALVINGS = 12, 5
# Steps with which the entry of a bent way is improved.
_IMPROVED = 2
# Ignore gaps thinner than this (px).
_LEAST_PX = 0.05
# Rounding errors along the picture, and along a plate.
_NEAR_PX, _ROUNDING_M = 1e-6, 1e-12


def depths_m(shot: Shot) -> dict[str, float]:
    """Return the distance of each plate from the bare lens at the first frame, along the axis of the lens.

    By id, the nearest first, meters.
    """
    if not shot.plates:
        return {}
    scope = shot.scope(float(shot.first_frame))
    lens = bare_poses(shot, scope)[0]
    away = {plate.id: float(-(plate.position_m(scope)[0] - lens[:3, 3]) @ lens[:3, 2]) for plate in shot.plates}
    return dict(sorted(away.items(), key=lambda row: row[1]))


def in_order(shot: Shot) -> tuple[Plate, ...]:
    """Plates by depth at the first frame, the nearest first."""
    by_id = {plate.id: plate for plate in shot.plates}
    return tuple(by_id[id_] for id_ in depths_m(shot))


def counting(shot: Shot) -> tuple[Plate, ...]:
    """Return the plates that must fill the frame together: the marked ones, and the rearmost of the others."""
    said = [plate for plate in shot.plates if plate.counts == "yes"]
    rest = [plate for plate in in_order(shot) if plate.counts == "when rearmost"]
    return (*said, *rest[-1:])


def covered(
    shot: Shot, plates: tuple[Plate, ...], pose: Pose, scope: Scope, at_px: Array, punch_in: float = 1.0
) -> BoolArray:
    """Return whether a plate is visible at points of the picture.

    Parameters
    ----------
    plates: those that count.
    pose, scope: at the same F frames.
    at_px: (F, N, 2) or (N, 2) pixels right and up from the middle.

    Returns
    -------
    (F, N) bool, True where the plate is visible.
    """
    rays = rays_through(shot, pose, at_px, punch_in)
    out = np.zeros(rays.shape[:2], dtype=bool)
    for plate in plates:
        budget.check()
        out |= covers(plate, along_m(plate, scope, pose.position_m, rays))
    return out


def uncovered_px(shot: Shot, motion: Motion, a_side: int = A_SIDE, fine: bool = True) -> Array:
    """Return the width of the gap at the left, right, lower and upper side.

    A point near a corner counts for the side with the smaller relative gap; gaps below the visible limit count as none.

    Parameters
    ----------
    a_side: number of points per side.
    fine: of plates that are curved or partly clear, to a hundredth of a pixel, else to some pixels; others always are.

    Returns
    -------
    (F, 4) pixels, in the order of border.SIDES.
    """
    out = np.zeros((len(motion.frames), 4))
    plates = counting(shot)
    if not plates:
        return out
    # A part at a time: memory does not grow with the length of the shot.
    for first in range(0, len(motion.frames), _PART_FRAMES):
        with budget.doing(lambda: "the edges of plates", "the number of plates that must fill the frame, or of frames"):
            part = slice(first, first + _PART_FRAMES)
            out[part] = _uncovered_px(shot, plates, motion.rows(first, first + _PART_FRAMES), a_side, fine)
    return out


def _uncovered_px(shot: Shot, plates: tuple[Plate, ...], motion: Motion, a_side: int, fine: bool) -> Array:
    out = np.zeros((len(motion.frames), 4))
    scope = shot.scope(motion.frames)
    places, ways = border_px(shot, a_side), np.repeat(INWARD[:, None, :], a_side, axis=1)
    deep = _gaps_px(shot, plates, motion.pose, scope, places, ways, fine)
    rows = np.flatnonzero((deep > 0.0).any(axis=(1, 2)))
    if not rows.size:
        return out
    pose, at, deep = motion.pose.rows_at(rows), scope.over(motion.frames[rows]), deep[rows]
    # From the same places along the other direction, towards the middle; and straight to the middle.
    sideways = np.where(ways[..., ::-1] != 0.0, -np.sign(places), 0.0)
    aside = _gaps_px(shot, plates, pose, at, places, sideways, fine)
    to_middle = -places / np.linalg.norm(places, axis=2, keepdims=True)
    slanted = _gaps_px(shot, plates, pose, at, places, to_middle, fine) * np.abs(np.sum(to_middle * ways, axis=2))
    wide, tall = shot.picture.width_px, shot.picture.height_px
    through = np.array([wide, wide, tall, tall], dtype=np.float64)[:, None]
    # A point whose row or column is in the gap of another side is measured towards the center.
    mine = deep / through <= aside / through[::-1]
    bare = np.max(np.where(mine, np.minimum(deep, slanted), 0.0), axis=2)
    out[rows] = np.where(bare > _LEAST_PX, bare, 0.0)
    return out


def _gaps_px(
    shot: Shot, plates: tuple[Plate, ...], pose: Pose, scope: Scope, places: Array, ways: Array, fine: bool
) -> Array:
    """Return the distance from points along directions, (4, N, 2) both, to the first plate, up to the other side.

    (F, 4, N) pixels.
    """
    flat, along = places.reshape(-1, 2), ways.reshape(-1, 2)
    far = np.abs(along) @ np.array([float(shot.picture.width_px), float(shot.picture.height_px)])
    out = np.broadcast_to(far, (len(scope.frames), len(far)))
    # Straight lines in the picture are straight on a plate only without distortion.
    bent = bool(np.any(pose.distortion))
    plain = [plate for plate in plates if plate.shape == "flat" and plate.mask is None]
    for plate in plain:
        entries = _bent_entries_px if bent else _entries_px
        out = np.minimum(out, entries(shot, pose, scope, plate, flat, along, far))
    if len(plain) < len(plates):
        out = np.minimum(out, _looked_for_px(shot, plates, pose, scope, flat, along, far, fine))
    return np.asarray(out.reshape(len(scope.frames), 4, -1))


def _entries_px(shot: Shot, pose: Pose, scope: Scope, plate: Plate, places: Array, ways: Array, far: Array) -> Array:
    """Return the distance to a flat plate along directions in the picture, infinite without a hit: in closed form.

    Returns
    -------
    (F, N) pixels along each way.
    """
    f_px = focal_px(pose.focal_mm, shot.sensor_mm, shot.picture.width_px)[:, None, None]
    start = (places - shift_px(shot, pose)[:, None, :]) / f_px
    return _entries(pose, scope, plate, start, np.broadcast_to(ways / f_px, start.shape))


def _bent_entries_px(
    shot: Shot, pose: Pose, scope: Scope, plate: Plate, places: Array, ways: Array, far: Array
) -> Array:
    """Return the distances through a distorting lens.

    A flat plate is seen where five functions that are linear in the tangents are positive. Along a distorted direction
    each is nearly a parabola through three points; its zero is then improved by Newton's method.

    Returns
    -------
    (F, N) pixels along each way; the whole way where the plate is not met.
    """
    sides, still = _sides(pose, scope, plate), _keeps_its_lens(pose)
    everywhere = np.arange(len(scope.frames))

    def flat(rows: IntArray, at_px: Array) -> Array:
        """Tangents at places (R, M, 2), or (1, M, 2) for all frames. (R or 1, M, 2)."""
        return tangents(shot, pose.rows_at(rows[:1] if still and len(at_px) == 1 else rows), at_px)

    def values(rows: IntArray, tangents: Array) -> Array:
        """Return the five functions. (R, 5, M)."""
        some = sides[rows]
        return np.asarray(some[..., :2] @ np.swapaxes(tangents, 1, 2) + some[..., 2:])

    at_start = values(everywhere, flat(everywhere, places[None]))
    bare = at_start.min(axis=1) < 0.0
    out = np.zeros(bare.shape)
    rows, columns = np.flatnonzero(bare.any(axis=1)), np.flatnonzero(bare.any(axis=0))
    if not rows.size:
        return out
    start, way, end = places[columns], ways[columns], far[columns]
    first = at_start[rows][..., columns]
    half, last = (values(rows, flat(rows, (start + share * end[:, None] * way)[None])) for share in (0.5, 1.0))
    # A function that is never negative bounds nothing; a plate is usually in front of the lens.
    bounds = [n for n in range(first.shape[1]) if min(each[:, n].min() for each in (first, half, last)) < 0.0]
    first, half, last = (each[:, bounds] for each in (first, half, last))
    low, which, slope, met = _begins(first, half, last)
    mine = np.take_along_axis(sides[rows][:, bounds], which[..., None], axis=1)
    for _ in range(_IMPROVED):
        at = flat(rows, start + (low * end)[..., None] * way)
        off = mine[..., 0] * at[..., 0] + mine[..., 1] * at[..., 1] + mine[..., 2]
        with np.errstate(divide="ignore", invalid="ignore"):
            step = off / slope
        low = np.clip(low - np.where(np.isfinite(step), step, 0.0), 0.0, 1.0)
    out[np.ix_(rows, columns)] = np.where(bare[np.ix_(rows, columns)], np.where(met, low, 1.0) * end, 0.0)
    return out


def _begins(first: Array, half: Array, last: Array) -> tuple[Array, IntArray, Array, BoolArray]:
    """Return the shares of ways at which functions are all positive for the first time.

    By their values at both ends and in the middle, (F, 1 to 5, N), on a parabola between them. Share, index of the
    function that becomes positive there, its slope per share, and true where there is a zero: (F, N).
    """
    bend, rise = 2.0 * (first + last) - 4.0 * half, 4.0 * half - 3.0 * first - last
    # A parabola that changes its sign has one zero between the ends: that with the slope of this sign.
    slope = np.copysign(np.sqrt(np.maximum(rise * rise - 4.0 * first * bend, 0.0)), -first)
    with np.errstate(divide="ignore", invalid="ignore"):
        zero = -2.0 * first / (rise + slope)
    before, after = first < 0.0, last < 0.0
    lows = np.where(before, np.where(after, np.inf, zero), 0.0)
    which = np.argmax(lows, axis=1)
    low, high = lows.max(axis=1), np.where(after > before, zero, 1.0).min(axis=1)
    return np.minimum(low, 1.0), which, np.take_along_axis(slope, which[:, None], axis=1)[:, 0], low <= high


def _keeps_its_lens(pose: Pose) -> bool:
    """Return whether focal length, shift and distortion are constant."""
    return all(bool(np.all(each == each[:1])) for each in (pose.focal_mm, pose.shift_percent, pose.distortion))


def _sides(pose: Pose, scope: Scope, plate: Plate) -> Array:
    """Functions of a tangent (x, y, 1) that are all positive where a flat plate is seen.

    In front of the lens, and within its four sides. (F, 5, 3).
    """
    turn = np.swapaxes(rotations.matrices(plate.angles_deg(scope)), 1, 2)
    ray = turn @ rotations.matrices(pose.angles_deg) * (1.0, 1.0, -1.0)
    o = np.einsum("fij,fj->fi", turn, pose.position_m - plate.position_m(scope))
    s = np.where(o[:, 2:] >= 0.0, 1.0, -1.0)
    ahead = -s * ray[:, 2]
    out = [ahead]
    for axis, reach in enumerate(plate.reach_m):
        place = s * (o[:, 2:] * ray[:, axis] - o[:, axis, None] * ray[:, 2])
        out += [reach * ahead - place, reach * ahead + place]
    return np.stack(out, axis=1)


def _entries(pose: Pose, scope: Scope, plate: Plate, start: Array, along: Array) -> Array:
    """Return the distance to a flat plate along lines of tangents, infinite without a hit.

    A ray through p + t w is d + t e in the plate's own frame, from o. It meets the plate's plane where q = -s d_z is
    positive, s the sign of o_z, at u = s (o_z d_x - o_x d_z) / q; |u| <= half the width and the same of v are linear in
    t, so each gives a range of t.

    Parameters
    ----------
    start, along: (F, N, 2) tangents, and tangents per step of t.

    Returns
    -------
    (F, N) smallest t from 0 on.
    """
    turn = np.swapaxes(rotations.matrices(plate.angles_deg(scope)), 1, 2)
    lens = turn @ rotations.matrices(pose.angles_deg)
    o = np.einsum("fij,fj->fi", turn, pose.position_m - plate.position_m(scope))
    d = turned(lens[:, :, :2], start) - lens[:, None, :, 2]
    e = turned(lens[:, :, :2], along)
    s = np.where(o[:, 2] >= 0.0, 1.0, -1.0)[:, None]
    low, high = np.zeros(d.shape[:2]), np.full(d.shape[:2], np.inf)

    def met(at: Array) -> Array:
        return -s * at[..., 2]

    def holds(a: Array, b: Array) -> None:
        """Return whether a + t b >= 0."""
        nonlocal low, high
        with np.errstate(divide="ignore", invalid="ignore"):
            edge = -a / b
        never = (b == 0.0) & (a < -_ROUNDING_M)
        low = np.where(b > 0.0, np.maximum(low, edge), np.where(never, np.inf, low))
        high = np.where(b < 0.0, np.minimum(high, edge), high)

    holds(met(d), met(e))
    for axis, reach in enumerate(plate.reach_m):

        def place(at: Array, axis: int = axis) -> Array:
            return np.asarray(s * (o[:, None, 2] * at[..., axis] - o[:, None, axis] * at[..., 2]))

        for sign in (1.0, -1.0):
            holds(reach * met(d) - sign * place(d), reach * met(e) - sign * place(e))
    low = np.where(low < _NEAR_PX, 0.0, low)
    return np.asarray(np.where(low <= high + _NEAR_PX, low, np.inf))


def _looked_for_px(
    shot: Shot, plates: tuple[Plate, ...], pose: Pose, scope: Scope, places: Array, ways: Array, far: Array, fine: bool
) -> Array:
    """Return the distances to plates of any shape, by sampling.

    Only frames and points with a gap are searched further inwards. (F, N) pixels.
    """
    bare = ~covered(shot, plates, pose, scope, places)
    out = np.zeros(bare.shape)
    rows, columns = np.flatnonzero(bare.any(axis=1)), np.flatnonzero(bare.any(axis=0))
    if rows.size:
        at = scope.over(scope.frames[rows])
        inwards = places[columns], ways[columns], far[columns]
        found = _inwards_px(shot, plates, pose.rows_at(rows), at, *inwards, fine)
        out[np.ix_(rows, columns)] = np.where(bare[np.ix_(rows, columns)], found, 0.0)
    return out


def _inwards_px(
    shot: Shot, plates: tuple[Plate, ...], pose: Pose, scope: Scope, places: Array, ways: Array, far: Array, fine: bool
) -> Array:
    """Return the distance from uncovered points along directions to the first plate. (F, N) pixels."""
    count, halvings = (_STEPS, _HALVINGS) if fine else (_FEW_STEPS, _FEW_HALVINGS)
    steps = np.concatenate([[0.0], np.geomspace(1.0 / 1024.0, 1.0, count)])
    tried = places[:, None, :] + (steps[None, 1:] * far[:, None])[..., None] * ways[:, None, :]
    seen = covered(shot, plates, pose, scope, tried.reshape(-1, 2))
    seen = seen.reshape(len(scope.frames), len(places), count)
    first = np.where(seen.any(axis=2), np.argmax(seen, axis=2) + 1, count)
    low, high = steps[first - 1] * far, steps[first] * far
    for _ in range(halvings):
        middle = 0.5 * (low + high)
        there = covered(shot, plates, pose, scope, places[None] + middle[..., None] * ways[None])
        low, high = np.where(there, low, middle), np.where(there, middle, high)
    return np.asarray(high)

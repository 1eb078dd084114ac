"""A picture past the edge of the set: below the horizon, beyond the ground."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.pose import Pose
from zittern.core.plates.needs import calmed
from zittern.core.plates.past_set import FAR_M, looks_past, places_px
from zittern.core.plates.set_pieces import first_met
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, BoolArray, IntArray

__all__ = ["LEAST_SWINGS", "set_edge"]

# Sampled frames, and sample points right and up, border included: first a few, and after a hit all.
_FEW, _ALL = (24, 13, 9), (48, 25, 15)
# Frames that are sampled to find the range.
_MOST_LOOKED = 240
# Less of the picture than this (share) is a crack. The set has ground if it is below the lens in this share of the
# frames.
_LEAST_SHARE, _GROUND_SHARE = 0.005, 0.5
# A shake is calmed by no more than this before another way is offered first, here to a step.
LEAST_SWINGS = 0.5
_SWING_STEP = 0.01


def set_edge(study: Study) -> Iterator[Finding]:
    """Find up to one problem: the frames where the largest part of the picture is empty, or a set that cannot be read.

    A set that has no ground under the lens has no edge.
    """
    if study.set_pieces.fault:
        yield Finding(
            check="coverage",
            weight=True,
            at="shot.set_id",
            frames=study.shot.span,
            amount=1.0,
            unit="",
            says=f"the set cannot be checked: {study.set_pieces.fault}",
        )
    if not study.set_pieces.pieces or study.set_pieces.left_out:
        return
    if not _looked(study, _FEW)[1].any() or not _grounded(study):
        return
    rows, bare = _looked(study, _ALL)
    share = bare.mean(axis=1)
    found = share > _LEAST_SHARE
    if not found.any():
        return
    worst = int(np.argmax(share))
    shows = _stretches(study, rows, found)
    yield Finding(
        check="coverage",
        weight=True,
        at="shot.set_id",
        frames=(shows[0][0], shows[-1][1]),
        stretches=shows,
        amount=float(share[worst] * 100.0),
        unit="% of the picture",
        says=f"the picture looks past the edge of the set, mostly {_side(bare[worst])}: {share[worst]:.1%} of it "
        f"is bare at frame {study.frames[rows[worst]]:g}",
        fix=_calmer(study, study.frames[rows[found]]),
    )


def _looked(study: Study, looks: tuple[int, int, int]) -> tuple[IntArray, BoolArray]:
    """Return rows among the frames, and the result of `_bare` for them."""
    count, across, up = looks
    rows = _rows(study, count)
    return rows, _bare(study, study.shot, study.motion.pose.rows_at(rows), study.frames[rows], across, up)


def _rows(study: Study, count: int) -> IntArray:
    """Return this many rows, spread over the frames."""
    return np.unique(np.linspace(0, len(study.frames) - 1, count).astype(np.int64))


def _stretches(study: Study, rows: IntArray, found: BoolArray) -> tuple[tuple[float, float], ...]:
    """Return first and last frame of each range in which the edge shows.

    Additional frames between the found ones and their neighbors, within the time limit.
    """
    near = np.zeros(len(study.frames), dtype=bool)
    for n in np.flatnonzero(found).tolist():
        near[rows[max(0, n - 1)] : rows[min(n + 1, len(rows) - 1)] + 1] = True
    step = max(1, -(-int(near.sum()) // _MOST_LOOKED))
    looked = np.flatnonzero(near)[::step]
    _, across, up = _FEW
    shown = _bare(study, study.shot, study.motion.pose.rows_at(looked), study.frames[looked], across, up).any(axis=1)
    # Earlier findings stay, even where these few points miss them.
    shown |= np.isin(looked, rows[found])
    at = np.union1d(looked[shown], rows[found])
    parts = np.split(at, (np.flatnonzero(np.diff(at) > step) + 1).tolist())
    return tuple((float(study.frames[part[0]]), float(study.frames[part[-1]])) for part in parts)


def _grounded(study: Study) -> bool:
    """Return whether an object of the set is below the lens most of the time."""
    rows = _rows(study, _FEW[0])
    start = study.motion.pose.position_m[rows]
    under = np.zeros(len(rows), dtype=bool)
    for piece in study.set_pieces.pieces:
        met = first_met(piece, start, start - (0.0, FAR_M, 0.0), study.set_seconds[rows])
        under |= np.isfinite(met)
    return bool(under.mean() >= _GROUND_SHARE)


def _bare(study: Study, shot: Shot, pose: Pose, frames: Array, wide: int, high: int) -> BoolArray:
    """Return the points of the picture whose downward rays hit nothing. (F, N)."""
    return looks_past(shot, study.set_pieces, pose, frames, places_px(shot, wide, high))


def _side(bare: BoolArray) -> str:
    """Return the side with the largest part."""
    _, across, up = _ALL
    grid = bare.reshape(up, across)
    third = across // 3
    left, right = grid[:, :third].sum(), grid[:, -third:].sum()
    if max(left, right) > 0.5 * grid.sum():
        return "on the left" if left > right else "on the right"
    return "at the bottom" if grid[: up // 3].sum() > 0.5 * grid.sum() else "ahead"


def _calmer(study: Study, frames: Array) -> Fix | None:
    """Return the largest swings without a gap; None where they would be too small."""

    def fills(scaled: Shot) -> bool:
        bare = _bare(study, scaled, evaluate(scaled, frames, study.cache).pose, frames, *_ALL[1:])
        return bool(bare.mean(axis=1).max() <= _LEAST_SHARE)

    need = calmed(study.shot, fills, _SWING_STEP)
    return None if need is None or need.amount < LEAST_SWINGS else Fix(says=need.says, command=need.command)

"""A shake that visibly repeats itself."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.units import Array

__all__ = ["period_frames", "repeats"]

# Periods with this correlation look the same; shorter ones (s) are a rhythm, not a repetition.
_ALIKE, _LEAST_S = 0.985, 0.6
_LEAST_PX = 2.0
# Number of repetitions before they are noticed.
_ROUNDS = 2.5


def repeats(study: Study) -> Iterator[Finding]:
    """Find up to one repetition of the sum of all layers. What is loops on purpose: no weight."""
    fps = study.shot.fps.value
    if study.thinned or len(study.frames) < _ROUNDS * _LEAST_S * fps:
        return
    moved = study.sum_px - study.sum_px.mean(axis=0)
    if 2.0 * np.sqrt(np.mean(np.sum(moved * moved, axis=1))) < _LEAST_PX:
        return
    period = period_frames(moved, round(_LEAST_S * fps))
    if period is None:
        return
    looped = [
        f"layer:{layer.id}.source.loop"
        for _, layer in study.layers
        if layer.id in study.counted and getattr(layer.source, "loop", False) is True
    ]
    fix = (
        Fix(says="do not loop them", command=SetValues(values=tuple(Assignment(at=at, value=False) for at in looped)))
        if looped and not study.shot.loops
        else None
    )
    yield Finding(
        check="repeats",
        weight=False,
        at=None,
        frames=(float(study.frames[0]), float(study.frames[-1])),
        amount=float(period) / fps,
        unit="s",
        says=f"the shake repeats every {period / fps:.1f} s",
        fix=fix,
    )


def period_frames(moved: Array, least: int) -> int | None:
    """Return the shortest period of the motion over the whole shot.

    Parameters
    ----------
    moved: (F, n) of mean 0.

    Returns
    -------
    Frames; none when it never is.
    """
    count = len(moved)
    for lag in range(max(least, 1), int(count / _ROUNDS) + 1):
        one, other = moved[:-lag], moved[lag:]
        size = np.sqrt(np.sum(one * one) * np.sum(other * other))
        if size > 0.0 and np.sum(one * other) / size > _ALIKE and _turns(moved[: lag + 1]):
            return lag
    return None


def _turns(moved: Array) -> bool:
    """Return whether there is motion within a period, not only slow drift: it leaves its start and returns."""
    away = np.linalg.norm(moved - moved[0], axis=1)
    return bool(np.max(away) > 4.0 * away[-1])

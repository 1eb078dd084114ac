"""Facts of the bare path, by name, at any frames.

`speed` along the path (m/s), `height` (m), and of the subject `distance` (m) and `bearing` (degrees to the left of
where the camera looks); without a subject these two are 0. And the shot's moments.
"""

from __future__ import annotations

import weakref
from collections.abc import Callable, Mapping
from dataclasses import replace
from functools import partial
from zlib import crc32

import numpy as np

from zittern.core.motion import chain
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.move import bare_parts, bare_places, bare_poses
from zittern.core.motion.targets import cue_places_m
from zittern.core.numbers.envelope import shape_of
from zittern.core.numbers.scope import Scope
from zittern.core.rig.vectors import lengths
from zittern.core.runtime import budget
from zittern.core.shot.reads import numbers_in
from zittern.core.shot.shot import Shot
from zittern.core.shot.targets import needs_subject
from zittern.core.sources.source import CUE_NAMES, CUES, SETTLED_SPEED, Moments
from zittern.core.units import Array

__all__ = ["FACTS", "moments", "parts_of_fact", "scope_at", "with_facts"]

# Half the stretch over which speed is taken, in seconds: short against a step, long against the rounding of positions.
_HALF_S = 0.005
# A step of the speed by more than both of these (m/s, share of the faster speed) is a jump; motion that follows the
# path fades over this time on its slower side.
_LEAST_JUMP_M_S, _LEAST_JUMP_SHARE, _SETTLES_S = 0.05, 0.25, 0.8


def moments(run: Evaluation) -> Moments:
    """Return the shot's cues, with the vector from each position to the bare lens at its frame."""
    cues = run.shot.cues
    frames = np.array([cue.frame for cue in cues])
    away = np.zeros((len(cues), 3))
    places = cue_places_m(run.shot, run.scope)
    placed = np.isfinite(places[:, 0])
    if np.any(placed):
        pose = bare_poses(run.shot, run.scope.over(frames[placed]))
        way = pose[:, :3, 3] - places[placed]
        away[placed] = np.einsum("cij,ci->cj", pose[:, :3, :3], way) * (1.0, 1.0, -1.0)
    numbers = np.array([crc32(cue.id.encode()) for cue in cues], dtype=np.int64)
    return Moments(frames, tuple(cue.name for cue in cues), np.array([cue.strength for cue in cues]), numbers, away)


def with_facts(run: Evaluation) -> None:
    """Add the path attributes to the evaluation's scope; they are computed when read."""
    run.facts |= {name: partial(_print_of_fact, name) for name in FACTS}
    run.facts |= {CUES: _print_of_cues, CUE_NAMES: lambda run: repr([cue.name for cue in run.shot.cues])}
    facts = {name: _remembered(run, name, fact) for name, fact in FACTS.items()}
    run.scope = replace(run.scope, values={**run.scope.values, **facts})


def _print_of_fact(name: str, run: Evaluation) -> str:
    return run.print_of(parts_of_fact(name, run.shot))


def _print_of_cues(run: Evaluation) -> str:
    cues = run.shot.cues
    if not any(cue.placed for cue in cues):
        return run.shot.cues_key
    at_subject = any(cue.on is not None and needs_subject(cue.on) for cue in cues)
    return run.shot.cues_key + run.print_of((*bare_parts(run.shot), run.shot.subject if at_subject else None))


def _to_subject_parts(shot: Shot) -> tuple[Part, ...]:
    return (*_placing_parts(shot), shot.subject)


def _bearing_parts(shot: Shot) -> tuple[Part, ...]:
    return (*bare_parts(shot), shot.subject)


def _placing_parts(shot: Shot) -> tuple[Part, ...]:
    """Return the parts that determine the position of the lens.

    Without mounts at its end that only turn it, and without the angles of the last one.
    """
    still = chain.held_mounts(shot)
    mounts = [(mount.bare, mount.id in still) for mount in shot.mounts]
    while len(mounts) > 1 and mounts[-1][0].only_turns:
        mounts.pop()
    mounts[-1] = (mounts[-1][0].unturned, mounts[-1][1])
    return tuple(mounts)


def parts_of_fact(name: str, shot: Shot) -> tuple[Part, ...]:
    """Return the inputs of a path attribute."""
    return _DEPENDS_ON[name](shot)


def scope_at(shot: Shot, frames: Array | float) -> Scope:
    """Return the scope of a shot's numbers, path attributes included.

    Parameters
    ----------
    frames: (F,), or one frame.

    Returns
    -------
    The scope at these frames.
    """
    bare = shot.scope(frames)
    return replace(bare, values={**bare.values, **{name: _fact_of(shot, bare, fact) for name, fact in FACTS.items()}})


def _fact_of(shot: Shot, bare: Scope, fact: Callable[[Shot, Scope], Array]) -> Callable[[Array], Array]:
    return lambda frames: fact(shot, bare.over(frames))


def _remembered(run: Evaluation, name: str, fact: Callable[[Shot, Scope], Array]) -> Callable[[Array], Array]:
    """Return a path attribute at any frames.

    It does not hold on to the evaluation that it is for: a ring of references would keep all arrays alive.
    """
    shot, bare, asked = run.shot, run.scope, weakref.ref(run)

    def at(frames: Array) -> Array:
        run = asked()
        if run is None:
            return fact(shot, bare.over(frames))
        return run.lookup("fact", (name, run.print_behind(name)))(frames, lambda: fact(shot, bare.over(frames)))

    return at


def _speed(shot: Shot, scope: Scope) -> Array:
    """Return the speed along the path; at a jump of the path itself, the speed before and after the jump."""
    speed, jumps = _raw_speed(shot, scope), _speed_jumps(shot, scope)
    at, before, after, _ = jumps[:, jumps[3] > 0.0]
    if not len(at):
        return speed
    half = _HALF_S * scope.fps.value
    last = np.maximum(np.searchsorted(at, scope.frames + half, side="right") - 1, 0)
    share = (scope.frames - at[last] + half) / (2.0 * half)
    return np.where((share >= 0.0) & (share <= 1.0), before[last] + (after - before)[last] * share, speed)


def _raw_speed(shot: Shot, scope: Scope) -> Array:
    half, first, last = _HALF_S * scope.fps.value, shot.first_frame, shot.last_frame
    # At an end of the shot the camera keeps its speed, although no later key exists.
    start = np.where(scope.frames >= first, np.maximum(scope.frames - half, first), scope.frames - half)
    stop = np.where(scope.frames <= last, np.minimum(scope.frames + half, last), scope.frames + half)
    both = bare_places(shot, scope.over(np.concatenate([stop, start])))
    way = both[: len(stop)] - both[len(stop) :]
    seconds = np.maximum(stop - start, half) / scope.fps.value
    return np.asarray(lengths(way) / seconds, dtype=np.float64)


def _settled_speed(shot: Shot, scope: Scope) -> Array:
    """Return the speed, with each of its jumps turned into a fade over the slower side.

    A walker who stops settles, and one who starts has already begun to move.
    """
    speed = _speed(shot, scope)
    settling, half = _SETTLES_S * scope.fps.value, _HALF_S * scope.fps.value
    order = np.argsort(scope.frames, kind="stable")
    rising, out = scope.frames[order], speed[order]
    for at, before, after, _ in _speed_jumps(shot, scope).T.tolist():
        budget.check()
        stops = before > after
        low, high = (at - half, at + settling) if stops else (at - settling, at + half)
        rows = slice(*np.searchsorted(rising, [low, high]))
        away = (rising[rows] - at) * (1.0 if stops else -1.0) / settling
        faster = max(before, after) * (1.0 - shape_of("smooth", np.clip(away, 0.0, 1.0)))
        out[rows] = np.maximum(out[rows], faster)
    back = np.empty_like(out)
    back[order] = out
    return back


def _speed_jumps(shot: Shot, scope: Scope) -> Array:
    """Return jumps of the speed and the path, (4, J): frames, speeds before and after, 1 for jumps of the path."""
    parts = [mount.bare for mount in shot.mounts]
    return scope.table("speed jumps", (*sorted(chain.held_mounts(shot)), *parts), lambda: _found_jumps(shot, scope))


def _found_jumps(shot: Shot, scope: Scope) -> Array:
    numbers = [number for mount in shot.mounts for number in numbers_in(mount)]
    span = shot.span
    leaps = np.concatenate([np.empty(0), *(number.jumps(span)[:, 1] for number in numbers)])
    at = np.unique(np.concatenate([leaps, *(number.breaks for number in numbers)]))
    at = at[(at > span[0]) & (at < span[1])]
    beside = 1.5 * _HALF_S * scope.fps.value
    before, middle, after = np.split(_raw_speed(shot, scope.over(np.concatenate([at - beside, at, at + beside]))), 3)
    faster = np.maximum(before, after)
    least = np.maximum(_LEAST_JUMP_M_S, _LEAST_JUMP_SHARE * faster)
    leap = np.isin(at, leaps) & (middle > faster + least)
    jumps = (np.abs(after - before) > least) | leap
    return np.stack([at, before, after, leap])[:, jumps]


def _height(shot: Shot, scope: Scope) -> Array:
    return bare_places(shot, scope)[:, 1].copy()


def _to_subject(shot: Shot, scope: Scope) -> Array:
    """From the lens to the subject in the camera's own frame. (F, 3) metres."""
    subject = shot.subject
    if subject is None:
        return np.zeros((len(scope.frames), 3))
    pose = bare_poses(shot, scope)
    return np.asarray(
        np.einsum("fij,fi->fj", pose[:, :3, :3], subject.position_m(scope) - pose[:, :3, 3]), dtype=np.float64
    )


def _distance(shot: Shot, scope: Scope) -> Array:
    return lengths(_to_subject(shot, scope))


def _bearing(shot: Shot, scope: Scope) -> Array:
    if shot.subject is None:
        return np.zeros(len(scope.frames))
    away = _to_subject(shot, scope)
    return np.degrees(np.arctan2(-away[:, 0], -away[:, 2]))


FACTS: Mapping[str, Callable[[Shot, Scope], Array]] = {
    "speed": _speed,
    SETTLED_SPEED: _settled_speed,
    "height": _height,
    "distance": _distance,
    "bearing": _bearing,
}
# Inputs of each of them.
_DEPENDS_ON: Mapping[str, Callable[[Shot], tuple[Part, ...]]] = {
    "speed": _placing_parts, SETTLED_SPEED: _placing_parts, "height": _placing_parts,
    "distance": _to_subject_parts, "bearing": _bearing_parts,
}  # fmt: skip

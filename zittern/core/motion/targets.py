"""Position of a target of an operator, the hold or a cue.

The subject, an object of the set, a mount, a point, the midpoint of two. The target may change at given frames.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from zittern.core.motion.move import bare_behind
from zittern.core.numbers.scope import Scope
from zittern.core.shot.cues import Cue
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.shot import Shot
from zittern.core.shot.targets import MiddleTarget, MountTarget, PointTarget, SubjectTarget, Target, needs_subject
from zittern.core.units import Array

__all__ = ["cue_places_m", "followable", "gliding_m", "name_of", "position_m"]

# The hold changes from one target to the next with the reaction time and duration of a person.
REACTION_S, GLIDE_S = 0.25, 1.0


def followable(shot: Shot, framing: Operator | HoldFraming) -> bool:
    """Return whether all targets exist."""
    return shot.subject is not None or not framing.needs_subject


def name_of(shot: Shot, target: Target) -> str:
    """Return its display name."""
    if isinstance(target, PointTarget):
        return target.name
    if isinstance(target, MountTarget):
        return next((mount.name for mount in shot.mounts if mount.id == target.mount), target.mount)
    if isinstance(target, MiddleTarget):
        return f"{name_of(shot, target.one)} and {name_of(shot, target.other)}"
    return shot.subject.name if shot.subject is not None else "the subject"


def position_m(shot: Shot, framing: Operator | HoldFraming, scope: Scope, when: Array | None = None) -> Array:
    """Return the position of the target.

    Parameters
    ----------
    scope: its frames (F,).
    when: (F,) frames that select the target, for a look ahead along its path; those of the scope by default.

    Returns
    -------
    (F, 3) meters in the world; it jumps at a change of target.
    """
    out = _position_m(shot, framing.target, scope)
    for change in framing.in_order():
        later = (scope.frames if when is None else when) >= change.frame
        if np.any(later):
            out = np.where(later[:, None], _position_m(shot, change.target, scope), out)
    return out


def gliding_m(shot: Shot, framing: Operator | HoldFraming, scope: Scope) -> Array:
    """Return the position without jumps: from one target to the next along s³(6s² - 15s + 10).

    Returns
    -------
    (F, 3) metres in the world.
    """
    out = _position_m(shot, framing.target, scope)
    for change in framing.in_order():
        began = change.frame + REACTION_S * scope.fps.value
        s = np.clip((scope.frames - began) / (GLIDE_S * scope.fps.value), 0.0, 1.0)
        if np.any(s > 0.0):
            share = (s * s * s * (s * (6.0 * s - 15.0) + 10.0))[:, None]
            out = out + share * (_position_m(shot, change.target, scope) - out)
    return out


def cue_places_m(shot: Shot, scope: Scope, cues: Sequence[Cue] | None = None) -> Array:
    """Return the position of each cue of a shot, or of each of some, at its own frame.

    Nan without a position, or where its subject is missing.

    Parameters
    ----------
    scope: of any frames.

    Returns
    -------
    (C, 3) metres in the world.
    """
    cues = shot.cues if cues is None else cues
    out = np.full((len(cues), 3), np.nan)
    at: dict[str, tuple[Target, list[int]]] = {}
    for n, cue in enumerate(cues):
        if cue.place_m is not None:
            out[n] = cue.place_m
        elif cue.on is not None and not (shot.subject is None and needs_subject(cue.on)):
            at.setdefault(cue.on.fingerprint, (cue.on, []))[1].append(n)
    for target, rows in at.values():
        frames = np.array([cues[n].frame for n in rows])
        out[rows] = _position_m(shot, target, scope.over(frames))
    return out


def _position_m(shot: Shot, target: Target, scope: Scope) -> Array:
    if isinstance(target, MiddleTarget):
        return 0.5 * (_position_m(shot, target.one, scope) + _position_m(shot, target.other, scope))
    if isinstance(target, PointTarget):
        return np.stack([each.sample(scope) for each in (target.x_m, target.y_m, target.z_m)], axis=1)
    if isinstance(target, MountTarget):
        return _mount_m(shot, target.mount, scope)
    assert isinstance(target, SubjectTarget) and shot.subject is not None, "only what is there is followed"
    return shot.subject.position_m(scope)


def _mount_m(shot: Shot, mount: str, scope: Scope) -> Array:
    """Return the pose of the bare rig after a mount. (F, 3) metres."""
    at = next(n for n, each in enumerate(shot.mounts) if each.id == mount)
    return np.asarray(bare_behind(shot, scope, shot.mounts[: at + 1])[:, :3, 3])

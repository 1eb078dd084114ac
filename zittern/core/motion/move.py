"""Stage: the move. Reads the mounts' keyed numbers; gives their poses, the bare pose of the lens, and the facts of its path.

Facts, by name, at any frames: `speed` along the path (m/s), `height` (m), and of the subject `distance` (m) and `bearing` (degrees to the
left of where the camera looks); without a subject these two are 0.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace

import numpy as np

from zittern.core.motion.run import Run
from zittern.core.numbers.scope import Scope
from zittern.core.rig import chain
from zittern.core.units import Array

__all__ = ["FACTS", "bare_poses", "local_poses", "with_facts"]

# Half the stretch over which speed is taken, in seconds: short against a step, long against the rounding of positions.
_HALF_S = 0.005


def local_poses(run: Run) -> dict[str, Array]:
    """Keyed pose of each mount in its parent, by id. (F, 4, 4)."""
    return {mount.id: run.kept("mount", (mount,), lambda m=mount: chain.local_pose(m, run.scope)) for mount in run.shot.mounts}  # type: ignore[misc]


def bare_poses(run: Run, scope: Scope) -> Array:
    """tf_world_lens without any layer, at the frames of a scope. (F, 4, 4)."""
    return chain.lens_pose(run.shot.mounts, {mount.id: chain.local_pose(mount, scope) for mount in run.shot.mounts}, {})


def with_facts(run: Run) -> None:
    """Puts the facts of the path into the run's scope; they are worked out when somebody reads them."""
    subject = run.shot.subject
    made_from = [*run.shot.mounts, *([subject] if subject else [])]
    run.facts_key = "".join(str(run.key_of(part)) for part in made_from)
    bare = run.scope
    run.scope = replace(bare, values={**bare.values, **{name: _remembered(run, name, fact, bare) for name, fact in FACTS.items()}})


def _remembered(run: Run, name: str, fact: Callable[[Run, Scope], Array], bare: Scope) -> Callable[[Array], Array]:
    def value(frames: Array) -> Array:
        return run.cache.get(("fact", name, run.facts_key, *run.base[1:], frames.tobytes()), lambda: fact(run, bare.over(frames)))

    return value


def _speed(run: Run, scope: Scope) -> Array:
    half, (first, last) = _HALF_S * scope.fps.value, run.span
    # At an end of the shot the camera does not stand still just because nobody has keyed what comes next.
    start = np.where(scope.frames >= first, np.maximum(scope.frames - half, first), scope.frames - half)
    stop = np.where(scope.frames <= last, np.minimum(scope.frames + half, last), scope.frames + half)
    way = bare_poses(run, scope.over(stop))[:, :3, 3] - bare_poses(run, scope.over(start))[:, :3, 3]
    seconds = np.maximum(stop - start, half) / scope.fps.value
    return np.asarray(np.linalg.norm(way, axis=1) / seconds, dtype=np.float64)


def _height(run: Run, scope: Scope) -> Array:
    return bare_poses(run, scope)[:, 1, 3].copy()


def _to_subject(run: Run, scope: Scope) -> Array:
    """From the lens to the subject in the camera's own frame. (F, 3) metres."""
    subject = run.shot.subject
    if subject is None:
        return np.zeros((len(scope.frames), 3))
    pose = bare_poses(run, scope)
    return np.asarray(np.einsum("fij,fi->fj", pose[:, :3, :3], subject.position_m(scope) - pose[:, :3, 3]), dtype=np.float64)


def _distance(run: Run, scope: Scope) -> Array:
    return np.asarray(np.linalg.norm(_to_subject(run, scope), axis=1), dtype=np.float64)


def _bearing(run: Run, scope: Scope) -> Array:
    if run.shot.subject is None:
        return np.zeros(len(scope.frames))
    away = _to_subject(run, scope)
    return np.degrees(np.arctan2(-away[:, 0], -away[:, 2]))


FACTS: Mapping[str, Callable[[Run, Scope], Array]] = {"speed": _speed, "height": _height, "distance": _distance, "bearing": _bearing}

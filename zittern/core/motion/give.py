"""Stage: give. Reads the poses of what carries a mount, with the layers that act below it; gives how far the mount strays from where it would be rigid.

Translation: a mass on a damped spring in the world, carried by the mount's rigid place. Rotation: the turns of the rigid mount in its own frame are added
up to a vector, that is followed in the same way, and what is missing is turned by: exact about any one axis, and without a pole anywhere; about
several at once it leaves out the gyroscopic terms, which is right while the mount strays by less than about 30 degrees.

The stop keeps travel r below s, smoothly and with slope 1 where it is small: r / (1 + (r / s)^4)^(1/4).
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from zittern.core.axes import AXES
from zittern.core.motion import memory, mixing
from zittern.core.motion.cache import Cache
from zittern.core.motion.follow import carried
from zittern.core.motion.memory import at_frames, coarsened, filled, grid_frames
from zittern.core.motion.run import Run
from zittern.core.rig import chain, turns
from zittern.core.shot.give import Give
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.units import CM_PER_M, Array

__all__ = ["giving", "strays"]

# Arrays of parts of a grid, where it has several: they are not met again.
_PARTS_BYTES = 32 * 2**20
# Points in a part over which layers are worked out once and kept.
_KEPT_POINTS = 32_768
# A step in frames and back in seconds.
_ROUNDING = 1.0 - 1e-9
Poses = Callable[[Run], "tuple[dict[str, Array], chain.On]"]


def giving(shot: Shot) -> tuple[Mount, ...]:
    """The mounts that give, from the ground on."""
    still = chain.held(shot)
    return tuple(mount for mount in shot.mounts if mount.give is not None and mount.id not in still and not mount.give.weight.nothing)


def strays(run: Run, poses: Poses) -> dict[str, Array]:
    """How far each mount that gives strays, by its id, (F, 6) as `chain.On.given`. poses: the local poses and rides of a run, aimed ones too."""
    mounts = giving(run.shot)
    if not mounts:
        return {}
    lead = max(memory.lead_s(hz, damping) for mount in mounts if mount.give for hz, damping in _swings(mount.give))
    grid = grid_frames(run.shot, lead)
    coarse = coarsened(grid, (grid[1] - grid[0]) / run.shot.fps.value * _ROUNDING)
    shaken = {mount.id: _shaken(run, mount.id, coarse) for mount in run.shot.mounts[: run.shot.mounts.index(mounts[-1])]}
    out: dict[str, Array] = {}
    for mount in mounts:
        out[mount.id] = _strays(run, mount, _Grids(grid, coarse), shaken, out, poses)
    return {name: at_frames(grid, values, run.frames) for name, values in out.items()}


@dataclass(frozen=True, slots=True)
class _Grids:
    """fine (G,): frames that are followed; coarse (C,): frames at which what goes in is made."""

    fine: Array
    coarse: Array

    @property
    def key(self) -> tuple[float, int]:
        return float(self.fine[0]), len(self.fine)


def _shaken(run: Run, mount: str, coarse: Array) -> Array | None:
    """What layers do to a mount, (C, 7); nothing where none act on it."""
    made_from = mixing.made_from(run, (mount,))
    if not made_from:
        return None
    cache = run.cache if len(coarse) <= _KEPT_POINTS else Cache(_PARTS_BYTES)

    def part(frames: Array) -> Array:
        return mixing.sums(run.shot, mixing.contributions(run.over(frames, cache), (mount,))[0])[mount]

    key = ("shaken", float(coarse[0]), len(coarse), *run.base[1:], *made_from)
    return run.tables.get(key, lambda: filled(coarse, len(AXES), part))


def _swings(give: Give) -> list[tuple[float, float]]:
    return [(give.shift_hz, give.shift_damping), (give.turn_hz, give.turn_damping)]


def _strays(run: Run, mount: Mount, grids: _Grids, shaken: dict[str, Array | None], before: dict[str, Array], poses: Poses) -> Array:
    """On the whole grid. shaken: by the layers on the mounts below; before: what these have given. (G, 6)."""
    give, grid = mount.give, grids.fine
    assert give is not None, "only mounts that give are asked"
    at = run.shot.mounts.index(mount)
    key = (*grids.key, *run.base[1:], *_made_from(run, [each.id for each in run.shot.mounts[:at]], mount))

    def rigid() -> Array:
        return _rigid(run, at, grids, shaken, before, poses)

    def make() -> Array:
        # What is long is not met again with other springs often enough to be kept beside what the springs make of it.
        ways = run.tables.get(("rigid", *key), rigid) if len(grid) <= 4 * _KEPT_POINTS else rigid()
        step = (grid[1] - grid[0]) / run.shot.fps.value
        out = np.zeros((len(grid), 6))
        if give.shift:
            stray = carried(ways[:, :3], give.shift_hz, give.shift_damping, step) - ways[:, :3]
            out[:, :3] = _stopped(stray, give.shift_stop_cm / CM_PER_M)
        if give.turn:
            stray = carried(ways[:, 3:], give.turn_hz, give.turn_damping, step) - ways[:, 3:]
            out[:, 3:] = _stopped(stray, np.radians(give.turn_stop_deg))
        return out * filled(grid, 1, lambda frames: give.weight.sample(run.scope.over(frames))[:, None])

    return run.tables.get(("give", *key, run.key_of(give)), make)


def _rigid(run: Run, at: int, grids: _Grids, shaken: dict[str, Array | None], before: dict[str, Array], poses: Poses) -> Array:
    """Where a mount would be without its own give, and its turns in its own frame added up, radians. (G, 6)."""
    shot, coarse = run.shot, grids.coarse
    cache = run.cache if len(coarse) <= _KEPT_POINTS else Cache(_PARTS_BYTES)
    offsets = {name: values for name, values in shaken.items() if values is not None and name in {each.id for each in shot.mounts[:at]}}

    def part(frames: Array) -> Array:
        first = int(np.searchsorted(coarse, frames[0] - 0.5 * (coarse[1] - coarse[0])))
        locals_, on = poses(run.over(frames, cache))
        given = {name: at_frames(grids.fine, values, frames) for name, values in before.items()}
        rows = {name: values[first : first + len(frames)] for name, values in offsets.items()}
        *_, pose = chain.poses_along(shot.mounts[: at + 1], locals_, chain.On(on.carried, given, rows))
        return pose[:, :3].reshape(len(frames), 12)

    rows = filled(coarse, 12, part).reshape(len(coarse), 3, 4)
    steps = turns.vectors(np.swapaxes(rows[:-1, :, :3], 1, 2) @ rows[1:, :, :3])
    turned = np.concatenate([np.zeros((1, 3)), np.cumsum(steps, axis=0)])
    return at_frames(coarse, np.concatenate([rows[:, :, 3], turned], axis=1), grids.fine)


def _made_from(run: Run, below: Sequence[str], mount: Mount) -> tuple[object, ...]:
    """All that the rigid pose of a mount depends on."""
    shot = run.shot
    carriers = shot.mounts[: len(below)]
    aims = any(each.operator is not None for each in (*carriers, mount))
    seen = (*shot.mounts, shot.focal_mm, *([shot.subject] if shot.subject else [])) if aims else ()
    layers = mixing.made_from(run, below)
    rig = (*carriers, mount.bare, *([mount.operator] if mount.operator else []), *seen)
    return (*(run.key_of(each) for each in rig), tuple(sorted(chain.held(shot))), layers)


def _stopped(stray: Array, most: float) -> Array:
    """Within the stop. (G, 3)."""
    gone = np.linalg.norm(stray, axis=1)
    return np.asarray(stray * ((1.0 + (gone / most) ** 4) ** -0.25)[:, None], dtype=np.float64)

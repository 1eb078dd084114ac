"""Stage: rides.

Inputs: the path of an object of the set and the weights of a ride. Result: the effect of the ride on the mount's world
pose.

A rigid motion from O to O' moves attached parts by O' inverse(O). A ride adds up such steps of
time, each by its present weight, exp(w log): the position moves with the object's origin and around it by
the one weight, what is fixed there turns by the other. Nothing is lost or jumps when a weight is switched on, switched
off or keyed, and from the shot's first frame with full weight it is exactly as if the mount had been fixed on the
object there.
"""

from __future__ import annotations

import numpy as np

from zittern.core.motion.chain import held_mounts
from zittern.core.motion.memory import grid_of
from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations, turns
from zittern.core.shot.mounts import Mount
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["rides"]


def rides(shot: Shot, scope: Scope, mounts: tuple[Mount, ...] | None = None) -> dict[str, Array]:
    """Return the effects of rides on world poses, of all mounts or some, by mount id.

    (F, 3, 7), as `chain.RigOffsets.carried`.
    """
    still = held_mounts(shot)
    return {
        mount.id: _carried(shot, mount.ride, scope)
        for mount in (shot.mounts if mounts is None else mounts)
        if mount.ride is not None and mount.id not in still
    }


def _carried(shot: Shot, ride: Ride, scope: Scope) -> Array:
    grid, table = _table(shot, ride, scope)
    # Before the shot it has not begun; after it, it goes on in one step.
    within = np.maximum(scope.frames, grid[0])
    row = np.clip(np.searchsorted(grid, within, side="right") - 1, 0, len(grid) - 1)
    last = _steps(ride, scope.over(grid[row]), scope.over(within))
    return _chained(last, table[row])


def _table(shot: Shot, ride: Ride, scope: Scope) -> tuple[Array, Array]:
    """Accumulated motion at each point of a grid from the shot's first frame on. (G,), (G, 3, 7)."""
    grid = grid_of(shot, 0.0).near

    def make() -> Array:
        steps = _steps(ride, scope.over(grid[:-1]), scope.over(grid[1:]))
        place, stand = np.tile(np.eye(4), (len(grid), 1, 1)), np.tile(np.eye(3), (len(grid), 1, 1))
        place[1:, :3], stand[1:] = steps[:, :, :4], steps[:, :, 4:]
        return np.concatenate([turns.chained(place)[:, :3], turns.chained(stand)], axis=2)

    return grid, scope.table("ride", (ride,), make)


def _steps(ride: Ride, start: Scope, stop: Scope) -> Array:
    """Return the changes of a mount between two rows of frames. (F, 3, 7)."""
    before, after = ride.position_m(start), ride.position_m(stop)
    turned = rotations.matrices(ride.angles_deg(stop)) @ np.swapaxes(rotations.matrices(ride.angles_deg(start)), 1, 2)
    middle = start.over(0.5 * (start.frames + stop.frames))
    along, round_ = ride.position_weight.sample(middle)[:, None], ride.rotation_weight.sample(middle)[:, None]
    vector = turns.vectors(turned)
    out = np.empty((len(before), 3, 7))
    out[:, :, 4:] = turns.from_vectors(vector * round_)
    out[:, :, :3] = turns.from_vectors(vector * along)
    # About where the origin is half-way, so that long steps come to the same as short ones; with full weight exactly
    # about the origin.
    pivot = before + 0.5 * (1.0 - along) * (after - before)
    out[:, :, 3] = pivot + along * (after - before) - np.einsum("fij,fj->fi", out[:, :, :3], pivot)
    return out


def _chained(after: Array, before: Array) -> Array:
    """One after another. (F, 3, 7)."""
    out = np.empty_like(after)
    out[:, :, :3] = after[:, :, :3] @ before[:, :, :3]
    out[:, :, 3] = np.einsum("fij,fj->fi", after[:, :, :3], before[:, :, 3]) + after[:, :, 3]
    out[:, :, 4:] = after[:, :, 4:] @ before[:, :, 4:]
    return out

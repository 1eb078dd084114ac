"""Stage: posing. Reads the move, the aim, the give and the layers; gives where the rig and the lens are, in this order.

From the ground up: each mount's keyed pose, turned by the operator, carried by its ride, straying by its give, shaken by the layers on it; then the layers
at the lens end; last the turn that holds the framing. A mount gives to all that goes on below it: layers that its springs should soften act on a
mount below.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from zittern.core.motion import aim, angles, give, hold, mixing, move
from zittern.core.motion.rides import rides
from zittern.core.motion.run import Run
from zittern.core.rig import chain
from zittern.core.units import Array

__all__ = ["Posed", "posed"]


@dataclass(frozen=True, slots=True)
class Posed:
    """locals_: poses in the parent, aimed, (F, 4, 4) by mount id; on: what else is on the mounts. rig: world poses behind each mount; lens: tf_world_lens."""

    run: Run
    aimed: Mapping[str, Array]
    locals_: dict[str, Array]
    on: chain.On
    rig: dict[str, Array]
    lens: Array

    @property
    def still(self) -> bool:
        """Whether nothing is on the bare move."""
        return not (self.aimed or self.on.given or self.on.offsets)

    def angles_deg(self, bare: Array) -> Array:
        """Pan, tilt, roll of the lens, continuous from the bare ones (F, 3) on. (F, 3) degrees."""
        mounts = self.run.shot.mounts
        keyed = {mount.id: mount.angles_deg(self.run.scope) for mount in mounts if mount.id in self.aimed}
        turned = sum(_largest(self.aimed[name] - keyed[name]) for name in keyed)
        turned += sum(_largest(np.degrees(each[:, 3:])) for each in self.on.given.values())
        turned += len(self.on.offsets) * max((_largest(each[:, :3]) for each in self.on.offsets.values()), default=0.0)

        def rotation(share: float) -> Array:
            if share == 1.0:
                return self.lens[:, :3, :3]
            locals_ = dict(self.locals_)
            for mount in mounts:
                if mount.id in keyed:
                    part = keyed[mount.id] + share * (self.aimed[mount.id] - keyed[mount.id])
                    locals_[mount.id] = chain.local_pose(mount, self.run.scope, angles_deg=part)
            return chain.lens_pose(mounts, locals_, self.on.part(share))[:, :3, :3]

        return angles.moved_deg(self.run, bare, turned, rotation)


def posed(run: Run, offsets: Mapping[str, Array]) -> Posed:
    """offsets: (F, 7) of the layers, by mount id or chain.LENS."""
    out = _without_hold(run, offsets)
    framing = hold.holding(run.shot)
    if framing is None:
        return out
    slow = hold.slow_drift_deg(run, framing, _made_from(run), _lens_at)
    on = chain.On(out.on.carried, {**out.on.given, chain.HOLD: hold.turned(out.lens, slow)}, out.on.offsets)
    return Posed(run, out.aimed, out.locals_, on, out.rig, chain.at_lens(out.rig[run.shot.mounts[-1].id], on))


def _without_hold(run: Run, offsets: Mapping[str, Array]) -> Posed:
    shot = run.shot
    aimed = aim.aimed(run)
    locals_, on = _parts(run, aimed)
    on = chain.On(on.carried, give.strays(run, lambda sub: _parts(sub, aim.aimed(sub))), dict(offsets))
    rig = dict(zip((mount.id for mount in shot.mounts), chain.poses_along(shot.mounts, locals_, on), strict=True))
    return Posed(run, aimed, locals_, on, rig, chain.at_lens(rig[shot.mounts[-1].id], on))


def _parts(run: Run, aimed: Mapping[str, Array]) -> tuple[dict[str, Array], chain.On]:
    """Local poses, aimed ones too, and rides."""
    shot = run.shot
    locals_ = move.local_poses(run)
    turned = {mount.id: chain.local_pose(mount, run.scope, angles_deg=aimed[mount.id]) for mount in shot.mounts if mount.id in aimed}
    return {**locals_, **turned}, chain.On(rides(shot, run.scope))


def _lens_at(run: Run) -> Array:
    """tf_world_lens of a run without the hold on its framing."""
    return _without_hold(run, mixing.sums(run.shot, mixing.contributions(run)[0])).lens


def _made_from(run: Run) -> tuple[object, ...]:
    """All that the pose of the lens depends on."""
    shot = run.shot
    parts = (*shot.mounts, shot.focal_mm, *([shot.subject] if shot.subject else []))
    targets = {None, *(mount.id for mount in shot.mounts)}
    shape = (shot.sensor_mm, shot.picture.width_px, shot.picture.height_px)
    return (*run.base[1:], *map(run.key_of, parts), *shape, *mixing.made_from(run, targets))


def _largest(values: Array) -> float:
    return float(np.max(np.abs(values), initial=0.0))

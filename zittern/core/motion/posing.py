"""Stage: posing. Inputs: the move, the aim, the springs and the layers. Result: the poses of rig and lens.

From the ground up: each mount's keyed pose, turned by the operator, carried by its ride, deflected by its springs,
shaken by the layers on it; then the layers at the lens end; last the turn that holds the framing. A mount gives to all
that goes on below it: layers that its springs should soften act on a mount below.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from zittern.core.motion import aim, angles, chain, hold, mixing, move, springs
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.lens import focal_parts, shift_percent
from zittern.core.motion.rides import rides
from zittern.core.units import Array

__all__ = ["RigPoses", "lens_parts", "posed"]

# Number of frames for the test of steep angles, minimum and maximum; and the size of its cache.
_LOOKED_EVERY, _FEW_LOOKED_AT, _MOST_LOOKED_AT = 4, 64, 4_096
_PARTS_BYTES = 32 * 2**20


@dataclass(frozen=True, slots=True)
class RigPoses:
    """locals_: poses in the parent, aimed, (F, 4, 4) by mount id; on: what else is on the mounts.

    rig: world poses behind each mount; lens: tf_world_lens.
    """

    run: Evaluation
    aimed: Mapping[str, Array]
    locals_: dict[str, Array]
    on: chain.RigOffsets
    rig: dict[str, Array]
    lens: Array

    @property
    def is_bare(self) -> bool:
        """Return whether the motion is the bare move."""
        return not (self.aimed or self.on.given or self.on.offsets)

    def angles_deg(self, bare: Array) -> Array:
        """Pan, tilt, roll of the lens, continuous in time.

        Parameters
        ----------
        bare: (F, 3) degrees of the bare move.

        Returns
        -------
        (F, 3) degrees.
        """
        if angles.steep(_steepest_deg(self.run)):
            followed = self.run.table(
                "lens angles", (self.run.shot.hold, lens_parts(self.run)), lambda: _followed(self.run)
            )
            return angles.angles_near(self.run, self.lens[:, :3, :3], followed)
        return self.lifted_deg(bare)

    def lifted_deg(self, bare: Array) -> Array:
        """Return the angles by following the bare ones while the offsets are added gradually.

        Parameters
        ----------
        bare: (F, 3) degrees.

        Returns
        -------
        (F, 3) degrees.
        """
        mounts = self.run.shot.mounts
        keyed = {mount.id: mount.angles_deg(self.run.scope) for mount in mounts if mount.id in self.aimed}
        given, offsets = self.on.given.values(), self.on.offsets.values()
        turned = np.zeros(len(self.run.frames))
        for each in (
            *(self.aimed[name] - keyed[name] for name in keyed),
            *(np.degrees(values[:, 3:]) for values in given),
            *(values[:, :3] for values in offsets),
        ):
            turned += np.max(np.abs(each), axis=1)

        def rotation(share: Array) -> Array:
            if np.all(share == 1.0):
                return self.lens[:, :3, :3]
            locals_ = dict(self.locals_)
            for mount in mounts:
                if mount.id in keyed:
                    part = keyed[mount.id] + share[:, None] * (self.aimed[mount.id] - keyed[mount.id])
                    locals_[mount.id] = chain.local_pose(mount, self.run.scope, angles_deg=part)
            return chain.lens_pose(mounts, locals_, self.on.part(share))[:, :3, :3]

        return angles.moved_deg(bare, turned, rotation)


def posed(run: Evaluation, offsets: Mapping[str, Array]) -> RigPoses:
    """Return the rig and the lens with all that is on them.

    Parameters
    ----------
    offsets: (F, A) of the layers, by mount id or chain.LENS.

    Returns
    -------
    Their poses.
    """
    out = _without_hold(run, offsets)
    framing = hold.holding(run.shot)
    if framing is None:
        return out
    slow = hold.slow_drift_deg(run, framing, lens_parts(run), _lens_at)
    on = chain.RigOffsets(out.on.carried, {**out.on.given, chain.HOLD: hold.turned(out.lens, slow)}, out.on.offsets)
    return RigPoses(run, out.aimed, out.locals_, on, out.rig, chain.at_lens(out.rig[run.shot.mounts[-1].id], on))


def _without_hold(run: Evaluation, offsets: Mapping[str, Array]) -> RigPoses:
    shot = run.shot
    aimed = aim.aimed(run)
    locals_, on = _mount_inputs(run, aimed)
    on = chain.RigOffsets(on.carried, springs.deflections(run, _inputs_between, offsets), dict(offsets))
    rig = dict(zip((mount.id for mount in shot.mounts), chain.poses_along(shot.mounts, locals_, on), strict=True))
    return RigPoses(run, aimed, locals_, on, rig, chain.at_lens(rig[shot.mounts[-1].id], on))


def _inputs_between(run: Evaluation, start: int, stop: int) -> tuple[dict[str, Array], chain.RigOffsets]:
    """Return the inputs of the mounts from number `start` up to, without, number `stop`."""
    mount = aim.aiming(run.shot)
    aims = mount is not None and start <= run.shot.mounts.index(mount) < stop
    return _mount_inputs(run, aim.aimed(run) if aims else {}, slice(start, stop))


def _mount_inputs(
    run: Evaluation, aimed: Mapping[str, Array], which: slice = slice(None)
) -> tuple[dict[str, Array], chain.RigOffsets]:
    """Local poses, aimed ones too, and rides, of all mounts or some neighbours."""
    mounts = run.shot.mounts[which]
    locals_ = move.local_poses(run, mounts)
    turned = {
        mount.id: chain.local_pose(mount, run.scope, angles_deg=aimed[mount.id])
        for mount in mounts
        if mount.id in aimed
    }
    return {**locals_, **turned}, chain.RigOffsets(rides(run.shot, run.scope, mounts))


def _lens_at(run: Evaluation) -> tuple[Array, Array]:
    """Return tf_world_lens of an evaluation without the hold on its framing.

    (F, 4, 4), and the shift of its picture, (F, 2) percent.
    """
    offsets = mixing.sums(run.shot, mixing.contributions(run)[0])
    return _without_hold(run, offsets).lens, shift_percent(run, offsets)


def lens_parts(run: Evaluation) -> tuple[Part, ...]:
    """Return the inputs of the pose of the lens, without the hold on its framing."""
    shot = run.shot
    targets = {None, *(mount.id for mount in shot.mounts)}
    rig = tuple((mount.id, mount.springs) for mount in shot.mounts)
    place = (*focal_parts(shot), shot.subject, shot.sensor_mm, shot.picture.width_px, shot.picture.height_px)
    return (*move.bare_parts(shot), rig, *aim.aim_parts(shot), *place, mixing.parts_of(run, targets))


def _steepest_deg(run: Evaluation) -> Array:
    """Return the maximum angle of the lens above or below the horizon, without layers and springs. (1,)."""

    def compute() -> Array:
        count = min(max(_FEW_LOOKED_AT, run.shot.frame_count // _LOOKED_EVERY), _MOST_LOOKED_AT)
        frames = np.unique(np.linspace(run.shot.first_frame, run.shot.last_frame, count).round())
        sub = run.over(frames, Cache(_PARTS_BYTES))
        locals_, on = _mount_inputs(sub, aim.aimed(sub))
        lens = chain.lens_pose(run.shot.mounts, locals_, on)
        return np.array([np.degrees(np.max(np.arcsin(np.clip(np.abs(lens[:, 1, 2]), 0.0, 1.0))))])

    return run.table("steepest", (*move.bare_parts(run.shot), *aim.aim_parts(run.shot)), compute)


def _followed(run: Evaluation) -> Array:
    """Angles of the lens at all whole frames of the shot, each next to the one before. (N, 3) degrees."""
    shot = run.shot

    def lens_at(frames: Array) -> RigPoses:
        sub = run.over(frames, Cache(_PARTS_BYTES))
        return posed(sub, mixing.sums(shot, mixing.contributions(sub)[0]))

    first = lens_at(np.array([float(shot.first_frame)]))
    start = first.lifted_deg(angles.bare_deg(first.run, move.bare_poses(shot, first.run.scope)))[0]
    return angles.followed(shot, lambda frames: lens_at(frames).lens[:, :3, :3], start)

"""Stage: aim.

Inputs: the bare move, the subject and the operator of a mount. Result: pan and tilt of the mount by the operator.

Where the mount would have to point so that the subject sits at its place on screen follows from the rig in closed
form, also where the lens is off the turning point. That is seen late by the reaction time (and ahead by the
anticipation), is let be within the slack, and is then steered to by a second-order system: at constant speed the
picture lags by reaction + 2 damping / (2 pi f) - anticipation.

At a point without a direction (the subject is at the pivot) the previous one holds; straight overhead the pan swings
round as fast as the operator can.
"""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from zittern.core.motion import chain
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.follow import backlash, grounded_damper
from zittern.core.motion.lens import focal_parts
from zittern.core.motion.memory import NEAR_LEAD_S, at_frames, filled, grid_of, lead_s
from zittern.core.motion.move import bare_parts
from zittern.core.motion.rides import rides
from zittern.core.motion.targets import followable, position_m
from zittern.core.numbers.scope import Scope
from zittern.core.optics.distortion import undistorted
from zittern.core.optics.lens import height_mm
from zittern.core.rig import transforms
from zittern.core.rig.aiming import pan_tilt_deg
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["aim_parts", "aimed", "aiming", "framing_of", "slack_deg", "to_target", "wanted_deg"]

_PAN, _TILT = 0, 1
_MIDDLE = HoldFraming()


def aiming(shot: Shot) -> Mount | None:
    """Return the mount that an operator aims, where there is one who has something to aim at."""
    still = chain.held_mounts(shot)
    return next(
        (
            mount
            for mount in shot.mounts
            if mount.operator is not None
            and mount.id not in still
            and not mount.operator.weight.nothing
            and followable(shot, mount.operator)
        ),
        None,
    )


def framing_of(shot: Shot) -> Operator | HoldFraming:
    """Return the source of the framing target: the operator, else the hold, else the center."""
    mount = aiming(shot)
    if mount is not None and mount.operator is not None:
        return mount.operator
    return shot.hold or _MIDDLE


def aimed(run: Evaluation) -> dict[str, Array]:
    """Return pan, tilt, roll of the aimed mount, by its id. (F, 3) degrees."""
    mount = aiming(run.shot)
    if mount is None or mount.operator is None:
        return {}
    operator = mount.operator
    steered = _steered(run, mount, operator)
    angles = mount.angles_deg(run.scope)
    weight = operator.weight.sample(run.scope)
    for axis, on in ((_PAN, operator.pan), (_TILT, operator.tilt)):
        if on:
            change = steered[:, axis] - (angles[:, axis] if operator.mode == "replace" else 0.0)
            angles[:, axis] += weight * change
    return {mount.id: angles}


def aim_parts(shot: Shot) -> tuple[Part, ...]:
    """Return the inputs of the angles of the aimed mount."""
    mount = aiming(shot)
    if mount is None:
        return ()
    lens = (*focal_parts(shot), shot.sensor_mm, *_shape(shot))
    return (*bare_parts(shot), mount.id, mount.operator, shot.subject, *lens)


def _steered(run: Evaluation, mount: Mount, operator: Operator) -> Array:
    """Return pan and tilt by the operator; added to the keyed ones in that mode. (F, 2) degrees."""
    shot = run.shot
    responses = ((_PAN, operator.pan_hz, operator.pan_damping), (_TILT, operator.tilt_hz, operator.tilt_damping))
    lead = max(NEAR_LEAD_S, *(lead_s(hz, damping) for _, hz, damping in responses))
    grid = grid_of(shot, lead)

    def make() -> Array:
        frames = grid.all
        wanted = wanted_deg(shot, mount, operator, run.scope, frames)
        if operator.mode == "add":
            wanted = wanted - filled(frames, 2, lambda part: mount.angles_deg(run.scope.over(part))[:, :2])
        slack = filled(frames, 2, lambda part: slack_deg(shot, operator, run.scope.over(part)))
        late = frames - operator.reaction_s * shot.fps.value
        out = np.empty((len(grid.near), 2))
        for axis, hz, damping in responses:
            seen = np.interp(late, frames, wanted[:, axis])
            out[:, axis] = grounded_damper(backlash(seen, slack[:, axis])[:, None], hz, damping, grid)[:, 0]
        return out

    return at_frames(grid.near, run.table("aim", (grid.key, *aim_parts(shot)), make), run.frames)


def wanted_deg(shot: Shot, mount: Mount, operator: Operator, scope: Scope, frames: Array) -> Array:
    """Return pan and tilt of a mount that bring the anticipated subject to its framing target.

    Parameters
    ----------
    frames: (G,), rising.

    Returns
    -------
    (G, 2) degrees.
    """
    wanted = filled(frames, 2, lambda part: _wanted_deg(shot, mount, operator, scope.over(part)))
    known = np.isfinite(wanted[:, _PAN])
    rows = np.maximum.accumulate(np.where(known, np.arange(len(wanted)), -1))
    rows = np.where(rows < 0, int(np.argmax(known)), rows)
    if not np.any(known):
        return np.repeat(mount.angles_deg(scope.over(frames[:1]))[:, :2], len(frames), axis=0)
    wanted = np.unwrap(wanted[rows], period=360.0, axis=0)
    keyed = mount.angles_deg(scope.over(frames[:1]))[0, :2]
    return np.asarray(wanted - 360.0 * np.round((wanted[0] - keyed) / 360.0), dtype=np.float64)


def _wanted_deg(shot: Shot, mount: Mount, operator: Operator, scope: Scope) -> Array:
    at = next(i for i, each in enumerate(shot.mounts) if each.id == mount.id)
    on, locals_ = chain.RigOffsets(rides(shot, scope)), chain.local_poses(shot, scope)
    base, behind = _around(shot.mounts, at, locals_, on, len(scope.frames))
    if mount.id in on.carried:
        base = chain.carried_on(base, on.carried[mount.id])
    turn = base[:, :3, :3]
    behind_m = behind[:, :3, 3] - np.array(mount.pivot_m)
    behind_m[:, 2] -= mount.length_m.sample(scope)
    ahead = scope.over(scope.frames + operator.anticipation_s * scope.fps.value)
    followed_m = position_m(shot, operator, ahead, scope.frames) - base[:, :3, 3]
    # A carried mount turns about its own position and pivot.
    away = np.einsum("fij,fi->fj", turn, followed_m) - (mount.position_m(scope) + mount.pivot_m)
    ray = np.einsum("fij,fj->fi", behind[:, :3, :3], to_target(shot, operator, scope))
    return pan_tilt_deg(away, behind_m, ray, mount.along("roll_deg", scope))


def _around(
    mounts: tuple[Mount, ...], at: int, locals_: Mapping[str, Array], on: chain.RigOffsets, count: int
) -> tuple[Array, Array]:
    """Return the parent pose of mount number `at`, and the pose of the lens in that mount. (F, 4, 4) each."""
    still = np.broadcast_to(np.eye(4), (count, 4, 4))
    if any(mount.id in on.carried for mount in mounts[at + 1 :]):
        poses = list(chain.poses_along(mounts, locals_, on))
        return poses[at - 1] if at else still, transforms.product(transforms.inverse(poses[at]), poses[-1])
    *_, base = still, *chain.poses_along(mounts[:at], locals_, on)
    *_, behind = still, *chain.poses_along(mounts[at + 1 :], locals_, on)
    return base, behind


def to_target(shot: Shot, framing: Operator | HoldFraming, scope: Scope, shift_percent: Array | float = 0.0) -> Array:
    """Return the direction in the lens of the framing target.

    Parameters
    ----------
    shift_percent: (F, 2) picture shift by the film back, right and up.

    Returns
    -------
    (F, 3), unit length.
    """
    right, above = np.broadcast_to(shift_percent, (len(scope.frames), 2)).T
    across = ((framing.across_percent.sample(scope) - right) / 100.0 - 0.5) * shot.sensor_mm
    up = ((framing.up_percent.sample(scope) - above) / 100.0 - 0.5) * height_mm(shot.sensor_mm, *_shape(shot))
    flat = np.stack([across, up], axis=1) / shot.lens_mm(scope)[:, None]
    # With distortion, a point appears elsewhere than through a pinhole.
    out = np.concatenate([undistorted(flat, shot.distortion(scope)), np.full((len(flat), 1), -1.0)], axis=1)
    return np.asarray(out / np.linalg.norm(out, axis=1)[:, None], dtype=np.float64)


def slack_deg(shot: Shot, operator: Operator, scope: Scope) -> Array:
    """Return the slack: the error sideways, and up and down, that the operator tolerates.

    Returns
    -------
    (F, 2) degrees.
    """
    focal = shot.lens_mm(scope)
    across = operator.pan_slack_percent / 100.0 * shot.sensor_mm / focal
    up = operator.tilt_slack_percent / 100.0 * height_mm(shot.sensor_mm, *_shape(shot)) / focal
    return np.degrees(np.arctan(np.stack([across, up], axis=1)))


def _shape(shot: Shot) -> tuple[int, int]:
    return shot.picture.width_px, shot.picture.height_px

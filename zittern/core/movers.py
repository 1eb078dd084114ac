"""Which part of the rig, which layer moves the picture, and by how much: each alone, from one frame to the next.

For a mount: the lens as it would be had this mount alone stood still since the frame before, and where a point ahead of the lens, as far away as the
subject, would then lie in the picture. For a layer: how far its offsets take the picture's centre.
"""

from __future__ import annotations

import numpy as np

from zittern.core.lens import focal_px
from zittern.core.motion.evaluate import Motion
from zittern.core.readings import distances_m
from zittern.core.rig import chain, transforms
from zittern.core.rig.transforms import inverse
from zittern.core.shot.shot import Shot
from zittern.core.units import CM_PER_M, Array

__all__ = ["HOLD", "movers_px"]

HOLD = "hold"


def movers_px(shot: Shot, motion: Motion) -> dict[str, Array]:
    """By address of mount or layer, and HOLD: pixels from the frame before, NaN where that is not there; the first frame is as the second. (F,) each."""
    f_px = focal_px(motion.pose.focal_mm, shot.sensor_mm, shot.picture.width_px)
    away = np.maximum(distances_m(shot, motion), 0.01)
    parts = {f"mount:{name}": moved for name, moved in _mounts(shot, motion, away, f_px).items()}
    parts |= {f"layer:{name}": _layer(values, away, f_px) for name, values in motion.layers.items()}
    if chain.HOLD in motion.on.given:
        turned = np.diff(motion.on.given[chain.HOLD][:, 3:5], axis=0, prepend=motion.on.given[chain.HOLD][:1, 3:5])
        parts[HOLD] = np.asarray(np.linalg.norm(turned, axis=1) * f_px)
    gap = np.diff(motion.frames, prepend=motion.frames[:1] - 1.0) != 1.0
    for values in parts.values():
        values[gap] = np.nan
        if len(values) > 1:
            values[0] = values[1]
    return parts


def _mounts(shot: Shot, motion: Motion, away: Array, f_px: Array) -> dict[str, Array]:
    count = len(motion.frames)
    lens = chain.at_lens(motion.rig[shot.mounts[-1].id], motion.on)
    ahead = np.concatenate([np.zeros((count, 2)), -away[:, None], np.ones((count, 1))], axis=1)
    base = transforms.identity(count)
    out: dict[str, Array] = {}
    for mount in shot.mounts:
        pose = motion.rig[mount.id]
        own = pose @ inverse(transforms.offset_transforms(motion.offsets[mount.id])) if mount.id in motion.offsets else pose
        step = inverse(base) @ own
        before = np.concatenate([step[:1], step[:-1]])
        point = inverse(lens) @ own @ inverse(before) @ inverse(base) @ lens @ ahead[:, :, None]
        depth = np.minimum(point[:, 2, 0], -1e-6)
        out[mount.id] = np.asarray(np.hypot(point[:, 0, 0], point[:, 1, 0]) / -depth * f_px)
        base = pose
    return out


def _layer(values: Array, away: Array, f_px: Array) -> Array:
    across = np.radians(values[:, 0]) - values[:, 3] / CM_PER_M / away
    up = np.radians(values[:, 1]) + values[:, 4] / CM_PER_M / away
    gone = np.diff(np.stack([across, up], axis=1), axis=0, prepend=np.array([[across[0], up[0]]]))
    return np.asarray(np.linalg.norm(gone, axis=1) * f_px)

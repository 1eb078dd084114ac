"""Picture movement by each mount and layer: each alone, from one frame to the next.

For a mount: the lens as it would be had this mount alone stood still since the frame before, and where a point ahead of
the lens, at the subject's distance, would then be on screen. For a layer: the movement of the picture's
centre.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import partial

import numpy as np

from zittern.core.axes import center_px
from zittern.core.motion import chain
from zittern.core.motion.picture import picture_scale
from zittern.core.readings.motion_view import MotionView
from zittern.core.readings.tagged import Tagged, derived
from zittern.core.rig import transforms
from zittern.core.rig.vectors import lengths
from zittern.core.units import Array

__all__ = ["HOLD_PART", "movers_px"]

# Name of the motion of the hold on the framing, besides addresses of mounts and layers.
HOLD_PART = "hold"
_LEAST_DEPTH_M = 1e-6


def movers_px(seen: MotionView) -> dict[str, Tagged]:
    """Return pixels since the previous frame by address of mount or layer, and HOLD_PART; NaN without one.

    The first frame is as the second. (F,) each.
    """
    motion = seen.motion
    parts: dict[str, Tagged] = {}
    base: Tagged | None = None
    for mount in seen.shot.mounts:
        parts[f"mount:{mount.id}"] = _without_first(seen, *_mount(seen, mount.id, base))
        base = seen.rig[mount.id]
    for name in motion.layers:
        layer = seen.layers[name]
        parts[f"layer:{name}"] = _without_first(
            seen, ["layer", layer, seen.away_m, seen.f_px, seen.shot.picture], partial(_layer, seen, layer)
        )
    if chain.HOLD in motion.on.given:
        parts[HOLD_PART] = _without_first(
            seen, ["hold", seen.lens, seen.f_px], lambda: _hold(motion.on.given[chain.HOLD], seen.f_px.values)
        )
    return parts


def _without_first(seen: MotionView, parts: list[Tagged | object], make: Callable[[], Array]) -> Tagged:
    """With nothing said where the frame before is missing."""

    def told() -> Array:
        frames = seen.motion.frames
        values = make()
        values[np.diff(frames, prepend=frames[:1] - 1.0) != 1.0] = np.nan
        if len(values) > 1:
            values[0] = values[1]
        return values

    return derived("moves", [seen.frames, *parts], told)


def _mount(seen: MotionView, name: str, base: Tagged | None) -> tuple[list[Tagged | object], Callable[[], Array]]:
    pose, offsets, on = seen.rig[name], seen.motion.offsets.get(name), seen.offsets.get(name)

    def make() -> Array:
        own = (
            pose.values
            if offsets is None
            else transforms.product(pose.values, transforms.inverse(transforms.offset_transforms(offsets)))
        )
        step = own if base is None else transforms.product(transforms.inverse(base.values), own)
        before = np.concatenate([step[:1], step[:-1]])
        if np.array_equal(step, before):
            return np.zeros(len(step))
        ahead = np.zeros((len(step), 3))
        ahead[:, 2] = -seen.away_m.values
        point = _to_world(seen.lens.values, ahead)
        if base is not None:
            point = _to_local(base.values, point)
        point = _to_world(own, _to_local(before, point))
        point = _to_local(seen.lens.values, point)
        depth = np.minimum(point[:, 2], -_LEAST_DEPTH_M)
        return np.asarray(np.hypot(point[:, 0], point[:, 1]) / -depth * seen.f_px.values)

    return ["mount", pose, on, base, seen.lens, seen.away_m, seen.f_px], make


def _to_world(pose: Array, point: Array) -> Array:
    """Points (F, 3) by poses (F, 4, 4)."""
    return np.asarray(np.einsum("fij,fj->fi", pose[:, :3, :3], point) + pose[:, :3, 3])


def _to_local(pose: Array, point: Array) -> Array:
    """Points (F, 3) by the inverse of rigid poses (F, 4, 4)."""
    return np.asarray(np.einsum("fji,fj->fi", pose[:, :3, :3], point - pose[:, :3, 3]))


def _layer(seen: MotionView, layer: Tagged) -> Array:
    scale = picture_scale(seen.shot, seen.motion.pose.focal_mm, seen.away_m.values)
    moved_px = center_px(layer.values, scale, small=True)
    return lengths(np.diff(moved_px, axis=0, prepend=moved_px[:1]))


def _hold(turns: Array, f_px: Array) -> Array:
    turned = np.diff(turns[:, 3:5], axis=0, prepend=turns[:1, 3:5])
    return lengths(turned) * f_px

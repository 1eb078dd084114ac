"""Evaluated motion as arrays with names."""

from __future__ import annotations

from dataclasses import dataclass

from zittern.core.axes import AXES
from zittern.core.motion.evaluate import Motion as Evaluated
from zittern.core.motion.pose import POSE_COLUMNS, Pose
from zittern.core.units import Array

__all__ = ["Motion", "named_motion"]


@dataclass(frozen=True, slots=True)
class Motion:
    """Motion of a shot at some frames. All arrays have one value for each of `frames`.

    pose: of the lens, with all that moves it: `x_m`, `y_m`, `z_m` in meters, `pan_deg`, `tilt_deg`, `roll_deg`,
    `focal_mm`, shifts in percent, `k1`, `k2`, `focus_m`. bare: the same of the keyed move alone. axes: sum of all
    layers by axis, in ° for rotations, cm for translations, % for the others. layers: of each layer, by its id.
    """

    frames: Array
    pose: dict[str, Array]
    bare: dict[str, Array]
    axes: dict[str, Array]
    layers: dict[str, dict[str, Array]]


def named_motion(found: Evaluated) -> Motion:
    """Return an evaluated motion with names."""
    layers = {layer: _by_axis(offsets) for layer, offsets in found.layers.items()}
    return Motion(found.frames, _columns(found.pose), _columns(found.bare), _by_axis(found.total), layers)


def _columns(pose: Pose) -> dict[str, Array]:
    return dict(zip(POSE_COLUMNS, (column for part in pose.parts for column in _each(part)), strict=True))


def _each(part: Array) -> list[Array]:
    return [part] if part.ndim == 1 else list(part.T)


def _by_axis(offsets: Array) -> dict[str, Array]:
    return dict(zip(AXES, offsets.T, strict=True))

"""What is typed into a number of a shot: its unit, the length of a frame, and what a pixel is there just now."""

from __future__ import annotations

import math
import re
from collections.abc import Callable

import numpy as np

from zittern.core.axes import AXES, Axis
from zittern.core.formula.arithmetic import Field
from zittern.core.lens import focal_px
from zittern.core.motion.facts import scope_at
from zittern.core.motion.move import bare_poses
from zittern.core.picture import subject_distance_m
from zittern.core.shot.shot import Shot
from zittern.core.units import CM_PER_M

__all__ = ["field_at"]

_AXIS = re.compile(r"\.(?:axes\.(\w+)\.swing|tracks\.(\w+))$")
_ANGLE = re.compile(r"\.(pan|tilt|roll)_deg$")
_ACROSS, _UP = (
    re.compile(r"\.(?:across_percent|pan_slack_percent)$"),
    re.compile(r"\.(?:up_percent|tilt_slack_percent)$"),
)
_PERCENT = 100.0


def field_at(shot: Shot, address: str, unit: str, frame: float) -> Field:
    """The field at an address, at a frame."""
    from_px, why = _from_px(shot, address, unit, frame)
    return Field(unit, shot.fps.value, from_px, why)


def _from_px(shot: Shot, address: str, unit: str, frame: float) -> tuple[Callable[[float], float] | None, str]:
    """What pixels are in a field, or why that cannot be told. As `lens.swing_px` the other way round."""
    width, height = shot.picture.width_px, shot.picture.height_px
    for pattern, size in ((_ACROSS, width), (_UP, height)):
        if pattern.search(address):
            return (lambda px, size=size: px / size * _PERCENT), ""  # type: ignore[misc]
    axis = _axis_of(address)
    if axis is None or unit not in ("°", "deg", "cm", "%"):
        return None, f"pixels cannot be converted to {unit or 'this'} here"
    scope = scope_at(shot, frame)
    f_px = float(focal_px(float(shot.focal_mm.sample(scope)[0]), shot.sensor_mm, width))
    if axis in ("pan", "tilt"):
        return (lambda px: math.degrees(math.atan(px / f_px))), ""
    if axis == "roll":
        return (lambda px: math.degrees(math.atan(px / (width / 2.0)))), ""
    if axis == "zoom":
        return (lambda px: px / (width / 2.0) * _PERCENT), ""
    if shot.subject is None:
        return None, "centimetres in pixels depend on how far away the subject is; mark a subject first, or write cm"
    distance = subject_distance_m(shot, frame, np.asarray(bare_poses(shot, scope)[0, :3, 3]))
    scale = f_px if axis in ("truck", "pedestal") else width / 2.0
    return (lambda px: px * distance * CM_PER_M / scale), ""


def _axis_of(address: str) -> Axis | None:
    found = _AXIS.search(address) or _ANGLE.search(address)
    name = next((each for each in found.groups() if each), None) if found else None
    return next((axis for axis in AXES if axis == name), None)

"""Context of a number of a shot for typed texts: its unit, the frame rate, and the present size of a pixel."""

from __future__ import annotations

import re
from collections.abc import Callable

import numpy as np

from zittern.core.axes import AXES, TRANSLATIONS, Axis, axis_info, axis_title
from zittern.core.formula.arithmetic import Field, evaluate_expression
from zittern.core.formula.fault import FormulaFault
from zittern.core.motion.facts import scope_at
from zittern.core.motion.move import bare_poses
from zittern.core.motion.picture import scale_at, subject_distance_m
from zittern.core.shot.shot import Shot

__all__ = ["field_at", "frame_from"]

_AXIS = re.compile(r"\.(?:axes\.(\w+)\.swing|tracks\.(\w+))$")
_ANGLE = re.compile(r"\.(pan|tilt|roll)_deg$")
_ACROSS, _UP = (
    re.compile(r"\.(?:across_percent|pan_slack_percent)$"),
    re.compile(r"\.(?:up_percent|tilt_slack_percent)$"),
)
_PERCENT = 100.0
# A sign in front goes on from where the playhead is.
_ON = re.compile(r"^\s*([-+])(?!=)(.*)$", re.DOTALL)


def field_at(shot: Shot, address: str, unit: str, frame: float) -> Field:
    """Return the field at an address, at a frame."""
    from_px, why = _from_px(shot, address, unit, frame)
    return Field(unit, shot.fps.value, from_px, why)


def frame_from(shot: Shot, text: str, frame: float) -> int:
    """Return the whole frame of a shot for a text.

    A frame, a time since the first one (`2.5 s`, `0:02.5`), the name of a cue or its beginning; with a sign, an offset
    from the playhead. Raises FormulaFault.
    """
    wanted = text.strip().casefold()
    named = [cue.frame for cue in shot.cues if wanted and cue.name.casefold() == wanted]
    found = named[0] if named else _frame_typed(shot, text, frame)
    if not shot.first_frame <= round(found) <= shot.last_frame:
        raise FormulaFault(f"the shot goes from frame {shot.first_frame} to {shot.last_frame}", 0, len(text))
    return round(found)


def _frame_typed(shot: Shot, text: str, frame: float) -> float:
    timed = Field("f", shot.fps.value)
    on = _ON.match(text)
    if on is not None:
        way = evaluate_expression(on[2], 0.0, timed)
        return frame + (way if on[1] == "+" else -way)
    try:
        return evaluate_expression(text, frame, Field("f"))
    except FormulaFault as fault:
        beginning = [cue.frame for cue in shot.cues if cue.name.casefold().startswith(text.strip().casefold())]
        if len(set(beginning)) == 1:
            return beginning[0]
        try:
            return shot.first_frame + evaluate_expression(text, 0.0, timed)
        except FormulaFault:
            raise fault from None


def _from_px(shot: Shot, address: str, unit: str, frame: float) -> tuple[Callable[[float], float] | None, str]:
    """Return the size of a pixel in a field, or why it is unknown. Inverse of `AxisInfo.swing_px`."""
    for pattern, size in ((_ACROSS, shot.picture.width_px), (_UP, shot.picture.height_px)):
        if pattern.search(address):
            return (lambda px, size=size: px / size * _PERCENT), ""  # type: ignore[misc]
    axis = _axis_of(address)
    if axis is None or unit not in ("°", "deg", "cm", "%"):
        return None, f"pixels cannot be converted to {unit or 'this'} here"
    scope = scope_at(shot, frame)
    if axis in TRANSLATIONS and shot.subject is None:
        return None, "centimetres in pixels need a subject distance; mark a subject first, or write cm"
    distance_m = subject_distance_m(shot, frame, np.asarray(bare_poses(shot, scope)[0, :3, 3]))
    scale = scale_at(shot, scope, distance_m)
    if axis_info(axis).scale(scale) == 0.0:
        return None, f"{axis_title(axis)} does not move the picture with this lens"
    return (lambda px: axis_info(axis).swing_of_px(px, scale)), ""


def _axis_of(address: str) -> Axis | None:
    found = _AXIS.search(address) or _ANGLE.search(address)
    name = next((each for each in found.groups() if each), None) if found else None
    return next((axis for axis in AXES if axis == name), None)

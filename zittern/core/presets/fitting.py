"""Fitting of a preset to a place in a shot, and of a clip to a preset.

Rotations for the lens, frames for the place and the frame rate, names of dials.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeVar

from zittern.core.axes import ROTATIONS
from zittern.core.documents.doc import Doc
from zittern.core.presets.preset import Preset
from zittern.core.shot.clips import Clip
from zittern.core.shot.dials import Dial
from zittern.core.shot.ids import free_name
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.naming import renamed
from zittern.core.shot.shot import Shot
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["Fitting", "brought", "fitting_of"]

D = TypeVar("D", bound=Doc)


@dataclass(frozen=True, slots=True)
class Fitting:
    """factor: of rotations. timing: of frames. names: of dials, old to new; no new one is an old one."""

    factor: float
    timing: TimeMap
    names: Mapping[str, str]

    def doc(self, doc: D) -> D:
        """Return a number, dial or layer, timed and named."""
        for old, new in self.names.items():
            doc = renamed(doc, old, new)
        return retimed(doc, self.timing)

    def layer(self, layer: Layer) -> Layer:
        """Return the layer, also scaled."""
        return self.doc(layer.replace(axes=_sized(layer.axes, self.factor)))


def brought(shot: Shot, dials: tuple[Dial, ...]) -> tuple[dict[str, str], tuple[Dial, ...]]:
    """Return new names for dials of a preset whose names are taken in a shot, and the dials that the shot lacks.

    One of the same name, unit and limits is shared.
    """
    present = {dial.name: dial for dial in shot.dials}
    taken = present.keys() | {dial.name for dial in dials}
    names: dict[str, str] = {}
    fresh: list[Dial] = []
    for dial in dials:
        there = present.get(dial.name)
        if there is not None and (there.unit, there.minimum, there.maximum) == (dial.unit, dial.minimum, dial.maximum):
            continue
        if there is not None:
            names[dial.name] = free_name(dial.name[:36], taken | {dial.name[:36]}, "_")
            taken |= {names[dial.name]}
        fresh.append(dial)
    return names, tuple(fresh)


def fitting_of(shot: Shot, clip: Clip, preset: Preset) -> Fitting:
    """Return the present fitting of a clip's preset."""
    factor, dials = (clip.from_preset.factor, clip.from_preset.dials) if clip.from_preset else (1.0, ())
    origin = clip.clock_in(shot.span).start_frame
    per_frame = shot.fps.value / preset.fps.value
    begins = 0.0 if preset.clock is None else preset.clock.start_frame
    timing = TimeMap.even(shift_frames=origin - begins * per_frame, factor=per_frame)
    return Fitting(factor, timing, {each.brought: each.name for each in dials if each.brought != each.name})


def _sized(axes: AxisBoard, factor: float) -> AxisBoard:
    if factor == 1.0:
        return axes
    turned = {axis: axes.of(axis) for axis in ROTATIONS}
    return axes.replace(
        **{
            axis: setting.replace(swing=setting.swing.map(lambda value: value * factor))
            for axis, setting in turned.items()
        }
    )

"""A layer: one source of motion, its strength on each axis, and its time range."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import Field, model_validator

from zittern.core.axes import AXES, AXIS_INFO, ROTATIONS, TRANSLATIONS, Axis
from zittern.core.documents.by_axis import fields_by_axis
from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.documents.timemarks import RAMP_IN, RAMP_OUT, SPAN
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.envelope import RampShape
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.origins import LayerOrigin
from zittern.core.sources.table import Source

__all__ = ["MAX_WEIGHT", "MOST_SEED", "AxisBoard", "AxisSetting", "Layer", "Seed", "Span", "Spanned"]

# Seeds stay exact in JSON readers that use doubles.
MOST_SEED = 2**53 - 1
MAX_WEIGHT = 10.0
Seed = Annotated[int, Field(ge=0, le=MOST_SEED)]
Span = tuple[Frame, Frame]
Lever = Annotated[float, Field(ge=-10.0, le=10.0)]
# Ramps that fill their span exactly may add up to a little more in binary.
_ROUNDING_FRAMES = 1e-6


class AxisSetting(Doc):
    """Settings of one axis for the layer's source.

    swing: twice the RMS, in the axis' unit (deg, cm, %). pace: multiple of the source's rate. seed: random start of
    this axis alone. linked_to: moves as another axis does, on purpose.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"locked"})

    swing: Annotated[Param, bounded(0.0, 1e5)] = fixed(0.0)
    pace: Annotated[Param, bounded(0.0, 1e3)] = fixed(1.0)
    on: bool = True
    locked: bool = False
    seed: Seed = 0
    linked_to: Axis | None = None

    @property
    def moves(self) -> bool:
        """Return whether the axis has any motion."""
        return self.on and not self.swing.nothing


_Settings: Any = fields_by_axis(lambda info: (AxisSetting, AxisSetting()))


class AxisBoard(_Settings, Doc):
    """The axes of a layer."""

    def of(self, axis: Axis) -> AxisSetting:
        """Return the setting of one axis."""
        setting: AxisSetting = getattr(self, axis)
        return setting

    @model_validator(mode="after")
    def _checked(self) -> Self:
        for info in AXIS_INFO:
            setting = self.of(info.name)
            if setting.linked_to == info.name:
                raise ValueError(f"{info.name} cannot be linked to itself; name another axis or leave it out")
            if setting.linked_to is not None and self.of(setting.linked_to).linked_to is not None:
                raise ValueError(
                    f"{info.name} is linked to {setting.linked_to}, which is linked itself; link both to the same axis"
                )
            most = max(setting.swing.set_values(), default=0.0)
            if most > info.most_swing:
                raise ValueError(f"{info.name} swings by up to {info.most_swing:g} {info.unit}, got {most:g}")
        return self

    @classmethod
    def swings(cls, **values: float) -> AxisBoard:
        """Return a board from fixed swings by axis name."""
        return cls(**{axis: AxisSetting(swing=fixed(value)) for axis, value in values.items() if axis in AXES})


class Spanned(Doc):
    """A part with a span and ramps. Frames of the shot; a missing span means all of it."""

    span_frames: Annotated[Span | None, SPAN] = None
    ramp_in_frames: Annotated[float, RAMP_IN] = Field(default=0.0, ge=0.0, le=1e6)
    ramp_out_frames: Annotated[float, RAMP_OUT] = Field(default=0.0, ge=0.0, le=1e6)
    ramp_shape: RampShape = "smooth"

    @property
    def ends(self) -> tuple[Span | None, float, float, RampShape]:
        """Return the inputs of its ramps, as arguments of `envelope.ramp`."""
        return self.span_frames, self.ramp_in_frames, self.ramp_out_frames, self.ramp_shape

    @model_validator(mode="after")
    def _span(self) -> Self:
        if self.span_frames is not None:
            first, last = self.span_frames
            if last < first:
                raise ValueError(f"a span ends at or after its start, got {first:g} to {last:g}")
            if self.ramp_in_frames + self.ramp_out_frames > last - first + _ROUNDING_FRAMES:
                ramps = self.ramp_in_frames + self.ramp_out_frames
                raise ValueError(
                    f"the ramps take {ramps:g} frames, but the span has only {last - first:g}; shorten them or "
                    f"lengthen the span"
                )
        return self


class Layer(Spanned):
    """value on an axis = swing / 2 x weight(t) x ramp(t) x source(phase(t)), with a source of unit RMS.

    target: the mount that it moves; by default the lens end. steady: pan and tilt scaled by reference focal / focal(t);
    steady_roll: roll too, although a zoom does not change its size. lever_m: distance from the lens back and down to
    the pivot of rotations, so that they also move the lens. phase_offset: added to the phase of its source: cycles,
    steps of a gait, meters of a road. from_preset: its origin. corner: its corner in the clip's blend; without one it
    is active at every position.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset(
        {"id", "name", "mute", "solo", "target", "mode", "from_preset", "corner"}
    )

    id: Id
    name: Label
    source: Source
    seed: Seed
    axes: AxisBoard = AxisBoard()
    weight: Annotated[Param, bounded(0.0, MAX_WEIGHT)] = fixed(1.0)
    speed: Annotated[Param, bounded(0.0, 1e3)] = fixed(1.0)
    mode: Literal["add", "replace"] = "add"
    target: Id | None = None
    steady: bool = False
    steady_roll: bool = False
    lever_m: tuple[Lever, Lever] = (0.0, 0.0)
    phase_offset: float = Field(default=0.0, ge=-1e12, le=1e12)
    mute: bool = False
    solo: bool = False
    from_preset: LayerOrigin | None = None
    corner: Id | None = None

    @cached_property
    def affected_axes(self) -> tuple[Axis, ...]:
        """The axes it moves, those of the lever included."""
        if not any(self.lever_m) or not any(axis in ROTATIONS for axis in self.moving_axes):
            return self.moving_axes
        return tuple(axis for axis in AXES if axis in self.moving_axes or axis in TRANSLATIONS)

    @cached_property
    def moving_axes(self) -> tuple[Axis, ...]:
        """The axes it moves at all."""
        if self.source.absolute:
            return tuple(axis for axis in self.source.axes() if self.axes.of(axis).on)
        return tuple(axis for axis in AXES if self.axes.of(axis).moves)

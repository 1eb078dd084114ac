"""Commands that set numbers and switches."""

from __future__ import annotations

from functools import partial
from typing import Annotated, Any

from pydantic import Field

from zittern.core.axes import AXES, AXIS_INFO, Axis
from zittern.core.documents.doc import Doc
from zittern.core.edits.address import set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import change_layer, find_layer
from zittern.core.edits.titles import layers_title, owners_of, owners_title, title_of
from zittern.core.errors import EditError
from zittern.core.motion.facts import scope_at
from zittern.core.numbers.param import fixed
from zittern.core.shot.layers import AxisSetting, Layer
from zittern.core.shot.shot import Shot

__all__ = ["Assignment", "ScaleSwings", "SetAxisRate", "SetValues"]


class Assignment(Doc):
    """A value for an address. A plain number becomes a fixed one."""

    at: str = Field(max_length=300)
    value: Any


class SetValues(CommandDoc):
    """Set fields, several together as one step."""

    values: Annotated[tuple[Assignment, ...], Field(min_length=1, max_length=500)]

    def apply(self, shot: Shot) -> Shot:
        """Set the values in order."""
        for each in self.values:
            shot = set_at(shot, each.at, each.value)
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Set swing of pan, tilt in “Slow sway”`."""
        first = self.values[0]
        addresses = [each.at for each in self.values]
        if (verb := first.at.rsplit(".", 1)[-1]) in ("mute", "solo"):
            return f"{verb.capitalize() if first.value else f'Un{verb}'} {owners_title(shot, owners_of(addresses))}"
        return f"Set {title_of(shot, addresses)}"


class ScaleSwings(CommandDoc):
    """Multiplies the swings of some axes: whole layers stronger or gentler, in proportion."""

    layers: tuple[str, ...] = Field(min_length=1, max_length=500)
    factor: float = Field(ge=0.0, le=1000.0)
    axes: tuple[Axis, ...] = AXES

    def apply(self, shot: Shot) -> Shot:
        """Locked axes stay."""

        def change(layer: Layer) -> Layer:
            swings: dict[str, AxisSetting] = {}
            for info in AXIS_INFO:
                setting = layer.axes.of(info.name)
                if info.name in self.axes and not setting.locked:
                    swings[info.name] = setting.replace(
                        swing=setting.swing.map(lambda value: value * self.factor).clamped(0.0, info.most_swing)
                    )
            return layer.replace(axes=layer.axes.replace(**swings))

        for layer_id in self.layers:
            shot = change_layer(shot, layer_id, change)
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Scale “Slow sway” to 150 %`, `Scale 3 layers to 50 %`."""
        return f"Scale {layers_title(shot, self.layers)} to {self.factor * 100:.0f} %"


class SetAxisRate(CommandDoc, label="Set rate of {axes} in {layer}"):
    """Set the rate of axes, in Hz.

    Its pace against the source's rate and the speeds of layer and clip, at the first frame. Of a linked axis the one
    that leads is set.
    """

    layer: str
    axes: tuple[Axis, ...]
    rate_hz: float = Field(ge=0.001, le=500.0)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the source stands still."""
        clip, layer = find_layer(shot, self.layer)
        at = scope_at(shot, shot.first_frame)
        base = float(layer.source.peak_hz(at)[0]) * layer.speed.at(at) * clip.speed.at(at)
        if base <= 0.0:
            raise EditError(
                "this source stands still; set its own rate or speed first", f"layer:{self.layer}.source.rate_hz"
            )
        for axis in dict.fromkeys(layer.axes.of(axis).linked_to or axis for axis in self.axes):
            setting = layer.axes.of(axis).replace(pace=fixed(self.rate_hz / base))
            axes = find_layer(shot, self.layer)[1].axes.replace(**{axis: setting})
            shot = change_layer(shot, self.layer, partial(Layer.replace, axes=axes))
        return shot

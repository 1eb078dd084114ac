"""Commands that place presets."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zittern.core.axes import ROTATIONS
from zittern.core.edits.address import find_clip, with_clip
from zittern.core.edits.clips import on_lane
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.ids import free_id
from zittern.core.errors import EditError
from zittern.core.feel import fresh_seed, lens_factor
from zittern.core.numbers.curves import Frame
from zittern.core.presets.preset import Preset
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.shot import Shot

__all__ = ["GoOver", "PlacePreset", "SwapPreset"]


class PlacePreset(CommandDoc):
    """A clip of a preset, over a stretch, or over the whole shot; on a lane, or on one of its own."""

    type: Literal["place_preset"] = "place_preset"
    preset: Preset
    first_frame: Frame | None = None
    last_frame: Frame | None = None
    lane: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Rotations are sized for the lens. With a first frame alone it is as long as the preset says, or goes on to the shot's end."""
        return on_lane(shot, self._clip(shot), self.lane)

    def _clip(self, shot: Shot) -> Clip:
        if self.first_frame is None:
            return clip_of(shot, self.preset)
        length = None if self.preset.length_s is None else round(self.preset.length_s * shot.fps.value)
        last = float(shot.last_frame) if length is None else self.first_frame + length
        last = self.last_frame if self.last_frame is not None else last
        return clip_of(shot, self.preset).replace(span_frames=(self.first_frame, max(last, self.first_frame + 1.0)))

    def label(self, shot: Shot) -> str:
        """`Place “Small boat”`."""
        return f"Place “{self.preset.name}”"


class SwapPreset(CommandDoc):
    """Another preset in place of what a clip holds; its place, ramps and fades stay."""

    type: Literal["swap_preset"] = "swap_preset"
    preset: Preset
    clip: str

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError when the clip is not there."""
        old = find_clip(shot, self.clip)
        made = clip_of(shot, self.preset)
        kept = {name: getattr(old, name) for name in ("id", "span_frames", "ramp_in_frames", "ramp_out_frames", "ramp_shape", "mute")}
        return with_clip(shot, old, made.replace(**kept))

    def label(self, shot: Shot) -> str:
        """`“Small boat” instead of “Run”`."""
        return f"“{self.preset.name}” instead of “{find_clip(shot, self.clip).name}”"


class GoOver(CommandDoc):
    """Lets a clip give way to a preset from a frame on, within some frames: they overlap on its lane and cross-fade."""

    type: Literal["go_over"] = "go_over"
    preset: Preset
    clip: str
    frame: Frame
    within_frames: float = Field(ge=1.0, le=1e6)

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError for a frame that is not inside of the clip."""
        old = find_clip(shot, self.clip)
        first, last = shot.span_of(old)
        if not first < self.frame < last:
            raise EditError(f"frame {self.frame:g} is not inside the clip, which goes from {first:g} to {last:g}", f"clip:{self.clip}")
        end = min(self.frame + self.within_frames, last)
        shorter = old.replace(span_frames=(first, end), ramp_in_frames=min(old.ramp_in_frames, end - first), ramp_out_frames=0.0)
        made = clip_of(shot, self.preset).replace(span_frames=(self.frame, last), ramp_out_frames=min(old.ramp_out_frames, last - self.frame))
        return with_clip(shot, old, shorter, made)

    def label(self, shot: Shot) -> str:
        """`Go over to “Small boat” from frame 96 within 24 frames`."""
        return f"Go over to “{self.preset.name}” from frame {self.frame:g} within {self.within_frames:g} frames"


def clip_of(shot: Shot, preset: Preset) -> Clip:
    """A clip of a preset over the whole shot, its rotations sized for the lens, with ids and random starts of its own."""
    factor = lens_factor(shot)
    known = {mount.id for mount in shot.mounts}
    taken: list[str] = []
    layers = []
    for n, layer in enumerate(preset.layers):
        taken.append(free_id(shot, layer.id, taken))
        seed = layer.seed if preset.keep_seeds else fresh_seed(shot, n + 1)
        target = layer.target if layer.target in known else None
        layers.append(layer.replace(id=taken[-1], seed=seed, target=target, axes=_sized(layer, factor)))
    return Clip(id=free_id(shot, "clip"), name=preset.name, layers=tuple(layers), amount=preset.amount, speed=preset.speed)


def _sized(layer: Layer, factor: float) -> AxisBoard:
    if factor == 1.0:
        return layer.axes
    turned = {axis: layer.axes.of(axis) for axis in ROTATIONS}
    return layer.axes.replace(**{axis: setting.replace(swing=setting.swing.map(lambda value: value * factor)) for axis, setting in turned.items()})

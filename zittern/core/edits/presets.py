"""Commands that place presets, and that bring clips back to theirs."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Id
from zittern.core.edits.clips import on_lane
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_clip, find_lane, with_clip
from zittern.core.edits.rig import put_rig
from zittern.core.errors import EditError
from zittern.core.numbers.curves import Frame
from zittern.core.presets.differences import partners
from zittern.core.presets.fitting import brought, fitting_of
from zittern.core.presets.placed import fitted, layer_of, placed
from zittern.core.presets.preset import CARRIER, Preset
from zittern.core.presets.softening import softened
from zittern.core.shot.clips import Clip
from zittern.core.shot.ids import free_id
from zittern.core.shot.layers import Span
from zittern.core.shot.origins import BroughtDial, ClipOrigin, PresetKey
from zittern.core.shot.seeds import drawn, reseeded
from zittern.core.shot.shot import Shot

__all__ = ["CrossFadeTo", "OfPreset", "PlacePreset", "SwapPreset", "TakeFromPreset", "span_from"]


class OfPreset(CommandDoc):
    """key: key of the preset, stored with the clip."""

    preset: Preset
    key: PresetKey | None = None


def span_from(shot: Shot, first: float | None, last: float | None, length_s: float | None) -> Span | None:
    """Return the span of a placed preset: between two frames, of its own length, or to the shot's end.

    None for the whole shot.
    """
    if first is None:
        return None
    if last is None:
        last = float(shot.last_frame) if length_s is None else first + round(length_s * shot.fps.value)
    return first, max(last, first + 1.0)


class PlacePreset(OfPreset, label="Place “{preset.name}”"):
    """Place a preset as a clip, over a range or the whole shot; on a lane or a new one; optionally with its rig."""

    first_frame: Frame | None = None
    last_frame: Frame | None = None
    lane: str | None = None
    with_rig: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Rotations are sized for the lens.

        With a first frame alone its length is that of the preset, or it extends to the shot's end.
        """
        mounts: dict[str, str] = {}
        span = span_from(shot, self.first_frame, self.last_frame, self.preset.length_s)
        shot, fitting = fitted(shot, self.preset, span)
        if self.with_rig and self.preset.rig:
            shot, mounts = put_rig(shot, tuple(map(fitting.doc, self.preset.rig)))
            mounts[CARRIER] = shot.mounts[-len(self.preset.rig) - 1].id
        with_dials, clip = placed(shot, self.preset, self.key, span, mounts, fitting)
        lane = None if self.lane is None else find_lane(shot, self.lane)
        return on_lane(with_dials, softened(with_dials, clip, lane), self.lane)


class SwapPreset(OfPreset, label="Replace {clip} with “{preset.name}”"):
    """Replace the content of a clip with another preset; its position, ramps and fades stay."""

    clip: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the clip is not there."""
        old = find_clip(shot, self.clip)
        with_dials, made = placed(shot, self.preset, self.key, shot.span_of(old))
        kept = {
            name: getattr(old, name)
            for name in ("id", "span_frames", "ramp_in_frames", "ramp_out_frames", "ramp_shape", "mute")
        }
        return with_clip(with_dials, old, made.replace(**kept))


class CrossFadeTo(OfPreset, label="Cross-fade to “{preset.name}” from frame {frame:g} within {within_frames:g} frames"):
    """Cross-fade a clip to a preset from a frame on: both overlap on the lane."""

    clip: str
    frame: Frame
    within_frames: float = Field(ge=1.0, le=1e6)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a frame that is not inside of the clip."""
        old = find_clip(shot, self.clip)
        first, last = shot.span_of(old)
        if not first < self.frame < last:
            raise EditError(
                f"frame {self.frame:g} is not inside the clip, which goes from {first:g} to {last:g}",
                f"clip:{self.clip}",
            )
        end = min(self.frame + self.within_frames, last)
        shorter = old.replace(
            span_frames=(first, end), ramp_in_frames=min(old.ramp_in_frames, end - first), ramp_out_frames=0.0
        )
        with_dials, clip = placed(shot, self.preset, self.key, (self.frame, last))
        made = clip.replace(ramp_out_frames=min(old.ramp_out_frames, last - self.frame))
        return with_clip(with_dials, old, shorter, made)


class TakeFromPreset(CommandDoc, label="Revert {clip} to its preset"):
    """Revert parts of a clip to its preset, or update them.

    parts: layers of the preset to take, which are restored if missing. drop: layers of the clip to remove. settings:
    amount and speed too. Individual properties of a layer stay: random phase, mute and solo.
    """

    preset: Preset
    clip: str
    parts: Annotated[tuple[Id, ...], Field(max_length=100)] = ()
    drop: Annotated[tuple[Id, ...], Field(max_length=500)] = ()
    settings: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for a clip that came from no preset, and for layers that are not there.
        """
        clip = find_clip(shot, self.clip)
        if clip.from_preset is None:
            raise EditError(f"“{clip.name}” was not placed from a preset", f"clip:{self.clip}")
        missing = ({*self.parts} - {part.id for part in self.preset.layers}) | (
            {*self.drop} - {layer.id for layer in clip.layers}
        )
        if missing:
            raise EditError(f"there is no layer {min(missing)!r}; it may have been removed", f"clip:{self.clip}")
        with_dials, known = self._with_dials(shot, clip, clip.from_preset)
        with_seeds, seeds = drawn(with_dials, len(self.preset.layers))
        return with_clip(with_seeds, clip, self._taken(with_seeds, known, seeds))

    def _with_dials(self, shot: Shot, clip: Clip, origin: ClipOrigin) -> tuple[Shot, Clip]:
        """Add dials of the preset that the shot lacks; the clip stores their names."""
        present = {dial.name for dial in shot.dials}
        held = tuple(each for each in origin.dials if each.name in present)
        wanted = tuple(dial for dial in self.preset.dials if all(dial.name != each.brought for each in held))
        names, fresh = brought(shot, wanted)
        dials = (*held, *(BroughtDial(brought=dial.name, name=names.get(dial.name, dial.name)) for dial in wanted))
        known = clip.replace(from_preset=origin.replace(dials=dials, name=self.preset.name))
        fitting = fitting_of(shot, known, self.preset)
        return shot.replace(dials=(*shot.dials, *map(fitting.doc, fresh))) if fresh else shot, known

    def _taken(self, shot: Shot, clip: Clip, seeds: tuple[int, ...]) -> Clip:
        fitting = fitting_of(shot, clip, self.preset)
        key = clip.from_preset.preset if clip.from_preset else None
        held = partners(clip, self.preset)
        layers = [layer for layer in clip.layers if layer.id not in self.drop]
        at = 0  # where a layer that is missing goes: above the one before it
        for n, part in enumerate(self.preset.layers):
            layer = held.get(part.id)
            if layer is not None and layer in layers:
                at = layers.index(layer)
                if part.id in self.parts:
                    made = layer_of(shot, fitting, part, key, shot.span_of(clip)).replace(
                        id=layer.id, mute=layer.mute, solo=layer.solo, target=layer.target
                    )
                    layers[at] = made if self.preset.keep_seeds else reseeded(made, layer.seed)
                at += 1
            elif part.id in self.parts:
                free = free_id(shot, part.id, (each.id for each in layers))
                made = layer_of(shot, fitting, part, key, shot.span_of(clip)).replace(id=free)
                layers.insert(at, made if self.preset.keep_seeds else reseeded(made, seeds[n]))
                at += 1
        settings = (
            {name: fitting.doc(getattr(self.preset, name)) for name in ("amount", "speed")} if self.settings else {}
        )
        return clip.replace(layers=tuple(layers), **settings)

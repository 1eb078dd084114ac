"""Commands on layers."""

from __future__ import annotations

from pydantic import Field

from zittern.core.axes import AXES, ROTATIONS, Axis
from zittern.core.documents.doc import Doc
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import change_layer, find_clip, find_layer, replace_layers, with_clip
from zittern.core.edits.titles import layers_title, named
from zittern.core.noise import streams
from zittern.core.presets.feel import handheld, lens_factor
from zittern.core.presets.responding import responding
from zittern.core.presets.softening import softened
from zittern.core.shot.clips import Clip
from zittern.core.shot.ids import free_id, free_name, names_in, take_id
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import AxisBoard, Layer, Span
from zittern.core.shot.seeds import drawn, reseeded
from zittern.core.shot.shot import Shot
from zittern.core.sources.table import Kind, row_of

__all__ = [
    "AddHandheld",
    "AddLayer",
    "CopyAxis",
    "DuplicateLayers",
    "LinkAxes",
    "MoveLayer",
    "NewSeeds",
    "PasteLayers",
    "RemoveLayers",
    "SetSource",
]


class AddLayer(CommandDoc):
    """A new layer of a source, with its own visible defaults, on top of a clip (the shot's own when left out)."""

    source: Kind
    clip: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Rotations are sized for the lens."""
        row = row_of(self.source)
        factor = lens_factor(shot)
        swings = {axis: value * (factor if axis in ROTATIONS else 1.0) for axis, value in row.swings.items()}
        shot, (seed,) = drawn(shot, 1)
        layer = Layer.model_validate(
            {
                "id": free_id(shot, self.source),
                "name": row.title,
                "source": row.make(),
                "seed": seed,
                "axes": AxisBoard.swings(**swings),
            }
        )
        layer = reseeded(layer, seed)
        return _on_top(shot, self.clip, (layer.replace(source=responding(shot, layer.source, self._span(shot))),))

    def _span(self, shot: Shot) -> Span:
        return shot.span_of(find_clip(shot, self.clip)) if self.clip is not None else shot.span

    def label(self, shot: Shot) -> str:
        """Return `Add noise layer`."""
        return f"Add {row_of(self.source).title.lower()} layer"


class AddHandheld(CommandDoc, label="Add handheld feel"):
    """The starting handheld feel: a slow and a fine fast layer."""

    clip: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Two layers."""
        shot, layers = handheld(shot, (free_id(shot, "sway"), free_id(shot, "shake")))
        return _on_top(shot, self.clip, layers)


class PasteLayers(CommandDoc):
    """Paste layers with free ids; their random phases are kept, so that their motion is unchanged."""

    layers: tuple[Layer, ...] = Field(min_length=1, max_length=500)
    clip: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Return a target mount that this shot does not have falls back to the lens end."""
        known, taken = {mount.id for mount in shot.mounts}, names_in(shot)
        pasted = []
        for layer in self.layers:
            free = take_id(layer.source.kind, taken)
            target = layer.target if layer.target in known else None
            pasted.append(layer.replace(id=free, target=target, from_preset=None, corner=None))
        return _on_top(shot, self.clip, tuple(pasted))

    def label(self, shot: Shot) -> str:
        """Return `Paste “Slow sway”`, `Paste 3 layers`."""
        return f"Paste {named([layer.name for layer in self.layers])}"


class RemoveLayers(CommandDoc, label="Remove {layers}"):
    """Remove layers; an empty clip over the whole shot is removed with its lane."""

    layers: tuple[str, ...] = Field(min_length=1)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when one is not there."""
        for layer_id in self.layers:
            find_layer(shot, layer_id)
        left: list[Lane] = []
        for lane in shot.lanes:
            clips = tuple(clip for clip in map(self._thinned, lane.clips) if clip is not None)
            if clips or not lane.clips:
                left.append(lane if clips == lane.clips else lane.replace(clips=clips))
        return shot.replace(lanes=tuple(left))

    def _thinned(self, clip: Clip) -> Clip | None:
        kept = tuple(layer for layer in clip.layers if layer.id not in self.layers)
        if len(kept) == len(clip.layers):
            return clip
        return clip.replace(layers=kept) if kept or clip.span_frames is not None else None


class DuplicateLayers(CommandDoc, label="Duplicate {layers}"):
    """Duplicate layers right above, each with a new random phase unless it should be identical."""

    layers: tuple[str, ...] = Field(min_length=1, max_length=500)
    keep_seed: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Each copy is placed above its original."""
        ids = tuple(dict.fromkeys(self.layers))
        taken, instead = names_in(shot), {}
        originals = [find_layer(shot, layer_id)[1] for layer_id in ids]
        shot, seeds = (shot, (None,) * len(ids)) if self.keep_seed else drawn(shot, len(ids))
        for layer, seed in zip(originals, seeds, strict=True):
            free = take_id(layer.source.kind, taken)
            copy = layer.replace(id=free, name=f"{layer.name[:110]} copy", solo=False, from_preset=None)
            instead[layer.id] = (layer, copy if seed is None else reseeded(copy, seed))
        return replace_layers(shot, instead)


class MoveLayer(CommandDoc, label="Reorder {layer}"):
    """Move a layer up or down within its clip."""

    layer: str
    index: int = Field(ge=0)

    def apply(self, shot: Shot) -> Shot:
        """Index counts from the bottom."""
        clip, layer = find_layer(shot, self.layer)
        others = [each for each in clip.layers if each is not layer]
        others.insert(min(self.index, len(others)), layer)
        return _with_layers(shot, clip, tuple(others))


class NewSeeds(CommandDoc):
    """A new random start, for whole layers or for some of their axes."""

    layers: tuple[str, ...] = Field(min_length=1, max_length=500)
    axes: tuple[Axis, ...] | None = None

    def apply(self, shot: Shot) -> Shot:
        """Locked axes keep theirs when axes are named."""
        layers = [find_layer(shot, layer_id)[1] for layer_id in dict.fromkeys(self.layers)]
        if self.axes is not None:
            changed = [layer.replace(axes=_reseeded(layer.axes, self.axes)) for layer in layers]
        else:
            shot, seeds = drawn(shot, len(layers))
            changed = [reseeded(layer, seed) for layer, seed in zip(layers, seeds, strict=True)]
        return replace_layers(shot, {layer.id: (layer,) for layer in changed})

    def label(self, shot: Shot) -> str:
        """Return the label: `New seed of pan in “Slow sway”`."""
        of = f" of {', '.join(self.axes)}" if self.axes else ""
        return f"New seed{of} in {layers_title(shot, self.layers)}"


class CopyAxis(CommandDoc):
    """Copy the settings of one axis to others, with new random phases, so that the motion is not diagonal."""

    layer: str
    axis: Axis
    to: tuple[Axis, ...] = Field(min_length=1)

    def apply(self, shot: Shot) -> Shot:
        """Copy swing, rate and switch; locked axes are unchanged."""

        def change(layer: Layer) -> Layer:
            model = layer.axes.of(self.axis)
            targets = tuple(axis for axis in self.to if axis != self.axis and not layer.axes.of(axis).locked)
            copies = {
                axis: layer.axes.of(axis).replace(swing=model.swing, pace=model.pace, on=model.on, linked_to=None)
                for axis in targets
            }
            return layer.replace(axes=_reseeded(layer.axes.replace(**copies), targets))

        return change_layer(shot, self.layer, change)

    def label(self, shot: Shot) -> str:
        """Return `Copy pan to tilt, roll`."""
        return f"Copy {self.axis} to {', '.join(self.to)}"


class LinkAxes(CommandDoc):
    """Link axes to another one; without `to` they are unlinked."""

    layer: str
    axes: tuple[Axis, ...] = Field(min_length=1)
    to: Axis | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a link to itself or to a linked axis."""

        def change(layer: Layer) -> Layer:
            links = {axis: layer.axes.of(axis).replace(linked_to=self.to) for axis in self.axes if axis != self.to}
            return layer.replace(axes=layer.axes.replace(**links))

        return change_layer(shot, self.layer, change)

    def label(self, shot: Shot) -> str:
        """Return `Link tilt to pan`."""
        return f"Link {', '.join(self.axes)} to {self.to}" if self.to else f"Unlink {', '.join(self.axes)}"


class SetSource(CommandDoc, label="Make {layer} a {source}"):
    """Another source for a layer; its axes keep their swings."""

    layer: str
    source: Kind

    def apply(self, shot: Shot) -> Shot:
        """Return the new source starts from its defaults."""
        return change_layer(
            shot, self.layer, lambda layer: reseeded(layer.replace(source=row_of(self.source).make()), layer.seed)
        )


def _reseeded(board: AxisBoard, axes: tuple[Axis, ...]) -> AxisBoard:
    changes: dict[str, Doc] = {}
    for axis in axes:
        setting = board.of(axis)
        if not setting.locked:
            changes[axis] = setting.replace(seed=streams.next_seed(streams.mix(setting.seed, AXES.index(axis))))
    return board.replace(**changes)


def _with_layers(shot: Shot, clip: Clip, layers: tuple[Layer, ...]) -> Shot:
    return with_clip(shot, clip, clip.replace(layers=layers))


def _on_top(shot: Shot, clip_id: str | None, layers: tuple[Layer, ...]) -> Shot:
    """Place layers on top of a clip.

    Without one, the clip that spans the shot is used, or created on a new lane.
    """
    if clip_id is not None:
        clip = find_clip(shot, clip_id)
        if not clip.layers and clip.span_frames is not None:
            clip, empty = softened(shot, clip.replace(layers=layers)).replace(layers=()), clip
            shot = with_clip(shot, empty, clip)
        return _with_layers(shot, clip, (*clip.layers, *layers))
    for clip in shot.clips():
        if clip.span_frames is None:
            return _with_layers(shot, clip, (*clip.layers, *layers))
    clip = Clip(id=free_name("main", names_in(shot)), name="Whole shot", layers=layers)
    return shot.replace(lanes=(*shot.lanes, Lane.of(clip)))

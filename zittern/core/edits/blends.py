"""Commands on blends: clips or presets become the corners of one, corners change, a blend becomes a plain clip."""

from __future__ import annotations

from itertools import count
from typing import Annotated, Literal

from pydantic import Field

from zittern.core.axes import AXES
from zittern.core.documents.doc import Doc
from zittern.core.edits.clips import on_lane, without_clip
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_clip, with_clip
from zittern.core.edits.presets import OfPreset, span_from
from zittern.core.edits.recording import RecordKeys, Sample
from zittern.core.errors import EditError, faults_as
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.param import Number, fixed
from zittern.core.presets.placed import placed
from zittern.core.presets.preset import Preset
from zittern.core.shot.blends import Blend, Corner
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import MAX_WEIGHT, Layer, Span
from zittern.core.shot.origins import PresetKey
from zittern.core.shot.pad import FEWEST_CORNERS, MOST_CORNERS
from zittern.core.shot.shot import Shot

__all__ = [
    "AddBlend",
    "BlendClips",
    "FillCorner",
    "PlaceSample",
    "PresetOfCorner",
    "RecordPlace",
    "RemoveCorner",
    "SwapCorners",
    "find_blend",
    "of_no_corner",
    "times",
]


class BlendClips(CommandDoc):
    """Convert several clips to one with these as corners; it replaces the first, over the time of all of them.

    Where the first is a blend, the others become further corners of it.
    """

    clips: Annotated[tuple[str, ...], Field(min_length=FEWEST_CORNERS, max_length=MOST_CORNERS)]
    method: Literal["mix", "morph"] = "mix"

    def apply(self, shot: Shot) -> Shot:
        """Amounts and speeds go into the layers.

        Raises EditError for a clip twice, for a second blend, for too many corners, and for a clip whose amount or
        speed changes over time.
        """
        if len(set(self.clips)) < len(self.clips):
            raise EditError("a clip can be only one corner; name each once", "clips")
        parts = [find_clip(shot, each) for each in self.clips]
        made = _blend_of(parts, self.method)
        for each in parts[1:]:
            shot = without_clip(shot, find_clip(shot, each.id))
        return with_clip(shot, find_clip(shot, parts[0].id), made)

    def label(self, shot: Shot) -> str:
        """Return `Blend “Walk” and “Run”`."""
        return f"Blend {_names([find_clip(shot, each).name for each in self.clips])}"


class PresetOfCorner(Doc):
    """A preset and its key."""

    preset: Preset
    key: PresetKey | None = None


class AddBlend(CommandDoc):
    """A clip that blends presets, over a stretch, or over the whole shot."""

    presets: Annotated[tuple[PresetOfCorner, ...], Field(min_length=FEWEST_CORNERS, max_length=MOST_CORNERS)]
    method: Literal["mix", "morph"] = "mix"
    first_frame: Frame | None = None
    last_frame: Frame | None = None
    lane: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Each preset is sized for the lens, as when it is placed alone.

        Raises EditError for one that cannot be a corner.
        """
        span = span_from(shot, self.first_frame, self.last_frame, None)
        parts: list[Clip] = []
        for each in self.presets:
            shot, clip = placed(shot, each.preset, each.key, span)
            # Placed for a moment, so that the ids of the next are others.
            shot = on_lane(shot, clip, None)
            parts.append(clip)
        made = _blend_of(parts, self.method)
        for part in parts:
            shot = without_clip(shot, find_clip(shot, part.id))
        return on_lane(shot, made, self.lane)

    def label(self, shot: Shot) -> str:
        """Return `Blend “Walk” and “Run”`."""
        return f"Blend {_names([each.preset.name for each in self.presets])}"


class FillCorner(OfPreset, label="Put “{preset.name}” into a corner of {clip}"):
    """Replace a corner with another preset."""

    clip: str
    corner: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the corner is not there, or the preset cannot be one."""
        clip, blend, at = find_blend(shot, self.clip, self.corner)
        with_dials, content = placed(shot, self.preset, self.key, clip.span_frames)
        layers = (*(each for each in clip.layers if each.corner != self.corner), *_content(content, self.corner))
        named = tuple(
            corner.replace(name=self.preset.name) if n == at else corner for n, corner in enumerate(blend.corners)
        )
        return with_clip(
            with_dials,
            find_clip(with_dials, self.clip),
            _with_corners(clip, blend, named).replace(layers=layers),
        )


class PlaceSample(Doc):
    """Pointer position at a frame: percent from the left and lower edge of the pad."""

    frame: Frame
    across: float = Field(ge=0.0, le=100.0)
    up: float = Field(default=50.0, ge=0.0, le=100.0)


class RecordPlace(CommandDoc):
    """Key the position on the pad from recorded samples, both of its numbers in one step."""

    clip: str
    samples: Annotated[tuple[PlaceSample, ...], Field(min_length=1, max_length=100_000)]

    def apply(self, shot: Shot) -> Shot:
        """With several samples at a frame, the last is used. Raises EditError when the clip is no blend."""
        _, blend, _ = find_blend(shot, self.clip, None)
        for name in ("across", "up") if len(blend.corners) > FEWEST_CORNERS else ("across",):
            samples = tuple(Sample(frame=each.frame, value=getattr(each, name)) for each in self.samples)
            shot = RecordKeys(at=f"clip:{self.clip}.blend.{name}_percent", samples=samples).apply(shot)
        return shot

    def label(self, shot: Shot) -> str:
        """Return `Record place in “Walk … run” from frame 10 to 90`."""
        frames = [each.frame for each in self.samples]
        return f"Record place in “{find_clip(shot, self.clip).name}” from frame {min(frames):g} to {max(frames):g}"


class SwapCorners(CommandDoc, label="Swap corners of {clip}"):
    """Swap two corners; the position on the pad is unchanged."""

    clip: str
    corner: str
    other: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when a corner is not there."""
        clip, blend, a = find_blend(shot, self.clip, self.corner)
        _, _, b = find_blend(shot, self.clip, self.other)
        order = list(blend.corners)
        order[a], order[b] = order[b], order[a]
        return with_clip(shot, clip, _with_corners(clip, blend, tuple(order)))


class RemoveCorner(CommandDoc):
    """Remove a corner with its layers; a blend with one corner becomes a plain clip."""

    clip: str
    corner: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the corner is not there."""
        clip, blend, at = find_blend(shot, self.clip, self.corner)
        layers = tuple(each for each in clip.layers if each.corner != self.corner)
        left = tuple(corner for n, corner in enumerate(blend.corners) if n != at)
        if len(left) >= FEWEST_CORNERS:
            return with_clip(shot, clip, _with_corners(clip, blend, left).replace(layers=layers))
        plain = clip.replace(name=_named(clip, blend, left), layers=of_no_corner(layers), blend=None)
        return with_clip(shot, clip, plain)

    def label(self, shot: Shot) -> str:
        """Return `Remove corner “Run”`."""
        _, blend, at = find_blend(shot, self.clip, self.corner)
        return f"Remove corner “{blend.corners[at].name}”"


def find_blend(shot: Shot, clip_id: str, corner: str | None) -> tuple[Clip, Blend, int]:
    """Return a clip, its blend, and the place of a corner. Raises EditError."""
    clip = find_clip(shot, clip_id)
    if clip.blend is None:
        raise EditError(f"“{clip.name}” is not a blend", f"clip:{clip_id}")
    at = 0 if corner is None else clip.blend.index_of(corner)
    if at is None:
        raise EditError(f"there is no corner {corner!r}; it may have been removed", f"clip:{clip_id}")
    return clip, clip.blend, at


def _blend_of(parts: list[Clip], method: Literal["mix", "morph"]) -> Clip:
    """Return several clips as the corners of one, which has the id, ramps and clock of the first. Raises EditError."""
    first = parts[0]
    old = first.blend
    fresh = parts if old is None else parts[1:]
    taken = set() if old is None else {corner.id for corner in old.corners}
    free = (name for n in count(1) if (name := f"corner-{n}") not in taken)
    corners = tuple(Corner(id=name, name=clip.name) for clip, name in zip(fresh, free, strict=False))
    layers = tuple(layer for clip, each in zip(fresh, corners, strict=True) for layer in _content(clip, each.id))
    if old is not None:
        if len(old.corners) + len(corners) > MOST_CORNERS:
            raise EditError(f"a blend can have up to {MOST_CORNERS} corners; remove one first", f"clip:{first.id}")
        more = _with_corners(first, old, (*old.corners, *corners))
        return more.replace(layers=(*first.layers, *layers), span_frames=_over(parts))
    return first.replace(
        name=_name_of(corners), layers=layers, span_frames=_over(parts), from_preset=None,
        amount=fixed(1.0), speed=fixed(1.0), mute=False, blend=Blend(method=method, corners=corners),
    )  # fmt: skip


def _with_corners(clip: Clip, blend: Blend, corners: tuple[Corner, ...]) -> Clip:
    """Return a blend with other corners."""
    return clip.replace(name=_named(clip, blend, corners), blend=blend.replace(corners=corners))


def _named(clip: Clip, blend: Blend, corners: tuple[Corner, ...]) -> str:
    """Return a generated name lists the corners and follows them; a name by the user stays."""
    return _name_of(corners) if clip.name == _name_of(blend.corners) else clip.name


def _name_of(corners: tuple[Corner, ...]) -> str:
    return " … ".join(corner.name for corner in corners)[:120]


def _over(parts: list[Clip]) -> Span | None:
    """Return the time of all of several clips."""
    spans = [clip.span_frames for clip in parts if clip.span_frames is not None]
    whole = len(spans) < len(parts)
    return None if whole else (min(first for first, _ in spans), max(last for _, last in spans))


def _content(clip: Clip, corner: str) -> tuple[Layer, ...]:
    """Return the layers of a clip in a corner, its amount and speed in them. Raises EditError."""
    if clip.blend is not None:
        raise EditError(f"“{clip.name}” is a blend itself; bake it to one clip first", f"clip:{clip.id}")
    factors = []
    for what, number in (("amount", clip.amount), ("speed", clip.speed)):
        if number.constant is None:
            raise EditError(
                f"the {what} of “{clip.name}” changes over time; set it to a fixed number first",
                f"clip:{clip.id}.{what}",
            )
        factors.append(number.constant)
    amount, speed = factors
    return tuple(
        _strengthened(layer, amount).replace(
            corner=corner, mute=layer.mute or clip.mute, speed=times(layer.speed, speed)
        )
        for layer in clip.layers
    )


def _strengthened(layer: Layer, factor: float) -> Layer:
    """Return a layer with a multiple of its motion.

    It is applied to the weight where that is a fixed number within its limits, else to the swings. The weight of a
    replacing layer stays: it is the share that is replaced. Raises EditError.
    """
    weight = layer.weight.constant
    by_weight = factor <= 1.0 or (weight is not None and weight * factor <= MAX_WEIGHT)
    if factor == 1.0 or (by_weight and (layer.mode == "add" or layer.source.absolute)):
        return layer.replace(weight=times(layer.weight, factor))
    with faults_as(EditError, f"layer:{layer.id}.weight"):
        if layer.source.absolute:
            raise EditError(
                f"“{layer.name}” has a weight that would exceed {MAX_WEIGHT:g} with the amount {factor:g} of its clip; "
                f"lower one of them first",
                f"layer:{layer.id}.weight",
            )
        board = {axis: layer.axes.of(axis) for axis in AXES}
        return layer.replace(
            axes={axis: setting.replace(swing=times(setting.swing, factor)) for axis, setting in board.items()}
        )


def times(number: Number, factor: float) -> Number:
    """Return a scaled number."""
    return number if factor == 1.0 else number.map(lambda value: value * factor)


def of_no_corner(layers: list[Layer] | tuple[Layer, ...]) -> tuple[Layer, ...]:
    """Layers that belong to no corner."""
    return tuple(layer.replace(corner=None) for layer in layers)


def _names(names: list[str]) -> str:
    return f"{', '.join(f'“{name}”' for name in names[:-1])} and “{names[-1]}”"

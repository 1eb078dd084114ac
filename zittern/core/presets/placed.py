"""From a preset to a clip of a shot, and back."""

from __future__ import annotations

from collections.abc import Mapping

from zittern.core.errors import DocumentError, EditError, faults_as
from zittern.core.feel import lens_factor
from zittern.core.presets.fitting import Fitting, brought
from zittern.core.presets.preset import CARRIER, Preset
from zittern.core.presets.responding import responding
from zittern.core.shot.clips import Clip, Clock
from zittern.core.shot.dials import Dial
from zittern.core.shot.frames import Retiming, retimed
from zittern.core.shot.ids import free_id
from zittern.core.shot.layers import Layer, Span
from zittern.core.shot.mounts import Mount
from zittern.core.shot.origins import BroughtDial, ClipOrigin, LayerOrigin
from zittern.core.shot.reads import reads_of
from zittern.core.shot.seeds import drawn, reseeded
from zittern.core.shot.shot import Shot

__all__ = ["fitted", "layer_of", "of_clip", "of_layers", "placed", "saved"]


def fitted(shot: Shot, preset: Preset, span: Span | None = None) -> tuple[Shot, Fitting]:
    """How a preset fits over a span of a shot, or over all of it, and the shot with the dials that it brings."""
    names, fresh = brought(shot, preset.dials)
    start = float(shot.first_frame) if span is None else span[0]
    fitting = Fitting(lens_factor(shot), Retiming(start, shot.fps.value / preset.fps.value), names)
    return shot.replace(dials=(*shot.dials, *map(fitting.doc, fresh))) if fresh else shot, fitting


def placed(
    shot: Shot,
    preset: Preset,
    key: str | None,
    span: Span | None = None,
    mounts: Mapping[str, str] | None = None,
    fitting: Fitting | None = None,
) -> tuple[Shot, Clip]:
    """The shot with the dials that a preset brings, and a clip of the preset that is not in it yet: over a span, or
    over the whole shot, its time counted from there, its rotations sized for the lens, with ids and seeds of its own.
    key: what it remembers to have come from. mounts: what the mounts of its rig, and what they stand on, are called in
    the shot, where they were put there. fitting: how it fits, where its dials are there already.
    """
    if fitting is None:
        shot, fitting = fitted(shot, preset, span)
    start, _ = heard = span or (float(shot.first_frame), float(shot.last_frame))
    shot, seeds = drawn(shot, len(preset.layers))
    taken: list[str] = []
    layers = []
    for layer, seed in zip(preset.layers, seeds, strict=True):
        taken.append(free_id(shot, layer.id, taken))
        made = layer_of(shot, fitting, layer, key, heard, mounts).replace(id=taken[-1])
        layers.append(made if preset.keep_seeds else reseeded(made, seed))
    dials = tuple(BroughtDial(brought=dial.name, name=fitting.names.get(dial.name, dial.name)) for dial in preset.dials)
    clip = Clip(
        id=free_id(shot, "clip"), name=preset.name, span_frames=span, layers=tuple(layers),
        amount=fitting.doc(preset.amount), speed=fitting.doc(preset.speed),
        clock=clock_of(shot, preset, start),
        from_preset=None if key is None else ClipOrigin(preset=key, name=preset.name, factor=fitting.factor,
            dials=dials),
    )  # fmt: skip
    return shot, clip


def clock_of(shot: Shot, preset: Preset, start: float) -> Clock | None:
    """The clock of a clip of a preset that starts at a frame: its time begins there. None where it would say
    nothing.
    """
    per_frame = shot.fps.value / preset.fps.value
    if preset.clock is None:
        behind = start - shot.first_frame
        return None if behind == 0.0 else Clock(start_frame=start, later_frames=behind)
    moved = retimed(preset.clock, Retiming(start, per_frame))
    return moved.replace(later_frames=moved.later_frames + start - shot.first_frame)


def layer_of(
    shot: Shot, fitting: Fitting, layer: Layer, key: str | None, span: Span, mounts: Mapping[str, str] | None = None
) -> Layer:
    """A preset's layer as it is over a span of a shot; what moves a part of the rig that is not there moves the lens
    end.
    """
    target = (mounts or {}).get(layer.target or "", layer.target)
    target = target if any(mount.id == target for mount in shot.mounts) else None
    origin = None if key is None else LayerOrigin(preset=key, layer=layer.id, content=layer.content_print)
    fitted = fitting.layer(layer)
    return fitted.replace(target=target, from_preset=origin, source=responding(shot, fitted.source, span))


def of_clip(shot: Shot, clip_id: str, name: str, rig: bool = False) -> Preset:
    """A clip as a preset. Raises EditError for a clip that is not there, or is empty; DocumentError for more layers
    than a preset may have.
    """
    clip = next((clip for clip in shot.clips() if clip.id == clip_id), None)
    if clip is None:
        raise EditError(f"there is no clip {clip_id!r}; it may have been removed", "clip")
    if not clip.layers:
        raise EditError(f"“{clip.name}” has no layers yet; a preset has at least one", f"clip:{clip_id}")
    return saved(shot, (clip,), clip.layers, name, rig)


def of_layers(shot: Shot, ids: tuple[str, ...], name: str, rig: bool = False) -> Preset:
    """Some layers as a preset, in the shot's order. Raises EditError for none, and for one that is not there."""
    found = [(clip, layer) for clip, layer in shot.layers() if layer.id in ids]
    missing = set(ids) - {layer.id for _, layer in found}
    if missing or not found:
        raise EditError(
            f"there is no layer {min(missing)!r}; it may have been removed"
            if missing
            else "select a clip or layers to save",
            "layers",
        )
    return saved(
        shot, tuple({clip.id: clip for clip, _ in found}.values()), tuple(layer for _, layer in found), name, rig
    )


def saved(shot: Shot, clips: tuple[Clip, ...], layers: tuple[Layer, ...], name: str, rig: bool = False) -> Preset:
    """A preset of layers of some clips, which moves as they do, from where the first of them is heard. Amount and speed
    are the clip's when it is one, and so is the length where it has one. rig: with what holds the camera.
    """
    only = clips[0] if len(clips) == 1 else None
    first, last = _heard(shot, clips, layers)
    fitting = Fitting(1.0 / lens_factor(shot), Retiming(shift_frames=-first), {})
    mounts = tuple(map(fitting.doc, _held_by(shot))) if rig else ()
    own = tuple(
        fitting.layer(layer).replace(solo=False, from_preset=None, target=_target(layer, mounts, rig))
        for layer in layers
    )
    amounts = {} if only is None else {"amount": fitting.doc(only.amount), "speed": fitting.doc(only.speed)}
    spanned = all(layer.span_frames is not None for layer in layers) or all(
        clip.span_frames is not None for clip in clips
    )
    whole = (float(shot.first_frame), float(shot.last_frame))
    clock = None
    if only is not None and (only.clock is not None or only.clock_in(whole).start_frame != first):
        moved = retimed(only.clock_in(whole), fitting.timing)
        clock = moved.replace(later_frames=moved.later_frames + shot.first_frame - first)
    with faults_as(DocumentError):
        return Preset(
        name=name, fps=shot.fps, layers=own, rig=mounts,
        dials=tuple(map(fitting.doc, _read_by(shot, (*own, *mounts, *amounts.values())))),
        length_s=(last - first) / shot.fps.value or None if spanned else None, clock=clock, **amounts,
    )  # fmt: skip


def _heard(shot: Shot, clips: tuple[Clip, ...], layers: tuple[Layer, ...]) -> Span:
    """First and last frame of what is saved: the span of a clip that has one and is saved whole, else where its
    layers are heard.
    """
    spans = []
    for clip in clips:
        first, last = shot.span_of(clip)
        if clip.span_frames is not None and all(layer in layers for layer in clip.layers):
            spans.append(clip.span_frames)
            continue
        own = [layer.span_frames or (first, last) for layer in clip.layers if layer in layers] or [(first, last)]
        spans += [(min(max(a, first), last), max(min(b, last), first)) for a, b in own]
    return min(a for a, _ in spans), max(b for _, b in spans)


def _held_by(shot: Shot) -> tuple[Mount, ...]:
    """The mounts behind the last one that moves of itself."""
    last = max((n for n, mount in enumerate(shot.mounts) if not mount.rigid or mount.ride is not None), default=0)
    return tuple(mount.replace(operator=None, mute=False, solo=False) for mount in shot.mounts[last + 1 :])


def _target(layer: Layer, rig: tuple[Mount, ...], with_rig: bool) -> str | None:
    if not with_rig or layer.target is None or any(mount.id == layer.target for mount in rig):
        return layer.target
    return CARRIER if rig else None


def _read_by(shot: Shot, docs: tuple[object, ...]) -> tuple[Dial, ...]:
    """The dials that some documents read, and those that these read, in the shot's order."""
    by_name = {dial.name: dial for dial in shot.dials}
    found: set[str] = set()
    todo = [name for doc in docs for name in reads_of(doc)]  # type: ignore[arg-type]
    while todo:
        name = todo.pop()
        if name in by_name and name not in found:
            found.add(name)
            todo.extend(reads_of(by_name[name]))
    return tuple(dial for dial in shot.dials if dial.name in found)

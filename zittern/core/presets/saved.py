"""From clips and layers of a shot to a preset."""

from __future__ import annotations

from zittern.core.errors import DocumentError, EditError, faults_as
from zittern.core.presets.feel import lens_factor
from zittern.core.presets.fitting import Fitting
from zittern.core.presets.preset import CARRIER, Preset
from zittern.core.shot.clips import Clip
from zittern.core.shot.dials import Dial
from zittern.core.shot.layers import Layer, Span
from zittern.core.shot.mounts import Mount
from zittern.core.shot.reads import reads_of
from zittern.core.shot.shot import Shot
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["of_clip", "of_layers", "saved"]


def of_clip(shot: Shot, clip_id: str, name: str, rig: bool = False) -> Preset:
    """Return a clip as a preset.

    Raises EditError for a clip that is not there, or is empty; DocumentError for more layers than a preset may have.
    """
    clip = next((clip for clip in shot.clips() if clip.id == clip_id), None)
    if clip is None:
        raise EditError(f"there is no clip {clip_id!r}; it may have been removed", "clip")
    if not clip.layers:
        raise EditError(f"“{clip.name}” has no layers yet; a preset has at least one", f"clip:{clip_id}")
    return saved(shot, (clip,), clip.layers, name, rig)


def of_layers(shot: Shot, ids: tuple[str, ...], name: str, rig: bool = False) -> Preset:
    """Return some layers as a preset, in the shot's order. Raises EditError for none, and for one that is not there."""
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
    """Return a preset of layers of some clips, with the same motion, from their first active frame.

    Amount and speed are the clip's when it is one, and so is the length where it has one. rig: with what holds the
    camera.
    """
    only = clips[0] if len(clips) == 1 else None
    first, last = _active_span(shot, clips, layers)
    fitting = Fitting(1.0 / lens_factor(shot), TimeMap.even(shift_frames=-first), {})
    mounts = tuple(map(fitting.doc, _held_by(shot))) if rig else ()
    blend = None if only is None or only.blend is None or len(layers) < len(only.layers) else fitting.doc(only.blend)
    own = tuple(
        fitting.layer(layer).replace(
            solo=False,
            from_preset=None,
            target=_target(layer, mounts, rig),
            corner=layer.corner if blend else None,
        )
        for layer in layers
    )
    amounts = {} if only is None else {"amount": fitting.doc(only.amount), "speed": fitting.doc(only.speed)}
    spanned = all(layer.span_frames is not None for layer in layers) or all(
        clip.span_frames is not None for clip in clips
    )
    whole = shot.span
    clock = None
    if only is not None and (only.clock is not None or only.clock_in(whole).start_frame != first):
        moved = retimed(only.clock_in(whole), fitting.timing)
        clock = moved.replace(later_frames=moved.later_frames + shot.first_frame - first)
    with faults_as(DocumentError):
        return Preset(
        name=name, fps=shot.fps, layers=own, rig=mounts,
        dials=tuple(map(fitting.doc, _read_by(shot, (*own, *mounts, *amounts.values(), *([blend] if blend else []))))),
        length_s=(last - first) / shot.fps.value or None if spanned else None, clock=clock, blend=blend, **amounts,
    )  # fmt: skip


def _active_span(shot: Shot, clips: tuple[Clip, ...], layers: tuple[Layer, ...]) -> Span:
    """Return the first and last frame of a saved selection.

    The span of a clip that is saved completely, else the active range of its layers.
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
    """Return the mounts behind the last one that moves of itself."""
    last = max((n for n, mount in enumerate(shot.mounts) if not mount.rigid or mount.ride is not None), default=0)
    return tuple(mount.replace(operator=None, mute=False, solo=False) for mount in shot.mounts[last + 1 :])


def _target(layer: Layer, rig: tuple[Mount, ...], with_rig: bool) -> str | None:
    if not with_rig or layer.target is None or any(mount.id == layer.target for mount in rig):
        return layer.target
    return CARRIER if rig else None


def _read_by(shot: Shot, docs: tuple[object, ...]) -> tuple[Dial, ...]:
    """Return the dials that some documents read, and those that these read, in the shot's order."""
    by_name = {dial.name: dial for dial in shot.dials}
    found: set[str] = set()
    todo = [name for doc in docs for name in reads_of(doc)]  # type: ignore[arg-type]
    while todo:
        name = todo.pop()
        if name in by_name and name not in found:
            found.add(name)
            todo.extend(reads_of(by_name[name]))
    return tuple(dial for dial in shot.dials if dial.name in found)

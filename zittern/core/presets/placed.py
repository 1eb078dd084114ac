"""From a preset to a clip of a shot."""

from __future__ import annotations

from collections.abc import Mapping

from zittern.core.presets.feel import lens_factor
from zittern.core.presets.fitting import Fitting, brought
from zittern.core.presets.preset import Preset
from zittern.core.presets.responding import responding
from zittern.core.shot.clips import Clip, Clock
from zittern.core.shot.ids import free_id
from zittern.core.shot.layers import Layer, Span
from zittern.core.shot.origins import BroughtDial, ClipOrigin, LayerOrigin
from zittern.core.shot.seeds import drawn, reseeded
from zittern.core.shot.shot import Shot
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["fitted", "layer_of", "placed"]


def fitted(shot: Shot, preset: Preset, span: Span | None = None) -> tuple[Shot, Fitting]:
    """Return the fitting of a preset to a span of a shot, or to all of it, and the shot with its dials."""
    names, fresh = brought(shot, preset.dials)
    start = float(shot.first_frame) if span is None else span[0]
    fitting = Fitting(lens_factor(shot), TimeMap.even(start, shot.fps.value / preset.fps.value), names)
    return shot.replace(dials=(*shot.dials, *map(fitting.doc, fresh))) if fresh else shot, fitting


def placed(
    shot: Shot,
    preset: Preset,
    key: str | None,
    span: Span | None = None,
    mounts: Mapping[str, str] | None = None,
    fitting: Fitting | None = None,
) -> tuple[Shot, Clip]:
    """Return the shot with the dials of a preset, and a new clip of the preset.

    Over a span, or over the whole shot, with time from its start, rotations scaled for the lens, and new ids and seeds.
    key: the key of its origin. mounts: ids in the shot of the mounts of its rig and of their parent, if these were
    added. fitting: its fitting, if its dials exist.
    """
    if fitting is None:
        shot, fitting = fitted(shot, preset, span)
    start, _ = heard = span or shot.span
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
        clock=clock_of(shot, preset, start), blend=None if preset.blend is None else fitting.doc(preset.blend),
        from_preset=None if key is None else ClipOrigin(preset=key, name=preset.name, factor=fitting.factor,
            dials=dials),
    )  # fmt: skip
    return shot, clip


def clock_of(shot: Shot, preset: Preset, start: float) -> Clock | None:
    """Return the clock of a clip of a preset that starts at a frame: its time begins there.

    None where it would say nothing.
    """
    per_frame = shot.fps.value / preset.fps.value
    if preset.clock is None:
        behind = start - shot.first_frame
        return None if behind == 0.0 else Clock(start_frame=start, later_frames=behind)
    moved = retimed(preset.clock, TimeMap.even(start, per_frame))
    return moved.replace(later_frames=moved.later_frames + start - shot.first_frame)


def layer_of(
    shot: Shot, fitting: Fitting, layer: Layer, key: str | None, span: Span, mounts: Mapping[str, str] | None = None
) -> Layer:
    """Return a preset's layer over a span of a shot; layers on missing mounts move the lens end."""
    target = (mounts or {}).get(layer.target or "", layer.target)
    target = target if any(mount.id == target for mount in shot.mounts) else None
    origin = None if key is None else LayerOrigin(preset=key, layer=layer.id, content=layer.content_print)
    fitted = fitting.layer(layer)
    return fitted.replace(target=target, from_preset=origin, source=responding(shot, fitted.source, span))

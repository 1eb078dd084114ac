"""Motion of each layer at a frame, and its active range."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zittern.core.axes import AXES, Axis, PictureScale, axis_index, axis_info, px_per_unit
from zittern.core.motion.picture import scale_at
from zittern.core.numbers.scope import Scope
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.shot.reads import looks_at_frames_only
from zittern.core.shot.shot import Shot
from zittern.core.sources.ringing import MOST_A_FRAME, beats_told
from zittern.core.units import Array

__all__ = [
    "At", "AxisReading", "ClipReading", "LayerReading", "Size", "SpanReading", "clip_reading", "layer_reading",
    "size_of",
]  # fmt: skip

_TOO_FAST = f"{{}} per frame here; above {MOST_A_FRAME:g} per frame none are generated. Lower the rate or the speed"


@dataclass(frozen=True, slots=True)
class AxisReading:
    """An axis of a layer at a frame.

    moves: whether the layer moves it. measured: it has no adjustable swing (keys, formulas, takes); `swing` is its
    maximum distance from zero. unseen: it moves faster than half the frame rate, so that frames cannot show it.
    """

    axis: Axis
    swing: float
    swing_px: float
    swing_share: float
    px_per_unit: float
    moves: bool
    measured: bool
    unseen: bool
    rate_hz: float
    base_hz: float


@dataclass(frozen=True, slots=True)
class SpanReading:
    """Active range of a clip or layer: first and last frame, with unchanged ramps.

    They are the shot's without a span.
    """

    first_frame: float
    last_frame: float
    ramp_in_frames: float
    ramp_out_frames: float


@dataclass(frozen=True, slots=True, weakref_slot=True)
class LayerReading:
    """A layer's axes, its active range, and whether it is active.

    finding: a setting that cannot be applied here; the rest is complete.
    """

    layer: str
    heard: bool
    finding: str
    span: SpanReading
    axes: tuple[AxisReading, ...]


@dataclass(frozen=True, slots=True)
class Size:
    """Distance of the picture's center from where it would be: RMS and maximum, pixels."""

    typical_px: float
    peak_px: float


@dataclass(frozen=True, slots=True)
class ClipReading:
    """Active range of a clip, and its size on screen in that range, also while muted."""

    clip: str
    span: SpanReading
    size: Size | None


@dataclass(frozen=True, slots=True)
class At:
    """Context of layer readings.

    A scope of one frame, the scale of the picture there, and the picture movement for a unit of each axis. place: all
    inputs of a layer's reading besides the layer and its clip.
    """

    scope: Scope
    scale: PictureScale
    px_per_unit: list[float]
    place: tuple[object, ...]

    @classmethod
    def of(cls, shot: Shot, scope: Scope, distance_m: float) -> At:
        """At a scope's frame of a shot."""
        scale = scale_at(shot, scope, distance_m)
        place = (scope.frames.tobytes(), scale, shot.fps.value, shot.first_frame, shot.last_frame)
        return cls(scope, scale, px_per_unit(scale).tolist(), place)


def size_of(offsets_px: Array) -> Size:
    """Size of a motion of the picture.

    Parameters
    ----------
    offsets_px: (F, 2) right and down.

    Returns
    -------
    RMS and maximum of the distance, pixels.
    """
    squares = np.einsum("fn,fn->f", offsets_px, offsets_px)
    return Size(float(np.sqrt(np.mean(squares))), float(np.sqrt(np.max(squares))))


def clip_reading(shot: Shot, clip: Clip, size: Size | None) -> ClipReading:
    """Return the active range of a clip, with its size if that was computed."""
    return ClipReading(clip.id, _span_reading(shot, clip), size)


def layer_reading(
    shot: Shot, at: At, clip: Clip, layer: Layer, counts: bool, given: Array | None = None
) -> LayerReading:
    """Return the reading of a layer of a clip at a frame.

    counts: whether it is active. The last reading of a layer that depends only on the frame is cached with it.

    Parameters
    ----------
    given: (F, A) its offsets, if known.

    Returns
    -------
    What is read of it.
    """
    if layer.source.absolute:
        return _read(shot, at, clip, layer, counts, given)
    if not (looks_at_frames_only(layer) and looks_at_frames_only(clip.speed)):
        return _read(shot, at, clip, layer, counts)
    key = (at.place, clip.speed.motion_key, counts)
    kept: tuple[object, LayerReading] | None = layer.__dict__.get("_reading")
    if kept is not None and kept[0] == key:
        return kept[1]
    told = _read(shot, at, clip, layer, counts)
    layer.__dict__["_reading"] = key, told
    return told


def _read(shot: Shot, at: At, clip: Clip, layer: Layer, counts: bool, given: Array | None = None) -> LayerReading:
    scope = clip.clocked(at.scope, layer)
    speed = layer.speed.at(scope) * clip.speed.at(scope)
    base_hz = float(layer.source.peak_hz(scope)[0]) * speed
    beats_a_frame = float(layer.source.beats_hz(scope)[0]) * speed / shot.fps.value
    moving = layer.moving_axes
    reach = np.abs(given).max(axis=0) if given is not None and len(given) else np.zeros(len(AXES))

    def row(axis: Axis, per_unit: float) -> AxisReading:
        setting = layer.axes.of(axis)
        lead = layer.axes.of(setting.linked_to) if setting.linked_to else setting
        swing, pace = setting.swing.constant, lead.pace.constant
        if swing is None or pace is None:
            on_axis = scope.on_axis(axis_index(axis))
            swing, pace = setting.swing.at(on_axis), lead.pace.at(on_axis)
        measured, moves, rate_hz = layer.source.absolute, axis in moving, base_hz * pace
        if measured:
            swing = float(reach[axis_index(axis)])
        seen = swing if moves else 0.0
        pixels = axis_info(axis).swing_px(seen, at.scale) if seen else 0.0
        unseen = moves and rate_hz > shot.fps.value / 2.0
        return AxisReading(
            axis, swing, pixels, pixels / at.scale.width_px, per_unit, moves, measured, unseen, rate_hz, base_hz
        )

    rows = tuple(row(axis, per_unit) for axis, per_unit in zip(AXES, at.px_per_unit, strict=True))
    finding = "" if beats_a_frame <= MOST_A_FRAME else _TOO_FAST.format(beats_told(beats_a_frame))
    return LayerReading(layer.id, counts, finding, _span_reading(shot, layer), rows)


def _span_reading(shot: Shot, part: Spanned) -> SpanReading:
    first, last = shot.span_of(part)
    return SpanReading(first, last, part.ramp_in_frames, part.ramp_out_frames)

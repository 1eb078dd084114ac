"""Swatches: presets on a shot, with its lens, length and path, without its other motion."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zittern.core.axes import AXES, Axis, axis_index, px_per_unit
from zittern.core.edits.presets import PlacePreset
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.motion.facts import scope_at
from zittern.core.motion.picture import picture_offsets_px, scale_at, subject_distance_m
from zittern.core.motion.sampled import spread
from zittern.core.presets.preset import Preset
from zittern.core.readings.layers import size_of
from zittern.core.readings.scribble import drawn_frames
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.units import Array

__all__ = ["STAND_IN", "Swatch", "corner_swatches", "rates_hz", "swatch"]

# A shot with the default lens, ten seconds long, that stands still.
STAND_IN = new_shot("Swatch")
# Intervals of a waveform, each with minimum and maximum, and the number of frames sampled in each.
_BUCKETS = 96
_FRAMES_A_BUCKET = 16
# Axes that move the picture less than this share of the one that moves it most are left out of the waveform.
_LEAST_SHARE = 0.04
_PLACES_SEED = 21


@dataclass(frozen=True, slots=True)
class Swatch:
    """typical_px: RMS distance of the picture's center.

    scribble_px: (N, 3) movement of the picture center, right and up, and lift of the right edge by roll. waves_px: by
    axis, (B, 2) minimum and maximum per time interval, pixels as in the lanes.
    """

    typical_px: float
    scribble_px: Array
    waves_px: dict[Axis, Array]


def swatch(shot: Shot, preset: Preset, cache: Cache | None = None) -> Swatch:
    """Return the preview of a preset on a shot, over its duration."""
    stage = shot.replace(lanes=())
    first = None if preset.length_s is None else float(stage.first_frame)
    return _drawn(PlacePreset(preset=preset, first_frame=first).apply(stage), cache)


def corner_swatches(shot: Shot, clip: Clip, cache: Cache | None = None) -> dict[str, Swatch]:
    """Return the preview of each corner of a clip's blend alone, by its id; none for an empty one."""
    if clip.blend is None:
        return {}
    out = {}
    for corner in clip.blend.corners:
        layers = tuple(each.replace(solo=False) for each in clip.layers if each.corner == corner.id)
        if layers:
            alone = clip.replace(layers=layers, blend=None, mute=False)
            out[corner.id] = _drawn(shot.replace(lanes=(Lane.of(alone),)), cache)
    return out


def _drawn(placed: Shot, cache: Cache | None) -> Swatch:
    """Return the preview of a shot with one clip, over its duration."""
    start, stop = placed.span_of(next(placed.clips()))
    start = max(start, float(placed.first_frame))
    stop = max(min(stop, float(placed.last_frame)), start)
    motion = evaluate(placed, _spread(start, stop), cache)
    distance = subject_distance_m(placed, start, motion.bare.position_m[0])
    offsets = picture_offsets_px(placed, motion, distance)
    scale = scale_at(placed, scope_at(placed, start), distance)
    return Swatch(
        typical_px=size_of(offsets).typical_px,
        scribble_px=_scribble_px(placed, evaluate(placed, drawn_frames(start, stop), cache), distance),
        waves_px=_waves_px(motion.total * px_per_unit(scale)),
    )


def rates_hz(preset: Preset) -> tuple[float, ...]:
    """Return the peak rates of its layers, in increasing order, in Hz, at its start."""
    placed = PlacePreset(preset=preset).apply(STAND_IN)
    scope = scope_at(placed, float(placed.first_frame))
    found = {round(float(layer.source.peak_hz(scope)[0]) * layer.speed.at(scope), 2) for _, layer in placed.layers()}
    return tuple(sorted(rate for rate in found if rate > 0.0))


def _spread(start: float, stop: float) -> Array:
    """Whole frames, rising: all, or of a long stretch one out of each equal part, at a place that looks random.

    (F,) float64, frame numbers.
    """
    count = int(stop - start) + 1
    most = _BUCKETS * _FRAMES_A_BUCKET
    if count <= most:
        return start + np.arange(count, dtype=np.float64)
    return spread(start, count, most, _PLACES_SEED)


def _scribble_px(shot: Shot, motion: Motion, distance_m: float) -> Array:
    offsets = picture_offsets_px(shot, motion, distance_m)
    edge = np.sin(np.radians(motion.total[:, axis_index("roll")])) * shot.picture.width_px / 2.0
    return np.column_stack([-offsets[:, 0], offsets[:, 1], edge])


def _waves_px(moved_px: Array) -> dict[Axis, Array]:
    """(F, A) -> by axis (B, 2); axes that hardly move are left out."""
    reach = np.abs(moved_px).max(axis=0)
    edges = np.unique(np.linspace(0, len(moved_px), min(_BUCKETS, len(moved_px)) + 1).astype(np.int64))[:-1]
    least, most = np.minimum.reduceat(moved_px, edges), np.maximum.reduceat(moved_px, edges)
    shown = [n for n in np.argsort(-reach) if reach[n] > _LEAST_SHARE * reach.max()]
    return {AXES[n]: np.column_stack([least[:, n], most[:, n]]) for n in shown}

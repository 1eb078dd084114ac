"""Readings: sizes in pixels of the picture, rates, streaks, for people to read beside the numbers."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zittern.core.axes import AXES, Axis, axis_index
from zittern.core.doc import Doc
from zittern.core.framing import FramingReport, framed, report
from zittern.core.lens import focal_px, swing_px
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.layers import moving_axes
from zittern.core.motion.mixing import active
from zittern.core.motion.move import scope_at
from zittern.core.motion.steps import StepMark, steps
from zittern.core.numbers.scope import Scope
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.shot.shot import Shot
from zittern.core.sources.ringing import MOST_A_FRAME
from zittern.core.units import CM_PER_M, Array

__all__ = ["AxisReading", "LayerReading", "Readings", "distances_m", "flowing", "picture_offsets_px", "px_per_unit", "read", "subject_distance_m"]

# What the subject's distance is taken to be when none is marked.
DEFAULT_DISTANCE_M = 4.0
# The usual opening of a film camera's shutter, as a share of the frame (180 of 360 degrees).
SHUTTER_SHARE = 0.5


_TOO_FAST = f"{{:.4g}} beats a frame here: above {MOST_A_FRAME:g} none are made, for nobody could see them. Lower the rate or the speed"
# An offset (deg, cm, %) so small that the picture moves in proportion to it.
_SMALL = 0.01


class AxisReading(Doc):
    """An axis of a layer at a frame. moves: whether the layer does anything to it at all."""

    axis: Axis
    swing: float
    swing_px: float
    swing_share: float
    px_per_unit: float
    moves: bool
    rate_hz: float
    base_hz: float


class SpanReading(Doc):
    """When a clip or layer is heard: frames from first to last, ramps as they are. first and last are the shot's where it has no span."""

    first_frame: float
    last_frame: float
    ramp_in_frames: float
    ramp_out_frames: float


class LayerReading(Doc):
    """A layer's seven axes, when it is heard, and whether it is at all. finding: what its numbers ask for here that cannot be given; nothing else of it
    is left out.
    """

    layer: str
    heard: bool
    finding: str
    span: SpanReading
    axes: tuple[AxisReading, ...]


class ClipReading(Doc):
    """When a clip is heard."""

    clip: str
    span: SpanReading


class Readings(Doc):
    """Of a shot: at a frame (clips, layers), and over the whole of it (total)."""

    frame: float
    focal_mm: float
    subject_distance_m: float
    clips: tuple[ClipReading, ...]
    layers: tuple[LayerReading, ...]
    total_swing_px: float
    streak_px: float
    camera_height_m: float
    camera_speed_m_s: float
    framing: FramingReport | None
    steps: dict[str, tuple[StepMark, ...]]


def subject_distance_m(shot: Shot, frame: float, position_m: Array) -> float:
    """From the lens (3,) to the marked subject, or the default distance."""
    if shot.subject is None:
        return DEFAULT_DISTANCE_M
    return float(np.linalg.norm(shot.subject.position_m(shot.scope(frame))[0] - position_m))


def px_per_unit(shot: Shot, focal_mm: float, distance_m: float) -> Array:
    """How far a small motion of each axis (a degree, a centimetre, a percent) moves the picture. (A,) pixels in AXES order."""
    sizes = [swing_px(axis, _SMALL, focal_mm, shot.sensor_mm, shot.picture.width_px, distance_m) for axis in AXES]
    return np.array(sizes) / _SMALL


def read(
    shot: Shot, motion: Motion, frame: float, whole: Motion | None = None, cache: Cache | None = None, window: tuple[float, float] | None = None
) -> Readings:
    """Readings near a frame of a motion over neighbouring whole frames; what counts over all of the shot from `whole`, spread over it.
    window: frames in view, where only these are looked for steps.
    """
    i = int(np.clip(np.searchsorted(motion.frames, frame), 0, len(motion.frames) - 1))
    focal = float(motion.bare.focal_mm[i])
    distance = subject_distance_m(shot, frame, motion.bare.position_m[i])
    overall = picture_offsets_px(shot, motion if whole is None else whole, distance)
    before = max(i - 1, 0)
    streak_px, _, height_m, speed_m_s = np.nan_to_num(flowing(shot, motion.rows(before, i + 2))[i - before]).tolist()
    counted = active(shot)
    at = _At(scope_at(shot, frame), focal, distance, px_per_unit(shot, focal, distance).tolist())
    return Readings(
        frame=frame,
        focal_mm=float(motion.pose.focal_mm[i]),
        subject_distance_m=distance,
        clips=tuple(ClipReading(clip=clip.id, span=_span_reading(shot, clip)) for clip in shot.clips()),
        layers=tuple(_layer_reading(shot, at, clip, layer, layer.id in counted) for clip, layer in shot.layers()),
        total_swing_px=float(2.0 * np.sqrt(np.mean(np.sum(overall * overall, axis=1)))),
        streak_px=streak_px,
        camera_height_m=height_m,
        camera_speed_m_s=speed_m_s,
        framing=report(shot, motion) if framed(shot) else None,
        steps=steps(shot, cache, window),
    )


def flowing(shot: Shot, motion: Motion) -> Array:
    """What people watch while it plays, at each frame of a motion: streak of the picture's centre (pixels), distance of the subject (m), height
    of the lens (m), speed of the bare move (m/s). (F, 4); NaN where it takes a neighbouring whole frame that is not there.
    """
    distance = distances_m(shot, motion)
    streak = _steps(picture_offsets_px(shot, motion, distance), motion.frames) * SHUTTER_SHARE
    back = _steps(motion.bare.position_m[::-1], -motion.frames[::-1])[::-1]
    on = _steps(motion.bare.position_m, motion.frames)
    speed = 0.5 * (on + back) * shot.fps.value
    return np.column_stack([streak, distance, motion.pose.position_m[:, 1], speed])


def _steps(values: Array, frames: Array) -> Array:
    """How far a point goes from each frame to the next, from the last one as from the one before. (F, n) -> (F,)."""
    if len(values) < 2:
        return np.zeros(len(values))
    gone = np.where(np.diff(frames) == 1.0, np.linalg.norm(np.diff(values, axis=0), axis=1), np.nan)
    return np.append(gone, gone[-1])


def distances_m(shot: Shot, motion: Motion) -> Array:
    """From the bare lens to the subject at each frame, or the default. (F,)."""
    if shot.subject is None:
        return np.full(len(motion.frames), DEFAULT_DISTANCE_M)
    away = shot.subject.position_m(shot.scope(motion.frames)) - motion.bare.position_m
    return np.asarray(np.linalg.norm(away, axis=1), dtype=np.float64)


def picture_offsets_px(shot: Shot, motion: Motion, distance_m: Array | float) -> Array:
    """Where the shake takes the picture's centre, seen at a distance, (F,) or one for all. (F, 2) pixels, right and down."""
    total = motion.total
    f_px = focal_px(motion.pose.focal_mm, shot.sensor_mm, shot.picture.width_px)
    away = np.maximum(distance_m, 0.01)
    across = np.tan(np.radians(total[:, 0])) - total[:, 3] / CM_PER_M / away
    up = np.tan(np.radians(total[:, 1])) + total[:, 4] / CM_PER_M / away
    return np.asarray(np.stack([across * f_px, up * f_px], axis=1), dtype=np.float64)


def _span_reading(shot: Shot, part: Spanned) -> SpanReading:
    first, last = shot.span_of(part)
    return SpanReading(first_frame=first, last_frame=last, ramp_in_frames=part.ramp_in_frames, ramp_out_frames=part.ramp_out_frames)


@dataclass(frozen=True, slots=True)
class _At:
    """Where layers are read: a scope of one frame, focal length and distance there, and how far a unit of each axis moves the picture."""

    scope: Scope
    focal_mm: float
    distance_m: float
    px_per_unit: list[float]


def _layer_reading(shot: Shot, at: _At, clip: Clip, layer: Layer, counts: bool) -> LayerReading:
    scope = clip.clocked(at.scope, at.scope.span, layer)
    speed = layer.speed.at(scope) * clip.speed.at(scope)
    base_hz = float(layer.source.peak_hz(scope)[0]) * speed
    beats_a_frame = float(layer.source.beats_hz(scope)[0]) * speed / shot.fps.value
    width_px = shot.picture.width_px
    moving = moving_axes(layer)

    def row(axis: Axis, per_unit: float) -> AxisReading:
        setting = layer.axes.of(axis)
        on_axis = scope.on_axis(axis_index(axis))
        swing = setting.swing.at(on_axis)
        pixels = swing_px(axis, swing, at.focal_mm, shot.sensor_mm, width_px, at.distance_m) if swing else 0.0
        lead = layer.axes.of(setting.linked_to) if setting.linked_to else setting
        return AxisReading.model_construct(
            axis=axis, swing=swing, swing_px=pixels, swing_share=pixels / width_px, px_per_unit=per_unit, moves=axis in moving,
            rate_hz=base_hz * lead.pace.at(on_axis), base_hz=base_hz,
        )  # fmt: skip

    rows = tuple(row(axis, per_unit) for axis, per_unit in zip(AXES, at.px_per_unit, strict=True))
    finding = "" if beats_a_frame <= MOST_A_FRAME else _TOO_FAST.format(beats_a_frame)
    return LayerReading.model_construct(layer=layer.id, heard=counts, finding=finding, span=_span_reading(shot, layer), axes=rows)

"""THE TABLE of values at one frame, or of the whole shot. The model `Readings` follows from the table."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from pydantic import Field, create_model

from zittern.core.axes import DIRECTIONS, no_offsets, px_per_unit
from zittern.core.documents.doc import Doc
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.facts import scope_at
from zittern.core.motion.mixing import active
from zittern.core.motion.picture import NEAREST_M, margins_px, picture_offsets_px, scale_at, subject_distance_m
from zittern.core.motion.steps import StepMark, step_marks
from zittern.core.motion.targets import cue_places_m
from zittern.core.optics.distortion import distorted
from zittern.core.optics.lens import corner_tangent, focal_px
from zittern.core.plates.coverage import depths_m
from zittern.core.readings.flow import flowing
from zittern.core.readings.framing import FramingReport, framed, report
from zittern.core.readings.layers import At, ClipReading, LayerReading, Size, clip_reading, layer_reading, size_of
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot
from zittern.core.units import CM_PER_M, Array

__all__ = ["MOMENTS", "Moment", "MomentRow", "Readings", "read"]

# Minimum number of frames for whole-shot values.
_LEAST_ROWS = 2
# A margin that no picture has.
_PAST_ALL_PX = 1e6
# Maximum number of marks that can be distinguished.
_MOST_CUE_PLACES = 200


@dataclass(frozen=True)
class Moment:
    """A frame of a shot in a view.

    near: motion over adjacent whole frames around it; whole: spread over all of the shot. window: frames in view, the
    range of the step marks. loop: the range for whole-shot values, if it is not all of the shot. passing: omit slow
    values that are not shown during a drag.
    """

    shot: Shot
    frame: float
    near: Motion
    whole: Motion
    cache: Cache | None = None
    window: tuple[float, float] | None = None
    loop: tuple[float, float] | None = None
    passing: bool = False

    @cached_property
    def row(self) -> int:
        """Row of the frame in `near`."""
        return int(np.clip(np.searchsorted(self.near.frames, self.frame), 0, len(self.near.frames) - 1))

    @cached_property
    def distance_m(self) -> float:
        """From the bare lens to the subject, or to where it is taken to be."""
        return subject_distance_m(self.shot, self.frame, self.near.bare.position_m[self.row])

    def within(self, first: float, last: float) -> Motion:
        """Motion in a stretch of the shot: spread over it, or where that leaves too little, of the frames near."""
        if first <= self.whole.frames[0] and last >= self.whole.frames[-1]:
            return self.whole
        for motion in (self.whole, self.near):
            rows = np.searchsorted(motion.frames, first), np.searchsorted(motion.frames, last, side="right")
            if rows[1] - rows[0] >= _LEAST_ROWS:
                return motion.rows(int(rows[0]), int(rows[1]))
        return self.near.rows(self.row, self.row + 1)

    @cached_property
    def stretch(self) -> Motion:
        """Return the motion for whole-shot values."""
        return self.whole if self.loop is None else self.within(*self.loop)

    @cached_property
    def size(self) -> Size:
        """Return the size of the sum over that range."""
        return size_of(picture_offsets_px(self.shot, self.stretch, self.distance_m))

    @cached_property
    def flow(self) -> list[float]:
        """Streak (px), distance (m), height (m), speed (m/s); 0 where it is not known."""
        before = max(self.row - 1, 0)
        told: list[float] = np.nan_to_num(
            flowing(self.shot, self.near.rows(before, self.row + 2))[self.row - before]
        ).tolist()
        return told


@dataclass(frozen=True, slots=True)
class MomentRow:
    """name; type of value; description with its unit; the function that reads it."""

    name: str
    kind: Any
    tells: str
    read: Callable[[Moment], object]


def _layers(at: Moment) -> tuple[LayerReading, ...]:
    counted = active(at.shot)
    place = At.of(at.shot, scope_at(at.shot, at.frame), at.distance_m)
    given = {**at.stretch.layers, **at.stretch.silent}
    return tuple(
        layer_reading(at.shot, place, clip, layer, layer.id in counted, given.get(layer.id))
        for clip, layer in at.shot.layers()
    )


def _clips(at: Moment) -> tuple[ClipReading, ...]:
    if at.passing:
        return tuple(clip_reading(at.shot, clip, None) for clip in at.shot.clips())
    per_unit = px_per_unit(scale_at(at.shot, scope_at(at.shot, at.frame), at.distance_m))
    return tuple(clip_reading(at.shot, clip, _clip_size(at, clip, per_unit)) for clip in at.shot.clips())


def _clip_size(at: Moment, clip: Clip, per_unit: Array) -> Size | None:
    """Return the size of the sum of a clip's layers over its span."""
    motion = at.within(*at.shot.span_of(clip))
    given = {**motion.layers, **motion.silent}
    parts = [given[layer.id] for layer in clip.layers if layer.id in given]
    if not parts:
        return None
    together = no_offsets(motion.frames)
    for part in parts:
        together += part
    return size_of((together * per_unit) @ DIRECTIONS)


def _margin_px(at: Moment) -> float | None:
    if at.passing:
        return None
    return min(float(margins_px(at.shot, at.stretch, at.distance_m).max()), _PAST_ALL_PX)


class PlateReading(Doc):
    """Reading of a plate.

    Its distance from the lens at the first frame, its picture movement there in pixels per centimeter of truck, its
    size in the picture (1 fills its width).
    """

    plate: str
    distance_m: float
    px_per_cm: float
    share: float


def _plates(at: Moment) -> tuple[PlateReading, ...]:
    shot = at.shot
    if not shot.plates:
        return ()
    plates = {plate.id: plate for plate in shot.plates}
    focal = shot.lens_at(scope_at(shot, float(shot.first_frame)))
    f_px = focal_px(focal, shot.sensor_mm, shot.picture.width_px)
    rows = []
    for id_, depth in depths_m(shot).items():
        near = max(abs(depth), NEAREST_M)
        share = f_px * plates[id_].width_m / near / shot.picture.width_px
        rows.append(PlateReading(plate=id_, distance_m=depth, px_per_cm=f_px / near / CM_PER_M, share=share))
    return tuple(rows)


class CornerReading(Doc):
    """share: relative displacement by distortion, 0.03 for 3 % outwards; below 0 inwards.

    px: the same in pixels. breath: the focal length over that with the focus far away.
    """

    share: float
    px: float
    breath: float


def _corner(at: Moment) -> CornerReading | None:
    shot = at.shot
    if shot.glass is None:
        return None
    pose, scope = at.near.pose, scope_at(shot, at.frame)
    size_px = shot.picture.width_px, shot.picture.height_px
    tangent = corner_tangent(float(pose.focal_mm[at.row]), shot.sensor_mm, size_px)
    there = distorted(np.array([[[tangent, 0.0]]]), pose.distortion[at.row : at.row + 1])[0, 0, 0]
    share = float(there / tangent - 1.0)
    return CornerReading(share=share, px=share * math.hypot(*size_px) / 2.0, breath=float(shot.glass.breath(scope)[0]))


def _cue_places(at: Moment) -> dict[str, tuple[float, float, float]]:
    cues = [cue for cue in at.shot.cues if cue.on is not None][:_MOST_CUE_PLACES]
    places = cue_places_m(at.shot, at.shot.scope(at.frame), cues) if cues else np.empty((0, 3))
    return {cue.id: (x, y, z) for cue, (x, y, z) in zip(cues, places.tolist(), strict=True) if math.isfinite(x)}


MOMENTS: tuple[MomentRow, ...] = (
    MomentRow("frame", float, "the frame", lambda at: at.frame),
    MomentRow(
        "focal_mm", float, "focal length at the frame, with zoom", lambda at: float(at.near.pose.focal_mm[at.row])
    ),
    MomentRow(
        "corner",
        CornerReading | None,
        "displacement of the picture corners by distortion, for a lens with distortion",
        _corner,
    ),
    MomentRow(
        "subject_distance_m",
        float | None,
        "distance from the bare lens to the subject, if marked",
        lambda at: at.distance_m if at.shot.subject else None,
    ),
    MomentRow(
        "clips",
        tuple[ClipReading, ...],
        "active range of each clip",
        _clips,
    ),
    MomentRow("plates", tuple[PlateReading, ...], "each plate at the first frame, the nearest first", _plates),
    MomentRow("layers", tuple[LayerReading, ...], "each layer at the frame", _layers),
    MomentRow(
        "typical_px",
        float,
        "RMS distance of the picture's center from the bare move, over the whole shot or the loop range",
        lambda at: at.size.typical_px,
    ),
    MomentRow("peak_px", float, "maximum of that distance, over the same", lambda at: at.size.peak_px),
    MomentRow(
        "margin_px",
        float | None,
        "overscan in pixels of the bare picture, at the subject's distance, over the same; a million "
        "where none is enough, missing during a preview",
        _margin_px,
    ),
    MomentRow(
        "streak_px", float, "length of the picture center's path while the shutter is open", lambda at: at.flow[0]
    ),
    MomentRow("camera_height_m", float, "height of the lens", lambda at: at.flow[2]),
    MomentRow("camera_speed_m_s", float, "speed of the bare move", lambda at: at.flow[3]),
    MomentRow(
        "framing",
        FramingReport | None,
        "framing of the subject, over `near`",
        lambda at: report(at.shot, at.near) if framed(at.shot) else None,
    ),
    MomentRow(
        "cue_places",
        dict[str, tuple[float, float, float]],
        "positions of cues with a target: metres in the world at their own frames",
        _cue_places,
    ),
    MomentRow(
        "steps",
        dict[str, tuple[StepMark, ...]],
        "steps of a walk, by layer",
        lambda at: step_marks(at.shot, at.cache, at.window),
    ),
)


_FIELDS: dict[str, Any] = {row.name: (row.kind, Field(description=row.tells)) for row in MOMENTS}
Readings = create_model(
    "Readings",
    __base__=Doc,
    __doc__="Of a shot: at a frame (clips, layers), and over the whole of it (total).",
    **_FIELDS,
)


def read(
    shot: Shot,
    motion: Motion,
    frame: float,
    whole: Motion | None = None,
    cache: Cache | None = None,
    window: tuple[float, float] | None = None,
    loop: tuple[float, float] | None = None,
    passing: bool = False,
) -> Any:
    """Return the readings at a frame of a motion over adjacent whole frames.

    whole-shot values from `whole`, spread over it, or over a loop.
    """
    at = Moment(shot, frame, motion, motion if whole is None else whole, cache, window, loop, passing)
    told: dict[str, Any] = {row.name: row.read(at) for row in MOMENTS}
    return Readings.model_construct(**told)

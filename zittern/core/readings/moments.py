"""THE TABLE of what is told at one frame, or of the whole shot. The model `Readings` follows from the table."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from pydantic import Field, create_model

from zittern.core.doc import Doc
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.facts import scope_at
from zittern.core.motion.mixing import active
from zittern.core.motion.steps import StepMark, step_marks
from zittern.core.picture import picture_offsets_px, px_per_unit, subject_distance_m
from zittern.core.readings.flow import flowing
from zittern.core.readings.framing import FramingReport, framed, report
from zittern.core.readings.layers import At, ClipReading, LayerReading, clip_reading, layer_reading
from zittern.core.shot.shot import Shot

__all__ = ["MOMENTS", "Moment", "MomentRow", "Readings", "read"]


@dataclass(frozen=True)
class Moment:
    """A frame of a shot that somebody looks at. near: motion over neighbouring whole frames about it; whole: spread
    over all of the shot. window: frames in view, where only these are looked for steps.
    """

    shot: Shot
    frame: float
    near: Motion
    whole: Motion
    cache: Cache | None = None
    window: tuple[float, float] | None = None

    @cached_property
    def row(self) -> int:
        """Row of the frame in `near`."""
        return int(np.clip(np.searchsorted(self.near.frames, self.frame), 0, len(self.near.frames) - 1))

    @cached_property
    def distance_m(self) -> float:
        """From the bare lens to the subject, or to where it is taken to be."""
        return subject_distance_m(self.shot, self.frame, self.near.bare.position_m[self.row])

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
    """name; what kind of value; what it tells, with its unit; how it is read."""

    name: str
    kind: Any
    tells: str
    read: Callable[[Moment], object]


def _layers(at: Moment) -> tuple[LayerReading, ...]:
    focal_mm = float(at.near.bare.focal_mm[at.row])
    counted = active(at.shot)
    place = At(
        scope_at(at.shot, at.frame), focal_mm, at.distance_m, px_per_unit(at.shot, focal_mm, at.distance_m).tolist()
    )
    return tuple(layer_reading(at.shot, place, clip, layer, layer.id in counted) for clip, layer in at.shot.layers())


def _total_swing_px(at: Moment) -> float:
    offsets = picture_offsets_px(at.shot, at.whole, at.distance_m)
    return float(2.0 * np.sqrt(np.mean(np.sum(offsets * offsets, axis=1))))


MOMENTS: tuple[MomentRow, ...] = (
    MomentRow("frame", float, "the frame", lambda at: at.frame),
    MomentRow(
        "focal_mm", float, "focal length at the frame, with zoom", lambda at: float(at.near.pose.focal_mm[at.row])
    ),
    MomentRow("subject_distance_m", float, "from the bare lens to the subject", lambda at: at.distance_m),
    MomentRow(
        "clips",
        tuple[ClipReading, ...],
        "when each clip is heard",
        lambda at: tuple(clip_reading(at.shot, clip) for clip in at.shot.clips()),
    ),
    MomentRow("layers", tuple[LayerReading, ...], "each layer at the frame", _layers),
    MomentRow("total_swing_px", float, "swing of the picture's centre over the whole shot", _total_swing_px),
    MomentRow(
        "streak_px", float, "how far the picture's centre smears while the shutter is open", lambda at: at.flow[0]
    ),
    MomentRow("camera_height_m", float, "height of the lens", lambda at: at.flow[2]),
    MomentRow("camera_speed_m_s", float, "speed of the bare move", lambda at: at.flow[3]),
    MomentRow(
        "framing",
        FramingReport | None,
        "how the subject sits, over `near`",
        lambda at: report(at.shot, at.near) if framed(at.shot) else None,
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
) -> Any:
    """`Readings` near a frame of a motion over neighbouring whole frames; what counts over all of the shot from
    `whole`, spread over it.
    """
    at = Moment(shot, frame, motion, motion if whole is None else whole, cache, window)
    told: dict[str, Any] = {row.name: row.read(at) for row in MOMENTS}
    return Readings.model_construct(**told)

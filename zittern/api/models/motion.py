"""Motion packets and spectra."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zittern.api.models.base import Frame, Model, RevisionId
from zittern.core.edits.table import Command
from zittern.core.readings.moments import Readings

__all__ = ["ArrayHead", "MotionHead", "MotionIn", "SpectrumOut"]

_WholeFrame = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
_Text = Annotated[str, StringConstraints(max_length=300)]


class MotionIn(Model):
    """`commands` are tried on without being kept. `have` names arrays by the tag the page already holds. `curves` are addresses
    of numbers whose values over the frames are wanted too, as arrays `curve:ADDRESS`. Of a long shot the frames about `frame` and
    those of a window that is not too wide come one by one, all others thinned.
    """

    commands: Annotated[tuple[Command, ...], Field(max_length=50)] = ()
    revision: RevisionId | None = Field(default=None, description="an older revision to look at; the present one when missing")
    have: Annotated[dict[_Text, _Text], Field(max_length=3000)] = {}
    curves: Annotated[tuple[_Text, ...], Field(max_length=60)] = ()
    frame: Frame = 1.0
    window: tuple[_WholeFrame, _WholeFrame] | None = None


class ArrayHead(Model):
    """A float32 array in a motion packet: rows x columns at a byte offset behind the header; offset missing when unchanged."""

    name: str
    tag: str
    columns: int
    offset: int | None


class MotionHead(Model):
    """Header of a motion packet. Pose columns: x, y, z (m), pan, tilt, roll (deg), focal (mm), vertical field of view (deg). Columns of `flow`:
    streak (px), distance of the subject (m), height of the lens (m), speed (m/s); NaN where it is not known at a frame. `rig:ID`: where the rig is
    behind a mount, x, y, z (m) and a quaternion (x, y, z, w). `framing`: how far the subject is right of its place and above it (px), and whether it
    is in the picture (1). `moves:ADDRESS`: how far a mount or layer alone moves the picture from the
    frame before (px), 0 where that is not known.
    Row i belongs to frame first_frame + i, or to what the array `frames` says where there is one. exact: stretches
    [first, last] in which every whole frame has its row. close_frames: the widest window in which all of them come.
    """

    revision: int
    first_frame: int
    last_frame: int
    rows: int
    exact: list[tuple[int, int]]
    close_frames: int
    arrays: list[ArrayHead]
    readings: Readings


class SpectrumOut(Model):
    """Root of power a third of an octave, in pixels of the picture."""

    rate_hz: list[float]
    layer_px: list[float]
    sum_px: list[float]

"""Motion packets and spectra."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import Field, StringConstraints

from zittern.api.models.base import Frame, Model, RevisionId
from zittern.core.edits.keys import KeyHandles, KeyRef
from zittern.core.edits.table import Command
from zittern.core.readings.point_readings import Readings
from zittern.core.readings.streams import STREAMS

__all__ = ["ArrayHead", "HandlesIn", "HandlesOut", "LayerTag", "MotionHead", "MotionIn", "SpectrumOut"]

_WholeFrame = Annotated[int, Field(ge=-10_000_000, le=10_000_000)]
_Text = Annotated[str, StringConstraints(max_length=300)]


class MotionIn(Model):
    """`commands` are applied to a copy that is discarded.

    `have` names arrays by the tag the page already holds, `have_layers` readings of layers. `curves` are addresses of
    numbers whose samples are requested too, as arrays `curve:ADDRESS`. Of a long shot the frames about `frame` and
    those of a window that is not too wide come one by one, all others thinned. With `told` the answer also includes the
    document with the commands applied, as differences from the stored one.
    """

    told: bool = False
    commands: Annotated[tuple[Command, ...], Field(max_length=50)] = ()
    revision: RevisionId | None = Field(
        default=None, description="an older revision to look at; the present one when missing"
    )
    have: Annotated[dict[_Text, _Text], Field(max_length=3000)] = {}
    have_layers: Annotated[dict[_Text, _Text], Field(max_length=1000)] = {}
    curves: Annotated[tuple[_Text, ...], Field(max_length=60)] = ()
    frame: Frame = 1.0
    window: tuple[_WholeFrame, _WholeFrame] | None = None
    loop: tuple[_WholeFrame, _WholeFrame] | None = Field(
        default=None, description="range that whole-shot readings use instead"
    )


_TOLD = "\n    ".join(f"- `{each.name}`: {each.tells}. Columns: {', '.join(each.columns)}." for each in STREAMS)


@dataclass(frozen=True, slots=True)
class LayerTag:
    """Fingerprint of the inputs of a layer's reading."""

    layer: str
    tag: str


@dataclass(frozen=True, slots=True)
class ArrayHead:
    """A float32 array in a motion packet: rows x columns at a byte offset behind the header.

    Offset missing when unchanged.
    """

    name: str
    tag: str
    columns: int
    offset: int | None


class MotionHead(Model):  # noqa: D101 (its docstring lists the streams)
    __doc__ = f"""Header of a motion packet.

    Row i of an array is frame first_frame + i, or the one in the array `frames` if there is one. exact: ranges
    [first, last] in which every whole frame has a row. close_frames: the widest window with all of them. layers: tags
    of the readings of all layers, from the bottom up; `readings.layers` contains those that the page lacks. tried:
    differences of the document with the commands from that of `revision`, if requested.

    Arrays, `name:PART` for one of several parts:

    {_TOLD}
    """

    revision: int
    first_frame: int
    last_frame: int
    rows: int
    exact: list[tuple[int, int]]
    close_frames: int
    arrays: list[ArrayHead]
    readings: Readings
    layers: list[LayerTag]
    tried: dict[str, Any] | None = None


class HandlesIn(Model):
    """Keys, by number and frame."""

    keys: Annotated[tuple[KeyRef, ...], Field(max_length=1000)]


class HandlesOut(Model):
    """Handles of the keys that exist."""

    handles: list[KeyHandles]


class SpectrumOut(Model):
    """Root of power a third of an octave, in pixels of the picture."""

    rate_hz: list[float]
    layer_px: list[float]
    sum_px: list[float]

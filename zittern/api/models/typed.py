"""Texts typed into numbers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zittern.api.models.base import Key, Model
from zittern.core.formula.arithmetic import MOST_TYPED
from zittern.core.timebase import MOST_FPS

__all__ = ["FrameIn", "TypedIn", "TypedManyIn", "TypedManyOut", "TypedOut", "TypedPlace"]

_MOST_PASTED = 50_000


class TypedPlace(Model):
    """Context of a typed number.

    unit: as shown in the field. fps: frame rate; shot, at, frame: shot, address and frame of the playhead, which give
    the frame rate and the size of a pixel.
    """

    unit: str = Field(default="", max_length=20)
    fps: float | None = Field(default=None, gt=0.0, le=MOST_FPS)
    shot: Key | None = None
    at: str = Field(default="", max_length=300)
    frame: float = Field(default=0.0, ge=-1e7, le=1e7)


class TypedIn(TypedPlace):
    """A text typed into a number, and the previous value."""

    text: str = Field(max_length=100_000)
    before: float = Field(ge=-1e12, le=1e12)


class FrameIn(Model):
    """A text that names a frame of a shot, and the current frame."""

    text: str = Field(max_length=MOST_TYPED)
    shot: Key
    frame: float = Field(ge=-1e7, le=1e7)


class TypedOut(Model):
    """The parsed number, or the error and its character range."""

    value: float | None
    fault: str | None = None
    start: int = 0
    stop: int = 0


class TypedManyIn(TypedPlace):
    """Texts that are numbers of one field each."""

    texts: Annotated[list[Annotated[str, StringConstraints(max_length=MOST_TYPED)]], Field(max_length=_MOST_PASTED)]


class TypedManyOut(Model):
    """The numbers, in order; or the index of an invalid one and its error."""

    values: list[float]
    wrong: int | None = None
    fault: str | None = None

"""What is typed into numbers."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zittern.api.models.base import Key, Model
from zittern.core.formula.arithmetic import MOST_TYPED
from zittern.core.timebase import MOST_FPS

__all__ = ["FrameIn", "TypedIn", "TypedManyIn", "TypedManyOut", "TypedOut", "TypedPlace"]

_MOST_PASTED = 50_000


class TypedPlace(Model):
    """Where a number is typed. unit: as the field shows it. fps: how long a frame is; shot, at, frame: the number's
    shot, address and the playhead, which tell that too, and what a pixel is.
    """

    unit: str = Field(default="", max_length=20)
    fps: float | None = Field(default=None, gt=0.0, le=MOST_FPS)
    shot: Key | None = None
    at: str = Field(default="", max_length=300)
    frame: float = Field(default=0.0, ge=-1e7, le=1e7)


class TypedIn(TypedPlace):
    """What was typed into a number, and what stood there."""

    text: str = Field(max_length=100_000)
    before: float = Field(ge=-1e12, le=1e12)


class FrameIn(Model):
    """Where somebody wants to go in a shot, from which frame."""

    text: str = Field(max_length=MOST_TYPED)
    shot: Key
    frame: float = Field(ge=-1e7, le=1e7)


class TypedOut(Model):
    """The number it stands for, or what is wrong with which characters of it."""

    value: float | None
    fault: str | None = None
    start: int = 0
    stop: int = 0


class TypedManyIn(TypedPlace):
    """Texts that are numbers of one field each."""

    texts: Annotated[list[Annotated[str, StringConstraints(max_length=MOST_TYPED)]], Field(max_length=_MOST_PASTED)]


class TypedManyOut(Model):
    """Their numbers, in order; or which of them is wrong, and why."""

    values: list[float]
    wrong: int | None = None
    fault: str | None = None

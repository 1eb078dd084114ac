"""Rational frame rates, frames and seconds."""

from __future__ import annotations

import math
from fractions import Fraction
from typing import Any

import numpy as np
from pydantic import Field, model_validator

from zittern.core.documents.doc import Doc
from zittern.core.errors import BadInput
from zittern.core.units import Array

__all__ = ["MOST_FPS", "MOST_SAMPLES", "Fps", "frame_grid", "frames_in", "frames_told", "last_frame_covering"]

MOST_FPS = 1000.0
# A shot of a million frames, four times a frame.
MOST_SAMPLES = 4_000_000
# Decimal shorthands of the 1000/1001 rates of broadcast (SMPTE ST 12-1).
_SHORTHANDS = {
    23.976: (24000, 1001),
    23.98: (24000, 1001),
    29.97: (30000, 1001),
    47.952: (48000, 1001),
    59.94: (60000, 1001),
    119.88: (120000, 1001),
}
# A time this many frames from a whole frame counts as on it: float32 seconds in files are no finer.
FRAME_TOLERANCE_FRAMES = 1e-3


class Fps(Doc):
    """Frames per second as a ratio. Reads `24`, `23.976`, `"24000/1001"` or `{"num": 24000, "den": 1001}`."""

    num: int = Field(gt=0, le=10_000_000)
    den: int = Field(default=1, gt=0, le=100_000)

    @model_validator(mode="before")
    @classmethod
    def _read(cls, value: Any) -> Any:
        if isinstance(value, str):
            return _from_text(value)
        if isinstance(value, (int, float)) and not isinstance(value, bool):
            return _from_number(_finite(value))
        return value

    @model_validator(mode="after")
    def _limit(self) -> Fps:
        if self.num / self.den > MOST_FPS:
            raise ValueError(f"expected a frame rate of up to {MOST_FPS:g} frames per second")
        return self

    @property
    def value(self) -> float:
        """Frames per second."""
        return self.num / self.den

    def __str__(self) -> str:
        """Return the rate as a fraction, or as a whole number."""
        return f"{self.num}/{self.den}" if self.den != 1 else str(self.num)

    def seconds(self, frames: Array, first_frame: float) -> Array:
        """T = (frame - first) / fps.

        Parameters
        ----------
        frames : (F,) float64, frame numbers.

        Returns
        -------
        (F,) seconds.
        """
        return (np.asarray(frames, dtype=np.float64) - first_frame) * self.den / self.num


def _finite(value: int | float) -> float:
    try:
        return float(value)
    except OverflowError:
        return math.inf


def _from_number(value: float) -> dict[str, int]:
    if not math.isfinite(value) or value <= 0:
        raise ValueError("a frame rate is a number above 0, for example 24 or 24000/1001")
    if value in _SHORTHANDS:
        num, den = _SHORTHANDS[value]
    else:
        ratio = Fraction(value).limit_denominator(1001)
        num, den = ratio.numerator, ratio.denominator
    return {"num": num, "den": den}


def _from_text(text: str) -> dict[str, int]:
    try:
        if "/" in text:
            num, den = text.split("/")
            return {"num": int(num), "den": int(den)}
        return _from_number(float(text))
    except ValueError as error:
        raise ValueError("a frame rate is a number above 0, for example 24 or 24000/1001") from error


def frames_told(count: float) -> str:
    """Return the number of frames in words.

    >>> frames_told(1), frames_told(12), frames_told(1.5)
    ('1 frame', '12 frames', '1.5 frames')
    """
    number = f"{count:g}" if count % 1 else f"{count:.0f}"
    return f"{number} frame{'' if count == 1 else 's'}"


def frame_grid(first_frame: int, last_frame: int, step: float = 1.0) -> Array:
    """Frames first, first + step, ... up to last. Raises BadInput when there would be too many.

    >>> frame_grid(1, 3, 0.5)
    array([1. , 1.5, 2. , 2.5, 3. ])

    Returns
    -------
    (F,) float64.
    """
    if not step > 0.0 or last_frame - first_frame > step * (MOST_SAMPLES - 1):
        length = last_frame - first_frame + 1
        raise BadInput(
            f"a step of {step:g} frames over {length} frames: up to {MOST_SAMPLES} samples are possible; choose a "
            f"larger step",
            "step",
        )
    count = math.floor((last_frame - first_frame) / step + 1e-9) + 1
    return first_frame + np.arange(count, dtype=np.float64) * step


def frames_in(seconds: float, fps: Fps) -> int:
    """Return the number of whole frames in some seconds, at least one."""
    return max(1, round(seconds * fps.value))


def last_frame_covering(last_time_s: float, fps: Fps, first_frame: int = 1) -> int:
    """Return the first whole frame at or after a time, when time 0 is `first_frame`."""
    return first_frame + max(0, math.ceil(last_time_s * fps.value - FRAME_TOLERANCE_FRAMES))

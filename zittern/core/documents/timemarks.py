"""Marks for fields that hold frames: the effect of a time edit on each.

Fields without a mark are not moved.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

__all__ = [
    "AT", "BACK", "BY_ITSELF", "END", "FIRST", "LAST", "LATER", "RAMP_IN", "RAMP_OUT", "REACH", "SPAN",
    "TimeMark",
]  # fmt: skip


@dataclass(frozen=True, slots=True)
class TimeMark:
    """The way a time edit carries a field."""

    kind: Literal["at", "end", "first", "last", "later", "ramp in", "ramp out", "reach", "back", "span", "by itself"]


# A point in time: at a cut it moves with the later part.
AT = TimeMark("at")
# The last frame of a stretch: it lasts through that frame.
END = TimeMark("end")
# First and last frame of the shot: what is inserted at its edges belongs to it.
FIRST, LAST = TimeMark("first"), TimeMark("last")
# Delay of a clock relative to the shot's.
LATER = TimeMark("later")
# First and last frame of a stretch, and the lengths of its ramps.
SPAN, RAMP_IN, RAMP_OUT = TimeMark("span"), TimeMark("ramp in"), TimeMark("ramp out")
# Handles of a key: frames after it, frames before it; with a value each.
REACH, BACK = TimeMark("reach"), TimeMark("back")
# Carried by the edit itself: variants of the shot.
BY_ITSELF = TimeMark("by itself")

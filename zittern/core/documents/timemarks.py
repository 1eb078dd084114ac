"""Marks in the types of fields that carry frames: what an edit of time does with each. Fields without a
mark are not moved.
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
    """How a field is carried."""

    kind: Literal["at", "end", "first", "last", "later", "ramp in", "ramp out", "reach", "back", "span", "by itself"]


# A moment: what lies at a cut moves with what comes after it.
AT = TimeMark("at")
# The last frame of a stretch: it lasts through that frame.
END = TimeMark("end")
# First and last frame of the shot: what is inserted at its edges belongs to it.
FIRST, LAST = TimeMark("first"), TimeMark("last")
# By how much a clock is behind the shot's.
LATER = TimeMark("later")
# First and last frame of a stretch, and the lengths of its ramps.
SPAN, RAMP_IN, RAMP_OUT = TimeMark("span"), TimeMark("ramp in"), TimeMark("ramp out")
# Handles of a key: frames after it, frames before it; with a value each.
REACH, BACK = TimeMark("reach"), TimeMark("back")
# What is carried elsewhere, by whoever makes the edit: alternatives of the shot.
BY_ITSELF = TimeMark("by itself")

"""Conversions. Every place that changes a unit imports it from here."""

from __future__ import annotations

import math

import numpy as np
import numpy.typing as npt

__all__ = ["CM_PER_M", "Array", "BoolArray", "IntArray", "deg", "rad"]

Array = npt.NDArray[np.float64]
IntArray = npt.NDArray[np.int64]
BoolArray = npt.NDArray[np.bool_]

CM_PER_M = 100.0


def rad(degrees: float) -> float:
    """Degrees to radians."""
    return math.radians(degrees)


def deg(radians: float) -> float:
    """Radians to degrees."""
    return math.degrees(radians)

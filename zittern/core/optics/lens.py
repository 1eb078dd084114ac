"""Focal length and field of view.

A pinhole with square pixels: f_px = focal_mm / sensor_mm x width_px.
"""

from __future__ import annotations

import math
from typing import TypeVar

import numpy as np

from zittern.core.units import Array, rad

__all__ = [
    "LEAST_FOCAL_MM", "MOST_FOCAL_MM", "FloatOrArray", "corner_tangent", "focal_for_vfov_mm", "focal_px", "height_mm",
    "vfov_deg",
]  # fmt: skip

FloatOrArray = TypeVar("FloatOrArray", float, Array)

LEAST_FOCAL_MM = 1.0
MOST_FOCAL_MM = 10_000.0


def height_mm(sensor_mm: float, width_px: int, height_px: int) -> float:
    """Height of the part of the sensor that the picture uses."""
    return sensor_mm * height_px / width_px


def vfov_deg(focal_mm: Array, sensor_mm: float, width_px: int, height_px: int) -> Array:
    """Vertical field of view, 2 atan(h / 2f) with h the sensor's used height.

    >>> vfov_deg(np.array([18.0, 35.0, 85.0]), 36.0, 1920, 1080).round(2)
    array([58.72, 32.27, 13.59])

    Parameters
    ----------
    focal_mm : (F,) float64, millimeters.

    Returns
    -------
    (F,) degrees.
    """
    height = height_mm(sensor_mm, width_px, height_px)
    return np.degrees(2.0 * np.arctan(height / (2.0 * np.asarray(focal_mm, dtype=np.float64))))


def focal_for_vfov_mm(vfov: float, sensor_mm: float, width_px: int, height_px: int) -> float:
    """Focal length that gives a vertical field of view in degrees; the inverse of `vfov_deg`."""
    return height_mm(sensor_mm, width_px, height_px) / (2.0 * math.tan(rad(vfov) / 2.0))


def focal_px(focal_mm: FloatOrArray, sensor_mm: float, width_px: int) -> FloatOrArray:
    """Focal length in pixels of the picture.

    Parameters
    ----------
    focal_mm: one, or (F,) millimetres.

    Returns
    -------
    Of the same shape, pixels.
    """
    return focal_mm / sensor_mm * width_px


def corner_tangent(focal_mm: float, sensor_mm: float, size_px: tuple[int, int]) -> float:
    """Return the distance of the picture corners from the axis of an unshifted lens, as a tangent.

    >>> round(corner_tangent(35.0, 36.0, (1920, 1080)), 3)
    0.59
    """
    return math.hypot(*size_px) / 2.0 / focal_px(focal_mm, sensor_mm, size_px[0])

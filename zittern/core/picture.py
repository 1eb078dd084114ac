"""Sizes in the picture: how far the subject is, how far a motion of the camera moves what is seen there, in pixels."""

from __future__ import annotations

import numpy as np

from zittern.core.axes import AXES
from zittern.core.lens import focal_px, swing_px
from zittern.core.motion.evaluate import Motion
from zittern.core.shot.shot import Shot
from zittern.core.units import CM_PER_M, Array

__all__ = ["DEFAULT_DISTANCE_M", "NEAREST_M", "distances_m", "picture_offsets_px", "px_per_unit", "subject_distance_m"]

# What the subject's distance is taken to be when none is marked.
DEFAULT_DISTANCE_M = 4.0
# Nearer than this a shift of the camera would move the picture without end.
NEAREST_M = 0.01
# An offset (deg, cm, %) so small that the picture moves in proportion to it.
_SMALL = 0.01


def subject_distance_m(shot: Shot, frame: float, position_m: Array) -> float:
    """From the lens (3,) to the marked subject, or the default distance."""
    if shot.subject is None:
        return DEFAULT_DISTANCE_M
    return float(np.linalg.norm(shot.subject.position_m(shot.scope(frame))[0] - position_m))


def distances_m(shot: Shot, motion: Motion) -> Array:
    """From the bare lens to the subject at each frame, or the default. (F,)."""
    if shot.subject is None:
        return np.full(len(motion.frames), DEFAULT_DISTANCE_M)
    away = shot.subject.position_m(shot.scope(motion.frames)) - motion.bare.position_m
    return np.asarray(np.linalg.norm(away, axis=1), dtype=np.float64)


def px_per_unit(shot: Shot, focal_mm: float, distance_m: float) -> Array:
    """How far a small motion of each axis (a degree, a centimetre, a percent) moves the picture. (A,) pixels in AXES
    order.
    """
    sizes = [swing_px(axis, _SMALL, focal_mm, shot.sensor_mm, shot.picture.width_px, distance_m) for axis in AXES]
    return np.array(sizes) / _SMALL


def picture_offsets_px(shot: Shot, motion: Motion, distance_m: Array | float) -> Array:
    """Where the shake takes the picture's centre, seen at a distance, (F,) or one for all. (F, 2) pixels, right and
    down.
    """
    total = motion.total
    f_px = focal_px(motion.pose.focal_mm, shot.sensor_mm, shot.picture.width_px)
    away = np.maximum(distance_m, NEAREST_M)
    across = np.tan(np.radians(total[:, 0])) - total[:, 3] / CM_PER_M / away
    up = np.tan(np.radians(total[:, 1])) + total[:, 4] / CM_PER_M / away
    return np.asarray(np.stack([across * f_px, up * f_px], axis=1), dtype=np.float64)

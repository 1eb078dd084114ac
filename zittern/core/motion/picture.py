"""Sizes on screen: the subject distance, and the picture movement at that distance in pixels."""

from __future__ import annotations

import numpy as np

from zittern.core.axes import NEAREST_M, PictureScale, center_px
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.pose import Pose
from zittern.core.numbers.scope import Scope
from zittern.core.optics.distortion import distorted, undistorted_nearly
from zittern.core.optics.lens import FloatOrArray, focal_px
from zittern.core.rig import rotations
from zittern.core.rig.vectors import lengths
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, BoolArray

__all__ = [
    "DEFAULT_DISTANCE_M", "NEAREST_M", "distances_m", "margins_px", "on_screen_px", "picture_offsets_px",
    "picture_scale", "places_px", "scale_at", "shift_px", "subject_distance_m", "tangents",
    "view_shift_px",
]  # fmt: skip

# Default subject distance.
DEFAULT_DISTANCE_M = 4.0
# A ray that goes forward by less than this share of its length does not meet the picture.
_LEAST_AHEAD = 1e-3
# Points nearer to the lens (m) have no screen position.
_LEAST_DEPTH_M = 1e-6
# Places of a picture's border, as shares of its size from the middle.
_CORNERS = ((-0.5, -0.5), (-0.5, 0.5), (0.5, -0.5), (0.5, 0.5))
_ROUND = (*_CORNERS, (-0.5, 0.0), (0.5, 0.0), (0.0, -0.5), (0.0, 0.5))


def subject_distance_m(shot: Shot, frame: float, position_m: Array) -> float:
    """From the lens to the marked subject, or the default distance.

    Parameters
    ----------
    position_m: (3,) of the lens.

    Returns
    -------
    Metres.
    """
    if shot.subject is None:
        return DEFAULT_DISTANCE_M
    return float(np.linalg.norm(shot.subject.position_m(shot.scope(frame))[0] - position_m))


def distances_m(shot: Shot, motion: Motion) -> Array:
    """From the bare lens to the subject at each frame, or the default.

    Returns
    -------
    (F,) float64, meters.
    """
    if shot.subject is None:
        return np.full(len(motion.frames), DEFAULT_DISTANCE_M)
    away = shot.subject.position_m(shot.scope(motion.frames)) - motion.bare.position_m
    return lengths(away)


def picture_scale(
    shot: Shot, focal_mm: FloatOrArray, distance_m: Array | float, breathing: Array | float = 0.0
) -> PictureScale:
    """Return what the size of a motion in the picture depends on, at some frames.

    Parameters
    ----------
    focal_mm : (F,) float64, millimeters, of the lens; or one number.
    distance_m : (F,) float64, meters, from the lens to the subject; or one number.
    breathing : (F,) float64, as `Shot.breathing`; or one number.
    """
    picture = shot.picture
    f_px = focal_px(focal_mm, shot.sensor_mm, picture.width_px)
    return PictureScale(f_px, picture.width_px, picture.height_px, distance_m, breathing)


def scale_at(shot: Shot, scope: Scope, distance_m: float) -> PictureScale:
    """Return what the size of a motion in the picture depends on, at a scope's first frame, without layers."""
    breathing = float(shot.breathing(scope.over(scope.frames[:1]))[0])
    return picture_scale(shot, shot.lens_at(scope), distance_m, breathing)


def picture_offsets_px(shot: Shot, motion: Motion, distance_m: Array | float) -> Array:
    """Return the shift of the picture center by the shake, at a distance.

    Parameters
    ----------
    distance_m: (F,) or one for all.

    Returns
    -------
    (F, 2) pixels, right and down.
    """
    return center_px(motion.total, picture_scale(shot, motion.pose.focal_mm, distance_m))


def on_screen_px(shot: Shot, pose: Pose, point_m: Array) -> tuple[Array, BoolArray]:
    """Return the screen position of a point of the world, and whether it is in front of the lens; otherwise the center.

    Parameters
    ----------
    point_m : (F, 3) float64, meters, position in the world.

    Returns
    -------
    (F, 2) pixels right and up from the middle, and (F,).
    """
    seen = np.einsum("fji,fj->fi", rotations.matrices(pose.angles_deg), point_m - pose.position_m)
    ahead = -seen[:, 2] > _LEAST_DEPTH_M
    return places_px(shot, pose, np.where(ahead[:, None], seen, (0.0, 0.0, -1.0))), ahead


def view_shift_px(shot: Shot, before: Pose, after: Pose, distance_m: Array) -> Array:
    """Return the motion of the picture from one pose to another: of the point in its middle, at a distance.

    A point that is behind the lens afterwards counts as the width of the picture.

    Parameters
    ----------
    distance_m : (F,) float64, meters from the lens.

    Returns
    -------
    (F, 2) pixels, right and up.
    """
    ahead_m = before.position_m - rotations.matrices(before.angles_deg)[:, :, 2] * distance_m[:, None]
    at_px, seen = on_screen_px(shot, after, ahead_m)
    return np.where(seen[:, None], at_px - shift_px(shot, before), (float(shot.picture.width_px), 0.0))


def places_px(shot: Shot, pose: Pose, seen_m: Array) -> Array:
    """Return the screen positions of points.

    Parameters
    ----------
    seen_m: (F, 3) metres in the frame of the lens, in front of it.

    Returns
    -------
    (F, 2) pixels right and up from the middle.
    """
    f_px = focal_px(pose.focal_mm, shot.sensor_mm, shot.picture.width_px)
    flat = distorted(seen_m[:, None, :2] / -seen_m[:, None, 2:], pose.distortion)[:, 0]
    return np.asarray(flat * f_px[:, None] + shift_px(shot, pose))


def tangents(shot: Shot, pose: Pose, at_px: Array, punch_in: float = 1.0) -> Array:
    """Return the pinhole direction at points of the picture: the inverse of `places_px` to 1e-7.

    Parameters
    ----------
    at_px: (F, N, 2) or (N, 2) pixels right and up from the middle.
    punch_in: so many times the focal length.

    Returns
    -------
    (F, N, 2) tangents, right and up of the axis of the lens.
    """
    f_px = focal_px(pose.focal_mm, shot.sensor_mm, shot.picture.width_px) * punch_in
    return undistorted_nearly((at_px - shift_px(shot, pose)[:, None, :]) / f_px[:, None, None], pose.distortion)


def shift_px(shot: Shot, pose: Pose) -> Array:
    """Return the picture shift by the film back, right and up.

    Returns
    -------
    (F, 2) pixels.
    """
    size_px = np.array([shot.picture.width_px, shot.picture.height_px], dtype=np.float64)
    return np.asarray(pose.shift_percent / 100.0 * size_px)


def margins_px(shot: Shot, motion: Motion, distance_m: Array | float) -> Array:
    """Return the margin that a flat picture at a distance needs beyond the view of the bare lens.

    With it its edges stay outside the shaken picture.

    The corners of the shaken picture are projected onto the plane and from there into the bare picture; with
    distortion, the middles of its sides too, and the view of the bare lens is that of a pinhole.

    Parameters
    ----------
    distance_m: (F,) or one for all.

    Returns
    -------
    (F,) pixels of the bare picture, at the side that needs most; never negative, infinite where the lens looks past the
    picture.
    """
    size = (shot.picture.width_px, shot.picture.height_px)
    away = np.maximum(distance_m, NEAREST_M)
    bare, pose = motion.bare, motion.pose
    turn = np.swapaxes(rotations.matrices(bare.angles_deg), 1, 2)
    turned = turn @ rotations.matrices(pose.angles_deg)
    moved = np.einsum("fij,fj->fi", turn, pose.position_m - bare.position_m)
    bare_px = focal_px(bare.focal_mm, shot.sensor_mm, size[0])
    places = np.array(_ROUND if np.any(pose.distortion) else _CORNERS) * size
    halves = np.max(np.abs(tangents(shot, bare, places)), axis=1) * bare_px[:, None]
    out = np.zeros(len(motion.frames))
    seen_at = tangents(shot, pose, places)
    for place in np.moveaxis(seen_at, 1, 0):
        ray = np.einsum("fij,fj->fi", turned, np.concatenate([place, np.full((len(place), 1), -1.0)], axis=1))
        ahead = -ray[:, 2]
        meets = (away + moved[:, 2]) / np.where(ahead > _LEAST_AHEAD, ahead, np.nan)
        for axis in (0, 1):
            seen = np.abs(moved[:, axis] + meets * ray[:, axis]) / away * bare_px - halves[:, axis]
            out = np.maximum(out, np.where(np.isfinite(seen), seen, np.inf))
    return out

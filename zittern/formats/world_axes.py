"""Paths from programs with Z up or in centimeters: suspected by their picture, and converted on wish."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from zittern.core.rig import rotations
from zittern.core.units import CM_PER_M, Array
from zittern.formats.paths import PathSamples

__all__ = ["UNCHANGED", "Reading", "converted", "places", "readings"]

# From the axes of a file with Z up to ours: x stays, z becomes y, y becomes -z.
_TO_Y_UP = np.array([[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0]])
# A camera whose up vector is within this angle of the file's Z, on average, is upright there and tilted here.
_UPRIGHT, _LYING = 0.8, 0.4
# Heights at which cameras are carried, meters: a coordinate that stays within them is probably the height.
_CARRIED_M = (0.05, 4.0)
# A path is probably in centimeters if its height is that of a carried camera then, and if it is faster or longer than
# people go.
_CARRIED_CM = (20.0, 400.0)
_FAST_M_S, _FAR_M = 12.0, 60.0
_PLACES = 60


@dataclass(frozen=True, slots=True)
class Reading:
    """A way to read a path: with Z up, in centimeters, or unchanged (neither)."""

    z_up: bool = False
    centimeters: bool = False

    @property
    def says(self) -> str:
        """`Z up, centimeters`."""
        parts = [text for text, on in (("Z up", self.z_up), ("centimeters", self.centimeters)) if on]
        return ", ".join(parts) or "unchanged: Y up, meters"


UNCHANGED = Reading()


def converted(samples: PathSamples, reading: Reading) -> PathSamples:
    """Return samples in our world: Y up, meters. An imported rig is rotated at its first mount."""
    scale = 1.0 / CM_PER_M if reading.centimeters else 1.0
    parts = tuple(replace(part, position_m=part.position_m * scale) for part in samples.parts)
    out = replace(samples, position_m=samples.position_m * scale, parts=parts)
    if not reading.z_up:
        return out
    position, angles = _upright(out.position_m, out.angles_deg)
    if parts:
        at, turned = _upright(parts[0].position_m, parts[0].angles_deg)
        parts = (replace(parts[0], position_m=at, angles_deg=turned), *parts[1:])
    return replace(out, position_m=position, angles_deg=angles, parts=parts)


def readings(samples: PathSamples, fps: float) -> tuple[Reading, ...]:
    """Return the readings that are offered: unchanged, and the likely one if it differs."""
    if samples.parts:
        return (UNCHANGED,)
    z_up = _lies(samples.angles_deg) or _height_is_z(samples.position_m)
    height = samples.position_m[:, 2] if z_up else samples.position_m[:, 1]
    carried = _CARRIED_CM[0] < float(np.median(height)) < _CARRIED_CM[1]
    likely = Reading(z_up, carried and _too_large(samples, fps))
    return (UNCHANGED,) if likely == UNCHANGED else (UNCHANGED, likely)


def _upright(position: Array, angles_deg: Array) -> tuple[Array, Array]:
    """Turn poses from Z up to Y up. Where only the places have Z up, the angles are about our axes already."""
    turned = position @ _TO_Y_UP.T
    if not _lies(angles_deg):
        return turned, angles_deg
    return turned, rotations.continuous(_TO_Y_UP @ rotations.matrices(angles_deg))


def _lies(angles_deg: Array) -> bool:
    """Return True if the picture stands on its side, like that of an upright camera where Z is up. (N, 3)."""
    up = rotations.matrices(angles_deg)[:, :, 1]
    return bool(np.mean(up[:, 2]) > _UPRIGHT and np.mean(np.abs(up[:, 1])) < _LYING)


def _height_is_z(position: Array) -> bool:
    """Return True if z stays at the height of a carried camera while y leaves it. (N, 3)."""
    for scale in (1.0, 1.0 / CM_PER_M):
        low, high = (float(each(position[:, 2])) * scale for each in (np.min, np.max))
        y = position[:, 1] * scale
        beyond = bool(np.min(y) < -_CARRIED_M[1] / 4.0 or np.max(y) > 2.0 * _CARRIED_M[1])
        if _CARRIED_M[0] < low and high < _CARRIED_M[1] and beyond and np.ptp(y) > 2.0 * (high - low):
            return True
    return False


def _too_large(samples: PathSamples, fps: float) -> bool:
    """Return True if a path in meters is faster or longer than people go, or does not move."""
    steps = (
        np.linalg.norm(np.diff(samples.position_m, axis=0), axis=1) * fps / np.maximum(np.diff(samples.frames), 1e-9)
    )
    fast = len(steps) > 0 and float(np.median(steps)) > _FAST_M_S
    return fast or float(np.max(np.ptp(samples.position_m, axis=0))) > _FAR_M or len(steps) == 0 or not np.any(steps)


def places(samples: PathSamples) -> tuple[Array, Array]:
    """Return some places of a path, for a drawing, and the directions in which the camera looks there.

    Returns
    -------
    (P, 3) meters, and (P, 3) of length 1.
    """
    rows = np.unique(np.linspace(0, len(samples.frames) - 1, _PLACES).round().astype(np.int64))
    return samples.position_m[rows], -rotations.matrices(samples.angles_deg[rows])[:, :, 2]

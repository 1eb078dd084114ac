"""The axes of a camera, with the names of a crew: one table, from which the rest of the product derives.

Fields of documents, columns of files, sizes in the picture, limits, rows of the board and inks loop over AXIS_INFO. The
position of an axis in the table is its column in arrays of offsets: (F, A) float64, degrees, cm or %.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal, get_args

import numpy as np

from zittern.core.units import CM_PER_M, Array, rad

__all__ = [
    "AXES", "AXIS_INFO", "DIRECTIONS", "NEAREST_M", "ROTATIONS", "SHIFTS", "TRANSLATIONS", "Axis", "AxisInfo",
    "PictureScale", "axis_index", "axis_info", "axis_title", "center_px", "no_offsets", "px_per_unit",
]  # fmt: skip

Axis = Literal["pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom", "shift_x", "shift_y", "focus"]
AXES: tuple[Axis, ...] = get_args(Axis)
ROTATIONS: tuple[Axis, ...] = AXES[:3]
TRANSLATIONS: tuple[Axis, ...] = AXES[3:6]
# Picture shifts by the film back: percent of picture width and height. They neither rotate nor scale it.
SHIFTS: tuple[Axis, ...] = AXES[7:9]

# The tangent of a swing grows without limit towards a quarter turn.
_STEEPEST_DEG = 89.0
# Nearer than this a shift of the camera would move the picture without end.
NEAREST_M = 0.01


@dataclass(frozen=True, slots=True)
class PictureScale:
    """Quantities that set the size of a motion in the picture: numbers, or arrays (F,) with one per frame.

    f_px: focal length. width_px, height_px: of the picture. distance_m: from the lens to the subject. breathing:
    relative change of the focal length per relative change of the focus distance.
    """

    f_px: Any
    width_px: int
    height_px: int
    distance_m: Any
    breathing: Any = 0.0

    @property
    def half_px(self) -> float:
        """From the center of the picture to its side edge."""
        return self.width_px / 2.0

    @property
    def distance_cm(self) -> Any:
        """From the lens to the subject."""
        return np.maximum(self.distance_m, NEAREST_M) * CM_PER_M


@dataclass(frozen=True, slots=True)
class AxisInfo:
    """Properties of an axis.

    unit, sign: of a layer's offsets, in words and as a sign. plus, minus: names of both directions. most_swing: the
    largest. step: of a fine change. scale: pixels of picture motion per unit of offset, per tangent for angles; at the
    side edge for axes that scale or turn the picture. moves: direction in which a positive offset moves the center of
    the picture, right and down. ink: colors on light and dark paper. dash: pattern of its line. folds: forms show it on
    request, or when it moves.
    """

    name: Axis
    title: str
    unit: str
    sign: str
    plus: str
    minus: str
    most_swing: float
    step: float
    scale: Callable[[PictureScale], Any]
    moves: tuple[float, float]
    ink: tuple[str, str]
    dash: tuple[float, ...]
    folds: bool = False

    @property
    def column(self) -> str:
        """Name of its column in tables of offsets."""
        return f"{self.name}_{'percent' if self.unit == '%' else self.unit}"

    @property
    def turns(self) -> bool:
        """Return whether its offsets are angles."""
        return self.unit == "deg"

    def offsets_px(self, offsets: Array, at: PictureScale, small: bool = False) -> Array:
        """Return the picture motion by offsets. small: in proportion to them.

        Parameters
        ----------
        offsets : (F,) float64, degrees, cm or %.

        Returns
        -------
        (F,) float64, pixels in the direction of `moves`.
        """
        return np.asarray(self._bent(offsets, small) * self.scale(at))

    def _bent(self, offsets: Array, small: bool) -> Array:
        if not self.turns:
            return offsets
        return np.radians(offsets) if small else np.asarray(np.tan(np.radians(offsets)))

    def swing_px(self, swing: float, at: PictureScale) -> float:
        """Return the picture motion by a swing in either direction, in pixels.

        >>> round(axis_info("pan").swing_px(1.0, PictureScale(1866.7, 1920, 1080, 3.0)), 1)
        32.6
        """
        swing = abs(swing)
        return float((np.tan(rad(min(swing, _STEEPEST_DEG))) if self.turns else swing) * self.scale(at))

    def swing_of_px(self, px: float, at: PictureScale) -> float:
        """Return the offset that moves the picture by some pixels: the inverse of `swing_px`."""
        per_unit = px / self.scale(at)
        return float(np.degrees(np.arctan(per_unit)) if self.turns else per_unit)


AXIS_INFO: tuple[AxisInfo, ...] = (
    AxisInfo(
        "pan", "pan", "deg", "°", "left", "right", 180.0, 0.02,
        lambda at: at.f_px, (1.0, 0.0), ("#7a3e9d", "#c597e3"), (6, 3),
    ),
    AxisInfo(
        "tilt", "tilt", "deg", "°", "up", "down", 90.0, 0.02,
        lambda at: at.f_px, (0.0, 1.0), ("#9a5416", "#dca066"), (),
    ),
    AxisInfo(
        "roll", "roll", "deg", "°", "counter-clockwise", "clockwise", 180.0, 0.02,
        lambda at: at.half_px, (0.0, 0.0), ("#0e6f6e", "#5fbdbb"), (1.5, 2.5),
    ),
    AxisInfo(
        "truck", "truck", "cm", "cm", "right", "left", 10_000.0, 0.05,
        lambda at: at.f_px / at.distance_cm, (-1.0, 0.0), ("#3c5a99", "#93abe0"), (9, 2, 2, 2),
    ),
    AxisInfo(
        "pedestal", "pedestal", "cm", "cm", "up", "down", 10_000.0, 0.05,
        lambda at: at.f_px / at.distance_cm, (0.0, 1.0), ("#4c7326", "#9cc274"), (14, 2),
    ),
    AxisInfo(
        "dolly", "dolly", "cm", "cm", "forward", "back", 10_000.0, 0.05,
        lambda at: at.half_px / at.distance_cm, (0.0, 0.0), ("#a2364f", "#e68ba1"), (4, 2, 1.5, 2),
    ),
    AxisInfo(
        "zoom", "zoom", "%", "%", "longer", "wider", 90.0, 0.02,
        lambda at: at.half_px / 100.0, (0.0, 0.0), ("#55595f", "#b9bcc2"), (2, 5),
    ),
    AxisInfo(
        "shift_x", "shift x", "%", "%", "right", "left", 100.0, 0.02,
        lambda at: at.width_px / 100.0, (1.0, 0.0), ("#8a3b7a", "#e09ad0"), (9, 4, 1, 4), folds=True,
    ),
    AxisInfo(
        "shift_y", "shift y", "%", "%", "up", "down", 100.0, 0.02,
        lambda at: at.height_px / 100.0, (0.0, -1.0), ("#7a6a12", "#cfc06a"), (14, 2, 1, 2), folds=True,
    ),
    AxisInfo(
        "focus", "focus", "%", "%", "farther", "nearer", 90.0, 0.05,
        lambda at: at.half_px * at.breathing / 100.0, (0.0, 0.0), ("#4b3fa0", "#aba2f2"), (3, 2, 3, 6), folds=True,
    ),
)  # fmt: skip
# (A, 2): how each axis moves the center of the picture, right and down.
DIRECTIONS: Array = np.array([info.moves for info in AXIS_INFO])
DIRECTIONS.flags.writeable = False


def axis_index(axis: Axis) -> int:
    """Return the column of an axis in arrays of offsets."""
    return AXES.index(axis)


def axis_info(axis: Axis) -> AxisInfo:
    """Return the row of an axis."""
    return AXIS_INFO[axis_index(axis)]


def axis_title(axis: Axis) -> str:
    """Return the display name of an axis."""
    return axis_info(axis).title


def no_offsets(frames: Array) -> Array:
    """Return offsets that move nothing.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F, A) float64, degrees, cm or %, all zero.
    """
    return np.zeros((len(frames), len(AXES)))


def center_px(offsets: Array, at: PictureScale, small: bool = False) -> Array:
    """Return the motion of the center of the picture by offsets. small: in proportion to them.

    Parameters
    ----------
    offsets : (F, A) float64, degrees, cm or %.

    Returns
    -------
    (F, 2) float64, pixels, right and down.
    """
    out = np.zeros((2, len(offsets)))
    for info, values in zip(AXIS_INFO, offsets.T, strict=True):
        if any(info.moves) and values.any():
            moved_px = info.offsets_px(values, at, small)
            for way, direction in zip(out, info.moves, strict=True):
                if direction:
                    way += moved_px if direction > 0.0 else -moved_px
    return out.T


def px_per_unit(at: PictureScale) -> Array:
    """Return the picture motion by a small offset of each axis.

    Returns
    -------
    (A,) float64, pixels per degree, cm or %; (F, A) where the scale has one number per frame.
    """
    columns = [info.scale(at) * (rad(1.0) if info.turns else 1.0) for info in AXIS_INFO]
    out = np.empty((len(columns), *np.broadcast(*columns).shape))
    for row, column in enumerate(columns):
        out[row] = column
    return out.T

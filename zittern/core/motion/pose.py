"""The pose of the lens at some frames, and the names of its columns in files and packets."""

from __future__ import annotations

from dataclasses import dataclass, fields

from zittern.core.axes import SHIFTS, axis_info
from zittern.core.units import Array, IntArray

__all__ = ["FILM_BACK_COLUMNS", "LENS_SAMPLES", "PATH_COLUMNS", "POSE_COLUMNS", "Pose"]

# Position, angles and focal length: what every camera has.
PATH_COLUMNS = ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg", "focal_mm")
FILM_BACK_COLUMNS = tuple(axis_info(axis).column for axis in SHIFTS)
# Names of the columns of `Pose.parts`, in order.
POSE_COLUMNS = (*PATH_COLUMNS, *FILM_BACK_COLUMNS, "k1", "k2", "focus_m")
# Parts beyond position, angles and focal length.
LENS_SAMPLES = ("shift_percent", "distortion", "focus_m")


@dataclass(frozen=True, slots=True)
class Pose:
    """World pose of the lens. position_m (F, 3); angles_deg (F, 3) pan, tilt, roll, continuous.

    focal_mm (F,). shift_percent (F, 2): picture shift by the film back, % of its width to the right, of its height up.
    distortion (F, 2): k1 and k2. focus_m (F,): focus distance.
    """

    position_m: Array
    angles_deg: Array
    focal_mm: Array
    shift_percent: Array
    distortion: Array
    focus_m: Array

    @property
    def parts(self) -> tuple[Array, ...]:
        """All of it, in the order in which one is made.

        Returns
        -------
        (F,) or (F, N) float64 each; side by side they are the P columns of POSE_COLUMNS.
        """
        return tuple(getattr(self, field.name) for field in fields(self))

    def rows_at(self, rows: IntArray | slice) -> Pose:
        """Return the pose at some of its frames.

        Parameters
        ----------
        rows: (N,) indices of its frames, or of their neighbors.

        Returns
        -------
        Pose at (N,) frames.
        """
        return Pose(*(part[rows] for part in self.parts))

"""The moments of a frame while the shutter is open, and the rows that are read at each.

The shutter is open about the frame's own time: at 180 degrees from a quarter of a frame before it to a quarter after.
Sub-frames are the middles of equal parts of that (midpoint rule). A sensor that is read row by row gives each strip of
rows its own time; the middle row has the frame's.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zittern.core.movie.settings import MovieSettings
from zittern.core.units import Array

__all__ = ["Draw", "draws_of", "frames_at"]


@dataclass(frozen=True, slots=True)
class Draw:
    """One drawing of a frame.

    At a number of frames after the frame's own time, of the rows from `top` to `bottom` (shares of the height, from the
    top), with a weight.
    """

    offset_frames: float
    top: float
    bottom: float
    weight: float


def draws_of(settings: MovieSettings, fps: float) -> tuple[Draw, ...]:
    """Return the drawings of every frame, strip by strip. Weights of a strip sum to 1. fps: frames a second.

    >>> [draw.offset_frames for draw in draws_of(MovieSettings(subframes=2), 24.0)]
    [-0.125, 0.125]
    """
    count = settings.subframes if settings.shutter_deg > 0.0 else 1
    open_frames = settings.shutter_deg / 360.0
    subframes = ((np.arange(count) + 0.5) / count - 0.5) * open_frames
    strips = settings.strips or 1 if settings.readout_ms > 0.0 else 1
    read_frames = settings.readout_ms / 1000.0 * fps
    return tuple(
        Draw(
            offset_frames=float(offset + ((strip + 0.5) / strips - 0.5) * read_frames),
            top=strip / strips,
            bottom=(strip + 1) / strips,
            weight=1.0 / count,
        )
        for strip in range(strips)
        for offset in subframes
    )


def frames_at(draws: tuple[Draw, ...], frames: Array) -> Array:
    """When each drawing of some frames is.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F, D) frames.
    """
    return np.asarray(frames[:, None] + np.array([each.offset_frames for each in draws]))

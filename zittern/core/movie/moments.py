"""Poses of the lens and of plates at the moments that a movie's frames are drawn at."""

from __future__ import annotations

import numpy as np

from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import distances_m, picture_offsets_px
from zittern.core.movie.exposure import draws_of, frames_at
from zittern.core.movie.settings import MovieSettings
from zittern.core.readings.motion_view import MotionView
from zittern.core.readings.streams import STREAMS
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["moments", "range_of", "wave_px"]

# Inputs of a drawing.
_STREAMS = tuple(each for each in STREAMS if each.name in ("pose", "bare", "plate"))
# The waveform in the strip has no more samples than this.
_MOST_WAVE = 1_000


def range_of(settings: MovieSettings, shot: Shot) -> tuple[int, int]:
    """First and last frame of the movie, within the shot's. Raises ValueError where none are left."""
    first = shot.first_frame if settings.first_frame is None else settings.first_frame
    last = shot.last_frame if settings.last_frame is None else settings.last_frame
    if last < first:
        raise ValueError(f"the movie ends at frame {last}, before it starts at frame {first}")
    within = max(first, shot.first_frame), min(last, shot.last_frame)
    if within[1] < within[0]:
        raise ValueError(
            f"frames {first} to {last} are not in the shot, which goes from {shot.first_frame} to {shot.last_frame}"
        )
    return within


def moments(shot: Shot, settings: MovieSettings, frames: Array, cache: Cache) -> tuple[Array, dict[str, Array]]:
    """Return the drawings of some frames, in order.

    Their times, and `pose`, `bare` and `plate:ID` as the streams of these names.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (N,) frames, and (N, C) by name, N frames x drawings.
    """
    at = frames_at(draws_of(settings, shot.fps.value), frames).ravel()
    # Each moment once, rising, as evaluation wants them.
    times, back = np.unique(at, return_inverse=True)
    seen = MotionView(shot, evaluate(shot, times, cache))
    arrays = {
        f"{stream.name}:{part}" if part else stream.name: np.asarray(array.values[back])
        for stream in _STREAMS
        for part, array in stream.parts(seen).items()
    }
    return at, arrays


def wave_px(shot: Shot, first: int, last: int, cache: Cache) -> Array:
    """Return the picture movement by the layers, right and up, for the strip; thinned for a long movie.

    Returns
    -------
    (N, 2) px.
    """
    frames = np.linspace(first, last, min(last - first + 1, _MOST_WAVE))
    motion = evaluate(shot, frames, cache)
    return picture_offsets_px(shot, motion, distances_m(shot, motion))[:, :2]

"""Stages with memory. What they give at a frame depends on all that went before, so they run on a grid of their own: fine steps of time
that begin well before the shot and end after it, whichever frames are asked for. A sub-range then equals the same rows of the whole,
and nothing depends on the frame rate but how the path is sampled.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator

import numpy as np

from zittern.core.numbers.interpolate import catmull_rom
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["STEP_S", "at_frames", "coarsened", "filled", "grid_frames", "lead_s", "step_s"]

# Steps a second: at 12 Hz, the fastest that a body or a head swings, ten to a cycle.
STEP_S = 1.0 / 120.0
# A shot that would need more points than this is stepped through more coarsely: 40 minutes still are not.
_MOST_POINTS = 300_000
# Nor one of few frames that last very long each: so many points, and so many more a frame.
_FEW_POINTS, _POINTS_A_FRAME = 20_000, 12
# What goes in is worked out at one of so many points: at 12 Hz still five to a cycle, with a cubic curve through them.
_EVERY = 2
# Points that are worked on at a time: memory does not grow with the length of a shot.
_PART_POINTS = 32_768
# Time before the shot that there can be to settle in, in seconds: a few lengths, so that another frequency seldom means another grid.
_LEADS_S = (4.0, 16.0, 64.0)
# After this many time constants a start from rest has settled to a thousandth.
_SETTLED = 7.0


def lead_s(frequency_hz: float, damping: float) -> float:
    """How long before the shot something that swings has to begin."""
    wanted = _SETTLED / (2.0 * math.pi * frequency_hz * min(damping, 1.0))
    return next((each for each in _LEADS_S if each >= wanted), _LEADS_S[-1])


def step_s(shot: Shot, lead_s: float) -> float:
    """Length of a step of the grid."""
    length = (shot.last_frame - shot.first_frame) / shot.fps.value + lead_s
    most = min(_MOST_POINTS, _FEW_POINTS + _POINTS_A_FRAME * shot.frame_count)
    step = STEP_S
    while length / step > most:
        step *= 2.0
    return step


def grid_frames(shot: Shot, lead_s: float) -> Array:
    """Frames of the grid, fractional: from `lead_s` before the shot's first to just after its last. (G,)."""
    fps = shot.fps.value
    step = step_s(shot, lead_s)
    before = math.ceil(lead_s / step)
    after = math.ceil((shot.last_frame - shot.first_frame) / fps / step) + 3
    return np.asarray(shot.first_frame + np.arange(-before, after + 1) * (step * fps), dtype=np.float64)


def coarsened(grid: Array, step_s: float) -> Array:
    """Every other point of a grid, at least as far as it reaches. What goes into a stage with memory is cheap to follow but dear to make: it is made
    here, and taken at the points between by `at_frames`. (C,). step: of the grid, in seconds; one that is coarse already stays.
    """
    if step_s > STEP_S:
        return grid
    step = _EVERY * (grid[1] - grid[0])
    return np.asarray(grid[0] + step * np.arange((len(grid) - 1 + _EVERY - 1) // _EVERY + 1), dtype=np.float64)


def filled(grid: Array, columns: int, make: Callable[[Array], Array]) -> Array:
    """What is made at frames (N,) -> (N, columns), over a whole grid, part by part. (G, columns)."""
    out = np.empty((len(grid), columns))
    for part in _parts(len(grid)):
        out[part] = make(grid[part])
    return out


def _parts(count: int) -> Iterator[slice]:
    for start in range(0, count, _PART_POINTS):
        yield slice(start, start + _PART_POINTS)


def at_frames(grid: Array, values: Array, frames: Array) -> Array:
    """Values on the grid (G, N) at frames (F,): cubic between grid points (Catmull and Rom 1974), held outside. -> (F, N)."""
    step = grid[1] - grid[0]
    place = np.clip((frames - grid[0]) / step, 0.0, len(grid) - 1.0)
    i = np.clip(np.floor(place).astype(np.int64), 1, len(grid) - 3)
    return catmull_rom([values[i + k] for k in (-1, 0, 1, 2)], (place - i)[:, None])

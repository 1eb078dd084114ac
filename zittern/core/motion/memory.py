"""Stages with memory.

Their state at a frame depends on all earlier frames, so they run on a separate grid: fine time steps that start well
before the shot and end after it, independent of the requested frames. A sub-range then equals the same rows of the
whole, and nothing depends on the frame rate but how the path is sampled.

A slow oscillation must start early: that lead, up to 256 s, has coarse steps, and only its last seconds
fine ones. So a slow spring never makes the shot's own steps coarser.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from zittern.core.numbers.interpolate import catmull_rom
from zittern.core.runtime import budget
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["NEAR_LEAD_S", "STEP_S", "Grid", "at_frames", "coarsened", "filled", "grid_of", "lead_s", "step_of"]

# Steps per second for oscillations up to FAST_HZ; twice as many for twice the frequency.
STEP_S = 1.0 / 120.0
FAST_HZ = 6.0
# The finest grid: faster oscillations are beyond any frame rate.
_LEAST_STEP_S = STEP_S / 16.0
# A shot that would need more points than this is stepped through more coarsely: 40 minutes still are not.
_MOST_POINTS = 300_000
# Limit for few frames of long duration: a number of points, plus a number per frame.
_FEW_POINTS, _POINTS_A_FRAME = 12_000, 10
# Inputs are computed at one of this many points, with cubic interpolation.
_EVERY = 2
# Points that are worked on at a time: memory does not grow with the length of a shot.
_PART_POINTS = 32_768
# Time before the shot on fine steps, and on coarse ones before that: a few lengths, so that another frequency seldom
# means another grid.
NEAR_LEAD_S = 4.0
_FAR_LEADS_S = (0.0, 12.0, 60.0, 252.0)
_FAR_STEP_S = 1.0 / 30.0
# After this many time constants a start from rest has settled to a thousandth.
_SETTLED = 7.0


def lead_s(frequency_hz: float, damping: float) -> float:
    """Return the lead of an oscillator before the shot.

    By its slowest pole, ω (ζ - √(ζ² - 1)) where it is overdamped, else ω ζ.
    """
    slowest = damping if damping <= 1.0 else damping - math.sqrt(damping * damping - 1.0)
    return _SETTLED / (2.0 * math.pi * frequency_hz * slowest)


@dataclass(frozen=True, slots=False)
class Grid:
    """near (G,): frames of even fine steps, from NEAR_LEAD_S before the shot to just after it. far (H,).

    Frames of even coarse steps that end at the first of the near ones; none where nothing swings slowly. step_s,
    far_step_s: lengths of the steps.
    """

    near: Array
    far: Array
    step_s: float
    far_step_s: float

    @cached_property
    def key(self) -> tuple[float, int, int, float]:
        """Return its cache key."""
        return float(self.near[0]), len(self.near), len(self.far), self.step_s

    @cached_property
    def all(self) -> Array:
        """Every frame once, rising.

        Returns
        -------
        (H - 1 + G,).
        """
        return np.concatenate([self.far[:-1], self.near])

    @property
    def far_count(self) -> int:
        """Return the number of points in `all` before the near ones."""
        return max(len(self.far) - 1, 0)


def grid_of(shot: Shot, lead_s: float = NEAR_LEAD_S, fastest_hz: float = 0.0) -> Grid:
    """Return the grid for what settles in a lead, and swings no faster than a frequency."""
    fps = shot.fps.value
    step = _step_s(shot, fastest_hz)
    before = math.ceil(min(lead_s, NEAR_LEAD_S) / step)
    after = math.ceil((shot.last_frame - shot.first_frame) / fps / step) + 3
    near = np.asarray(shot.first_frame + np.arange(-before, after + 1) * (step * fps), dtype=np.float64)
    wanted = lead_s - NEAR_LEAD_S
    far_lead = next((each for each in _FAR_LEADS_S if each >= wanted), _FAR_LEADS_S[-1])
    count = math.ceil(far_lead / _FAR_STEP_S)
    far = near[0] + np.arange(-count, 1) * (_FAR_STEP_S * fps) if count else np.empty(0)
    return Grid(near, far, step, _FAR_STEP_S)


def _step_s(shot: Shot, fastest_hz: float) -> float:
    step = STEP_S
    while step > _LEAST_STEP_S and fastest_hz * step > FAST_HZ * STEP_S * (1.0 + 1e-9):
        step *= 0.5
    length = (shot.last_frame - shot.first_frame) / shot.fps.value + NEAR_LEAD_S
    most = min(_MOST_POINTS, _FEW_POINTS + _POINTS_A_FRAME * shot.frame_count)
    while length / step > most:
        step *= 2.0
    return step


def coarsened(grid: Grid) -> Array:
    """Every other point of the near grid, at least as far as it reaches.

    Inputs of a stage with memory are smooth but expensive: they are computed here, and interpolated at the points
    between by `at_frames`. A grid that is coarse already stays.

    Returns
    -------
    (C,) frames.
    """
    near = grid.near
    if grid.step_s > STEP_S:
        return near
    step = _EVERY * (near[1] - near[0])
    return np.asarray(near[0] + step * np.arange((len(near) - 1 + _EVERY - 1) // _EVERY + 1), dtype=np.float64)


def filled(grid: Array, columns: int, make: Callable[[Array], Array]) -> Array:
    """Return a function of frames (N,) -> (N, columns), over a whole grid, part by part.

    Parameters
    ----------
    grid: (G,) frames.

    Returns
    -------
    (G, columns).
    """
    # Each column's samples side by side: what is done to them is done column by column.
    out = np.empty((columns, len(grid))).T
    for part in _slices(len(grid)):
        budget.check()
        out[part] = make(grid[part])
    return out


def _slices(count: int) -> Iterator[slice]:
    for start in range(0, count, _PART_POINTS):
        yield slice(start, start + _PART_POINTS)


def step_of(grid: Array) -> float:
    """Return the step of an even grid.

    Parameters
    ----------
    grid: (G,) frames.

    Returns
    -------
    Frames.
    """
    return float(grid[-1] - grid[0]) / (len(grid) - 1)


def at_frames(grid: Array, values: Array, frames: Array) -> Array:
    """Values on an even grid at other frames: cubic between grid points (Catmull and Rom 1974), held outside.

    Parameters
    ----------
    grid: (G,) frames.
    values : (G, N) float64, values on the grid, in any unit.
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F, N) float64, in the unit of the values.
    """
    place = np.clip((frames - grid[0]) / step_of(grid), 0.0, len(grid) - 1.0)
    i = np.clip(np.floor(place).astype(np.int64), 1, len(grid) - 3)
    return catmull_rom([values.T[:, i + k] for k in (-1, 0, 1, 2)], place - i).T

"""Stages with memory. What they give at a frame depends on all that went before, so they run on a grid of their own: fine steps of time
that begin well before the shot and end after it, whichever frames are asked for. A sub-range then equals the same rows of the whole,
and nothing depends on the frame rate but how the path is sampled.
"""

from __future__ import annotations

import math

import numpy as np

from zittern.core.motion.run import Run
from zittern.core.units import Array

__all__ = ["STEP_S", "at_frames", "grid_frames"]

# Steps a second: at 12 Hz, the fastest that a body or a head swings, twenty to a cycle.
STEP_S = 1.0 / 240.0


def grid_frames(run: Run, lead_s: float) -> Array:
    """Frames of the grid, fractional: from `lead_s` before the shot's first to just after its last. (G,)."""
    fps = run.shot.fps.value
    first, last = run.span
    before = math.ceil(lead_s / STEP_S)
    after = math.ceil((last - first) / fps / STEP_S) + 1
    return np.asarray(first + np.arange(-before, after + 1) * (STEP_S * fps), dtype=np.float64)


def at_frames(grid: Array, values: Array, frames: Array) -> Array:
    """Values on the grid (G, N) at frames (F,): cubic between grid points (Catmull and Rom 1974), held outside. -> (F, N)."""
    step = grid[1] - grid[0]
    place = np.clip((frames - grid[0]) / step, 0.0, len(grid) - 1.0)
    i = np.clip(np.floor(place).astype(np.int64), 1, len(grid) - 3)
    u = (place - i)[:, None]
    a, b, c, d = (values[i + k] for k in (-1, 0, 1, 2))
    return np.asarray(b + 0.5 * u * (c - a + u * (2 * a - 5 * b + 4 * c - d + u * (3 * (b - c) + d - a))), dtype=np.float64)

"""Stage: hold framing.

Inputs: the finished pose of the lens, the subject and its framing target. Result: the rotation that removes the slow
part of the
subject's drift away.

The drift, the change of pan and tilt that would bring the subject to its framing target, passes a
Butterworth low-pass of second order forwards and backwards (so it comes neither late nor early; fourth order in all,
half of the amplitude remains at the chosen frequency), and the lens is rotated by the result, with unchanged roll. What
is
faster stays. Before the shot and after it, equally long, the drift goes on as it began and ended, so that the ends are
held as the middle is.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from zittern.core.motion.aim import framing_of, to_target
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.memory import at_frames, coarsened, filled, grid_of
from zittern.core.motion.targets import followable, gliding_m
from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations, turns
from zittern.core.rig.aiming import pan_tilt_deg
from zittern.core.runtime.later import scipy_part
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["drift_deg", "holding", "slow_drift_deg", "turned"]

_ORDER = 2
# Before and after the shot the drift continues for this many cycles of the slowest kept rate, along a line through this
# many cycles: by then the filter is independent of its start.
_LEAD_CYCLES, _FITTED_CYCLES = 3.0, 0.35
_MOST_LEAD_S = 120.0
# Some points outside of the shot, for the curve through them.
_LEAST_LEAD_S = 0.1
# Share of the grid's rate: the resolution for a very long shot with coarse steps.
_MOST_SHARE = 0.4
# The lens is rotated by up to this angle.
_MOST_DEG = 80.0


def holding(shot: Shot) -> HoldFraming | None:
    """Return the hold on the framing, if it has a target."""
    if shot.hold is None or shot.hold.weight.nothing or not followable(shot, framing_of(shot)):
        return None
    return shot.hold


def drift_deg(shot: Shot, scope: Scope, pose: Array, shift_percent: Array) -> Array:
    """Return the pan and tilt that would bring the target to its framing position.

    Parameters
    ----------
    pose: tf_world_lens (F, 4, 4).
    shift_percent: (F, 2) of the picture.

    Returns
    -------
    (F, 2) degrees, -180..180; 0 where it is inside the lens.
    """
    framing = framing_of(shot)
    now = rotations.angles_of(pose[:, :3, :3])
    away = gliding_m(shot, framing, scope) - pose[:, :3, 3]
    wanted = pan_tilt_deg(away, np.zeros_like(away), to_target(shot, framing, scope, shift_percent), now[:, 2])
    lacking = np.nan_to_num(wanted - now[:, :2])
    return np.asarray(lacking - 360.0 * np.round(lacking / 360.0), dtype=np.float64)


def slow_drift_deg(
    run: Evaluation, hold: HoldFraming, parts: Sequence[Part], lens: Callable[[Evaluation], tuple[Array, Array]]
) -> Array:
    """Return the slow part of it at the frames of an evaluation, by weight.

    parts: what the pose of the lens is computed from; lens: tf_world_lens of an evaluation without the hold, and the
    shift of the picture.

    Returns
    -------
    (F, 2) degrees.
    """
    shot = run.shot
    grid = coarsened(grid_of(shot, _LEAST_LEAD_S))
    step_s = (grid[1] - grid[0]) / shot.fps.value

    def part(frames: Array) -> Array:
        sub = run.over(frames, run.cache)
        return drift_deg(shot, sub.scope, *lens(sub))

    def make() -> Array:
        signal = scipy_part("signal")
        drift = np.unwrap(filled(grid, 2, part), period=360.0, axis=0)
        lead = min(_LEAD_CYCLES / hold.below_hz, _MOST_LEAD_S) / step_s
        more, fitted = int(np.ceil(lead)), int(np.ceil(_FITTED_CYCLES / hold.below_hz / step_s))
        low_pass = signal.butter(_ORDER, min(hold.below_hz, _MOST_SHARE / step_s), fs=1.0 / step_s, output="sos")
        extended = np.concatenate([_before(drift, more, fitted), drift, _before(drift[::-1], more, fitted)[::-1]])
        slow = signal.sosfiltfilt(low_pass, extended, axis=0)[more : more + len(drift)]
        return np.asarray(np.clip(slow, -_MOST_DEG, _MOST_DEG), dtype=np.float64)

    slow = at_frames(grid, run.table("hold", (len(grid), hold, *parts), make), run.frames)
    return np.asarray(slow * hold.weight.sample(run.scope)[:, None], dtype=np.float64)


def _before(drift: Array, count: int, fitted: int) -> Array:
    """Return the drift (G, N) before its first row: along the line of its first `fitted` rows, with mirrored residuals.

    (count, N).
    """
    rows = np.arange(min(max(fitted, 2), len(drift)), dtype=np.float64)
    slope, level = np.polyfit(rows, drift[: len(rows)], 1)
    off = drift - (level + slope * np.arange(len(drift), dtype=np.float64)[:, None])
    # Mirrored about the first row, repeatedly: rows of a short shot are reused.
    period = max(2 * (len(drift) - 1), 1)
    steps = np.arange(-count, 0)
    place = np.mod(steps, period)
    mirrored = off[np.where(place < len(drift), place, period - place)]
    return np.asarray(level + slope * steps[:, None] + mirrored, dtype=np.float64)


def turned(pose: Array, slow_deg: Array) -> Array:
    """Return the turn of the lens that pan and tilt more give.

    Parameters
    ----------
    pose: tf_world_lens (F, 4, 4).
    slow_deg: (F, 2) pan and tilt.

    Returns
    -------
    (F, 6), as `chain.RigOffsets.given`.
    """
    before = pose[:, :3, :3]
    angles = rotations.angles_of(before)
    angles[:, :2] += slow_deg
    return np.concatenate([np.zeros((len(pose), 3)), turns.between(before, rotations.matrices(angles))], axis=1)

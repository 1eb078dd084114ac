"""A damped follow: a mass on a spring and a damper that a moving point carries.

x'' = w^2 (u - x) + 2 z w (u' - x'), with w = 2 pi f: no lag at constant speed, a lag of a / w^2 under constant acceleration a (Den Hartog
1956, Mechanical Vibrations, section 2.12). H(s) = (2 z w s + w^2) / (s^2 + 2 z w s + w^2), made discrete exactly for a path that is straight
between grid points (first-order hold), so that no step is too large for it.
"""

from __future__ import annotations

import math

import numpy as np

from zittern.core.motion.memory import STEP_S, at_frames, grid_frames
from zittern.core.motion.run import Run
from zittern.core.rig import chain
from zittern.core.units import Array

__all__ = ["follow_m", "followed"]

# After this many time constants a start from rest has settled to a millionth.
_SETTLED = 14.0


def followed(values: Array, frequency_hz: float, damping: float) -> Array:
    """What hangs on a point that moves through values on the grid, starting at rest in the first. (G, N) -> (G, N)."""
    from scipy import signal  # half a second to import: only whoever uses it waits

    w = 2.0 * math.pi * frequency_hz
    spring = np.array([2.0 * damping * w, w * w]), np.array([1.0, 2.0 * damping * w, w * w])
    numerator, denominator, _ = signal.cont2discrete(spring, STEP_S, method="foh")  # type: ignore[call-overload]
    b, a = np.ravel(numerator), np.ravel(denominator)
    settled = signal.lfilter_zi(b, a)[:, None] * values[:1]
    out, _ = signal.lfilter(b, a, values, axis=0, zi=settled)
    return np.asarray(out, dtype=np.float64)


def follow_m(run: Run, frequency_hz: float, damping: float) -> Array:
    """Where something would be that follows the bare camera on a spring. frequency_hz > 0, damping > 0. -> (F, 3) metres."""
    lead_s = _SETTLED / (2.0 * math.pi * frequency_hz * min(damping, 1.0))
    grid = grid_frames(run, lead_s)

    def make() -> Array:
        scope = run.scope.over(grid)
        pose = chain.lens_pose(run.shot.mounts, {mount.id: chain.local_pose(mount, scope) for mount in run.shot.mounts}, {})
        return followed(pose[:, :3, 3], frequency_hz, damping)

    key = ("follow", run.shot.fps.num, run.shot.fps.den, run.span, frequency_hz, damping, *map(run.key_of, run.shot.mounts))
    return at_frames(grid, run.cache.get(key, make), run.frames)

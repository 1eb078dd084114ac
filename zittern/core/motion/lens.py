"""Stage: lens.

Reads the keyed focal length, the glass and the summed offsets; gives the focal length with breathing and zoom, the
distortion, the shift of the picture, and the focus distance.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import numpy as np

from zittern.core.axes import SHIFTS, Axis, axis_index
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.optics.lens import LEAST_FOCAL_MM
from zittern.core.shot.glass import NEAREST_FOCUS_M
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["distortion", "focal_mm", "focal_parts", "lens_values", "shift_percent"]

_LENS_AXES: tuple[Axis, ...] = ("zoom", "focus", *SHIFTS)


def focal_mm(run: Evaluation) -> Array:
    """Keyed, with the breathing of the glass.

    Returns
    -------
    (F,) millimetres.
    """
    return run.memoized("focal", focal_parts(run.shot), lambda: run.shot.lens_mm(run.scope))


def focal_parts(shot: Shot) -> tuple[Part, ...]:
    """Return the inputs of the focal length and of the distortion."""
    return shot.focal_mm, shot.glass


def distortion(run: Evaluation) -> Array:
    """k1 and k2 of the glass; 0 without.

    Returns
    -------
    (F, 2) float64, coefficients, dimensionless.
    """
    return run.memoized("glass", (run.shot.glass,), lambda: run.shot.distortion(run.scope))


def lens_values(run: Evaluation, offsets: Mapping[str, Array]) -> tuple[Array, ...]:
    """Return what a pose says of the lens: its parts after position and angles.

    Parameters
    ----------
    offsets: (F, A) of the layers, by mount id or chain.LENS; none for the bare move.

    Returns
    -------
    (F,) or (F, 2) each: focal length with breathing and zoom, mm; shift of the picture, %; distortion;
    focus distance, m.
    """
    shot, sums = run.shot, _sum_on_axes(run, offsets, _LENS_AXES)
    zoom, hunting = sums[:, 0] / 100.0, sums[:, 1] / 100.0
    keyed_mm, focus_m = focal_mm(run), run.memoized("focus", (shot.glass,), lambda: shot.focus_m(run.scope))
    if np.any(hunting):
        focus_m = np.maximum(focus_m * (1.0 + hunting), NEAREST_FOCUS_M)
        keyed_mm = shot.lens_mm(run.scope, focus_m)
    zoomed_mm = np.maximum(keyed_mm * (1.0 + zoom), LEAST_FOCAL_MM) if np.any(zoom) else keyed_mm
    return zoomed_mm, sums[:, 2:], distortion(run), focus_m


def shift_percent(run: Evaluation, offsets: Mapping[str, Array]) -> Array:
    """Return the picture shift by the film back: % of its width to the right, of its height up.

    Parameters
    ----------
    offsets: (F, A) of the layers, by mount id or chain.LENS.

    Returns
    -------
    (F, 2) percent.
    """
    return _sum_on_axes(run, offsets, SHIFTS)


def _sum_on_axes(run: Evaluation, offsets: Mapping[str, Array], axes: Sequence[Axis]) -> Array:
    """Return the sum of all layers on some axes. (F, N)."""
    out = np.zeros((len(axes), len(run.frames)))
    for offset in offsets.values():
        for row, axis in zip(out, axes, strict=True):
            row += offset[:, axis_index(axis)]
    return out.T

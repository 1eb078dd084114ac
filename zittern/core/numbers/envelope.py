"""Ramps: how a clip or layer grows at the start of its span and fades at the end."""

from __future__ import annotations

from typing import Literal

import numpy as np

from zittern.core.units import Array

__all__ = ["RampShape", "ramp", "shape_of"]

RampShape = Literal["linear", "smooth", "equal-power"]


def shape_of(shape: RampShape, x: Array) -> Array:
    """Weight for progress x in 0..1.

    linear: x. smooth: 3x^2 - 2x^3. equal-power: sin(pi x / 2), whose square and that of its mirror add to 1.

    >>> shape_of("smooth", np.array([0.0, 0.25, 0.5, 1.0]))
    array([0.     , 0.15625, 0.5    , 1.     ])

    Parameters
    ----------
    x : (F,) float64, progress, dimensionless.

    Returns
    -------
    (F,) in 0..1.
    """
    x = np.clip(x, 0.0, 1.0)
    if shape == "smooth":
        return x * x * (3.0 - 2.0 * x)
    if shape == "equal-power":
        return np.asarray(np.sin(0.5 * np.pi * x), dtype=np.float64)
    return x


def ramp(
    frames: Array,
    span: tuple[float, float] | None,
    ramp_in_frames: float,
    ramp_out_frames: float,
    shape: RampShape,
    shot_span: tuple[float, float],
) -> Array:
    """Weight of a span with its ramps. A missing span reaches over the shot and beyond it.

    A span from a to b counts at a <= f < b + 1, so that spans of neighbouring frames meet without a hole, between
    frames too. Ramps keep their anchors a and b and hold over the last frame.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F,) in 0..1.
    """
    first, last = span if span is not None else shot_span
    weight = np.ones(frames.shape)
    with np.errstate(over="ignore"):  # a ramp of next to nothing is a step
        if ramp_in_frames > 0:
            weight = weight * shape_of(shape, (frames - first) / ramp_in_frames)
        if ramp_out_frames > 0:
            weight = weight * shape_of(shape, (last - frames) / ramp_out_frames)
    # Parts that start or end with the shot without a ramp are not cut off at the ends of the shot: springs and shutters
    # sample beyond them.
    if span is not None and (first > shot_span[0] or ramp_in_frames > 0):
        weight = np.where(frames < first, 0.0, weight)
    if span is not None and (last < shot_span[1] or ramp_out_frames > 0):
        weight = np.where(frames >= last + 1.0, 0.0, weight)
    return weight

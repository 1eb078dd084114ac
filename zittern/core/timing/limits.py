"""Curves brought within limits, where they are cut beyond them."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np

from zittern.core.numbers.curves import Curve, Key
from zittern.core.timing.course import Course, all_free, unfolded, value_at, with_changes

__all__ = ["limited"]

# Number of samples per segment in the search for limit crossings, which are then bisected; crossings closer than this
# many frames are merged.
_LOOKS_A_SEGMENT, _HALVINGS, _APART = 33, 40, 1e-4


def limited(curve: Curve, least: float, most: float) -> Curve:
    """Return a curve whose keys are all within limits, and which clamped to them has the course of the curve.

    It is cut where it crosses a limit, and clamped beyond.
    """
    values = curve.arrays.values
    if values.min() >= least and values.max() <= most:
        return curve
    if len(curve.keys) == 1:
        return curve.replace(keys=(curve.keys[0].moved(curve.keys[0].frame, float(np.clip(values[0], least, most))),))
    edges = [curve.keys[0].frame, *_crossings(curve, least, most), curve.keys[-1].frame]
    course = Course(all_free(unfolded(curve, edges[1:-1])))
    # A segment with folded handles is nearly vertical at its new middle key: a crossing there is at that key.
    near = [min(course.frames, key=lambda frame, edge=edge: abs(frame - edge)) for edge in edges]  # type: ignore[misc]
    edges = [key if abs(key - edge) < _APART else edge for key, edge in zip(near, edges, strict=True)]
    keys: list[Key] = []
    for start, stop in pairwise(edges):
        beyond = _beyond(value_at(curve, 0.5 * (start + stop)), least, most)
        into = keys.pop().handle_in if keys and keys[-1].frame == start else None
        if beyond is not None:
            keys.append(Key(frame=start, value=beyond, interp="hold", handle_in=into))
            continue
        part = course.part(start, stop, lambda _: False).keys
        if part[-1].frame < stop:
            part.append(Key(frame=stop, value=value_at(curve, stop)))
        part[0] = with_changes(part[0], handle_in=into)
        keys += [key.moved(key.frame, min(max(key.value, least), most)) for key in part]
    if keys[-1].frame < edges[-1]:
        keys.append(Key(frame=edges[-1], value=keys[-1].value))
    return curve.replace(keys=tuple(keys))


def _beyond(value: float, least: float, most: float) -> float | None:
    """Return the limit that a value exceeds, if any."""
    return least if value < least else most if value > most else None


def _crossings(curve: Curve, least: float, most: float) -> list[float]:
    """Frames between the first and the last key at which a curve crosses one of two limits."""
    frames = curve.arrays.frames
    looked = np.unique(np.concatenate([np.linspace(a, b, _LOOKS_A_SEGMENT) for a, b in pairwise(frames)]))
    found: list[float] = []
    for limit in (least, most):
        if not math.isfinite(limit):
            continue
        side = curve.sample(looked) > limit if limit == most else curve.sample(looked) < limit
        for n in np.flatnonzero(side[1:] != side[:-1]):
            low, high, first = float(looked[n]), float(looked[n + 1]), bool(side[n])
            for _ in range(_HALVINGS):
                middle = 0.5 * (low + high)
                value = value_at(curve, middle)
                beyond = value > limit if limit == most else value < limit
                low, high = (middle, high) if beyond == first else (low, middle)
            found.append(high)
    # A crossing next to a key is at the key: it may jump there.
    nearest = (float(frames[np.argmin(np.abs(frames - frame))]) for frame in found)
    placed = sorted(key if abs(key - frame) < _APART else frame for frame, key in zip(found, nearest, strict=True))
    inside = [frame for frame in placed if frames[0] < frame < frames[-1]]
    return [frame for n, frame in enumerate(inside) if n == 0 or frame - inside[n - 1] > _APART]

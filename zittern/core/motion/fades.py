"""Cross-fades: weights of clips that overlap on a lane.

Bars overlap when the later one starts before the earlier's last frame is over. Of two that do the one that starts later
fades in over the overlap while the other fades out; with no room to fade, the later clip takes over immediately. A clip
that
lies within another comes in over the first half of itself and goes out over the second, and the one around it comes
back. With more than two the shares multiply. Muted clips do not affect the fades of others. Shapes: linear and smooth
shares add
to 1; equal-power shares are sine and cosine, whose squares do, so that two unrelated shakes keep their energy where
linear ones lose up to 29 % of it.
"""

from __future__ import annotations

import numpy as np

from zittern.core.numbers.envelope import RampShape, shape_of
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.units import Array

__all__ = ["fade", "overlapping"]

Stretch = tuple[float, float]


def overlapping(lane: Lane, clip: Clip, shot_span: Stretch) -> tuple[tuple[Stretch, bool], ...]:
    """Stretches of the clips on a lane that a clip shares it with, and whether each starts before it.

    Those that do not overlap are left out.
    """
    mine = clip.span_frames or shot_span
    order = {each.id: n for n, each in enumerate(lane.clips)}
    found = []
    for other in lane.clips:
        theirs = other.span_frames or shot_span
        if other is clip or other.mute or theirs[0] >= mine[1] + 1.0 or mine[0] >= theirs[1] + 1.0:
            continue
        earlier = theirs[0] < mine[0] or (theirs[0] == mine[0] and order[other.id] < order[clip.id])
        found.append((theirs, earlier))
    return tuple(found)


def fade(frames: Array, mine: Stretch, others: tuple[tuple[Stretch, bool], ...], shape: RampShape) -> Array:
    """Return the cross-fade weight of a clip with a span next to others.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F,) in 0..1.
    """
    left = np.ones(frames.shape)
    for theirs, earlier in others:
        first, second = (theirs, mine) if earlier else (mine, theirs)
        start, stop = second[0], min(first[1], second[1])
        share = _progress(frames, start, stop)
        if second[1] < first[1]:
            within = 1.0 - np.abs(2.0 * share - 1.0) if stop > start else share
            share = np.where((frames < start) | (frames >= second[1] + 1.0), 0.0, within)
        left *= shape_of(shape, share if earlier else 1.0 - share)
    return left


def _progress(frames: Array, start: float, stop: float) -> Array:
    """0 at the start, 1 at the end and after it; a step where both are one. (F,) -> (F,)."""
    if stop <= start:
        return np.where(frames >= start, 1.0, 0.0)
    return np.clip((frames - start) / (stop - start), 0.0, 1.0)

"""Jumps in the inputs of springs: at hold keys and seams of numbers, at starts and ends of spans, and in formulas.

The documents report known jumps as pairs of frames: the last before, the first after. Formulas and takes without
a fade may jump anywhere: their jumps are looked for between the points of a grid, and found by
cutting the stretch between.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator

import numpy as np

from zittern.core.documents.doc import Doc
from zittern.core.motion import mixing
from zittern.core.numbers.param import Number
from zittern.core.runtime import budget
from zittern.core.shot.dials import Dial
from zittern.core.shot.layers import Spanned
from zittern.core.shot.mounts import Mount
from zittern.core.shot.reads import numbers_in, reads_of
from zittern.core.shot.shot import Shot
from zittern.core.sources.source import SourceDoc
from zittern.core.units import Array

__all__ = ["JUST_BEFORE_FRAMES", "found_jumps", "jumping", "jumps_below"]

# Offset of the left limit before a jump: too short for visible motion.
JUST_BEFORE_FRAMES = 1e-6
# More jumps than this are not followed one by one.
MOST_JUMPS = 20_000
# Ratio of a step to its neighbors from which on it may be a jump.
_SUSPICIOUS = 4.0
_LEAST = 1e-9
# Intervals are narrowed repeatedly by this factor: first with a few pieces, which discards intervals without a jump,
# then the remaining ones with many, up to this number of points per pass. What has less than this of its step in one
# piece is no jump.
_NARROWED = 2**24
_FIRST_PIECES, _PIECES, _MOST_POINTS = 8, 64, 1_000
_STILL_SUSPICIOUS = 0.25


def jumps_below(shot: Shot, mounts: Iterable[Mount], reach: tuple[float, float]) -> Array:
    """Known jumps of what moves some mounts and of the layers on them, within a reach of frames.

    Returns
    -------
    (J, 2) frames, rising.
    """
    docs: list[Doc] = list(mounts)
    names = {mount.id for mount in docs if isinstance(mount, Mount)}
    found = [_of_numbers(docs, shot, reach)]
    counted = mixing.active(shot)
    for lane in shot.lanes:
        acting = [
            (clip, layer)
            for clip in lane.clips
            for layer in clip.layers
            if layer.target in names and layer.id in counted
        ]
        if not acting:
            continue
        found.append(_of_numbers([part for clip, layer in acting for part in (clip.amount, layer)], shot, reach))
        found.append(_of_spans([*lane.clips, *(layer for _, layer in acting)]))
    pairs = np.concatenate(found)
    pairs = pairs[(pairs[:, 1] > reach[0]) & (pairs[:, 1] <= reach[1])]
    _, first = np.unique(pairs[:, 1], return_index=True)
    return pairs[first][:MOST_JUMPS]


def jumping(shot: Shot, mounts: Iterable[Mount]) -> tuple[list[Mount], set[str]]:
    """Return inputs of some mounts that may jump at unknown frames: the mounts, and ids of layers on them.

    A layer that replaces others jumps with them.
    """
    below = list(mounts)
    names = {mount.id for mount in below}
    counted = mixing.active(shot)
    moved = [mount for mount in below if _may_jump(shot, mount)]
    ids: set[str] = set()
    for clip in shot.clips():
        acting = [layer for layer in clip.layers if layer.target in names and layer.id in counted]
        jump = [layer for layer in acting if _may_jump(shot, clip.amount, layer, layer.source)]
        ids |= {layer.id for layer in (acting if any(layer.mode == "replace" for layer in jump) else jump)}
    return moved, ids


def _may_jump(shot: Shot, *docs: Doc) -> bool:
    return any(number.may_jump for number in _all_numbers(docs, shot)) or any(
        isinstance(doc, SourceDoc) and doc.may_jump for doc in docs
    )


def found_jumps(signal: Callable[[Array], Array], frames: Array) -> Array:
    """Jumps of a signal, (F,) -> (F, N), between frames that lie closer together than it changes otherwise.

    Parameters
    ----------
    frames: (G,) rising.

    Returns
    -------
    (J, 2) frames.
    """
    values = signal(frames)
    steps = np.max(np.abs(np.diff(values, axis=0)), axis=1, initial=0.0)
    beside = np.maximum(np.concatenate([[0.0], steps[:-1]]), np.concatenate([steps[1:], [0.0]]))
    at = np.flatnonzero(steps > _SUSPICIOUS * beside + _LEAST)[:MOST_JUMPS]
    if not len(at):
        return np.empty((0, 2))
    low, high, left, right = frames[at], frames[at + 1], values[at], values[at + 1]
    whole, narrowed = steps[at], 1
    while narrowed < _NARROWED and len(low):
        budget.check()
        pieces = _FIRST_PIECES if narrowed == 1 else max(2, min(_PIECES, _MOST_POINTS // len(low)))
        low, high, left, right = _steepest(signal, low, high, left, right, pieces)
        narrowed *= pieces
        still = np.max(np.abs(right - left), axis=1) > (0.5 if narrowed >= _NARROWED else _STILL_SUSPICIOUS) * whole
        low, high, left, right, whole = low[still], high[still], left[still], right[still], whole[still]
    return np.asarray(np.stack([low, high], axis=1), dtype=np.float64)


def _steepest(
    signal: Callable[[Array], Array], low: Array, high: Array, left: Array, right: Array, pieces: int
) -> tuple[Array, Array, Array, Array]:
    """Split each interval low..high (J,) into this many equal pieces, where the signal is left and right (J, N).

    Return ends and values of the piece with the largest change.
    """
    edges = low[:, None] + (high - low)[:, None] * np.linspace(0.0, 1.0, pieces + 1)
    inner = signal(edges[:, 1:-1].ravel()).reshape(len(low), pieces - 1, -1)
    values = np.concatenate([left[:, None], inner, right[:, None]], axis=1)
    most = np.argmax(np.max(np.abs(np.diff(values, axis=1)), axis=2), axis=1)
    row = np.arange(len(low))
    return edges[row, most], edges[row, most + 1], values[row, most], values[row, most + 1]


def _of_numbers(docs: Iterable[Doc], shot: Shot, reach: tuple[float, float]) -> Array:
    pairs = [number.jumps(reach) for number in _all_numbers(docs, shot)]
    return np.concatenate(pairs) if pairs else np.empty((0, 2))


def _all_numbers(docs: Iterable[Doc], shot: Shot) -> Iterator[Number]:
    """All numbers of documents, and of the dials that they read."""
    by_name: dict[str, Dial] = {dial.name: dial for dial in shot.dials}
    todo: list[Doc] = list(docs)
    met: set[str] = set()
    while todo:
        doc = todo.pop()
        yield from numbers_in(doc)
        fresh = [by_name[name] for name in reads_of(doc) if name in by_name and name not in met]
        met |= {dial.name for dial in fresh}
        todo += fresh


def _of_spans(parts: Iterable[Spanned]) -> Array:
    """Return the frames where spans start and end."""
    spans = [part.span_frames for part in parts if part.span_frames is not None]
    at = np.array([edge for first, last in spans for edge in (first, last + 1.0)], dtype=np.float64)
    return np.stack([at - JUST_BEFORE_FRAMES, at], axis=1)

"""Jumps of the picture where a clip or a layer starts or ends. A layer that continues an ending one is no pop."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.spans import SetSpan
from zittern.core.motion.evaluate import evaluate, given_by
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.timebase import frames_told
from zittern.core.units import Array

__all__ = ["pop"]

# A step of more than this many px, and this many times the adjacent steps, is a jump.
_LEAST_PX, _TIMES = 3.0, 1.5
_BESIDE = 6
# Duration of the ramp that fixes it.
_RAMP_S = 0.25
_LEAST_SPAN_FRAMES = 2.0
_JUST = 1e-3
# Sampled frames around an edge: just before it, at it, and the adjacent ones.
_LOOKED_AT = np.concatenate([[-_JUST, 0.0], np.arange(-_BESIDE, _BESIDE + 1.0)])
# Number of edges per batch: memory does not grow with their number.
_TOGETHER = 32


@dataclass(frozen=True, slots=True)
class _Edge:
    """Start or end of a clip or layer inside the shot without a ramp.

    The layer that is measured, address and name of the part, and the first frame on its other side.
    """

    layer: str
    at: str
    name: str
    word: str
    frame: float
    inside: float
    field: str
    ramp: float


def pop(study: Study) -> Iterator[Finding]:
    """Find edges of clips and layers inside the shot at which motion starts or ends abruptly."""
    for clip in study.shot.clips():
        edges = [
            edge
            for layer in clip.layers
            if layer.id in study.counted and not (layer.source.impulsive or layer.source.starts_abruptly)
            for part, at, name in ((clip, f"clip:{clip.id}", clip.name), (layer, f"layer:{layer.id}", layer.name))
            for edge in _edges(study, layer, part, at, name)
        ]
        for first in range(0, len(edges), _TOGETHER):
            yield from _jumps(study, clip, edges[first : first + _TOGETHER])


def _edges(study: Study, layer: Layer, part: Spanned, at: str, name: str) -> Iterator[_Edge]:
    shot = study.shot
    if part.span_frames is None:
        return
    first, last = part.span_frames
    longest = min(round(_RAMP_S * shot.fps.value), (last - first) / 3.0)
    # A span of a frame or two has no room for any.
    ramp = float(max(1.0, longest)) if last - first >= _LEAST_SPAN_FRAMES else 0.0
    for word, frame, inside, field in (
        ("starts", first, first, "ramp_in_frames"),
        ("ends", last + 1.0, last, "ramp_out_frames"),
    ):
        if shot.first_frame < frame <= shot.last_frame and getattr(part, field) == 0.0:
            yield _Edge(layer.id, at, name, word, frame, inside, field, ramp)


def _jumps(study: Study, clip: Clip, edges: list[_Edge]) -> Iterator[Finding]:
    """Yield edges of a clip and its layers at which the picture jumps, computed together."""
    frames = np.concatenate([edge.frame + _LOOKED_AT for edge in edges])
    given = given_by(study.shot, clip, frames, study.cache)
    found: list[tuple[_Edge, float, float]] = []
    for n, edge in enumerate(edges):
        part = slice(n * len(_LOOKED_AT), (n + 1) * len(_LOOKED_AT))
        jump, beside = _jump_px(study, given[edge.layer][part], edge.frame)
        if jump > max(_LEAST_PX, _TIMES * beside):
            found.append((edge, jump, beside))
    if not found:
        return
    total = evaluate(
        study.shot, np.concatenate([edge.frame + _LOOKED_AT[:2] for edge, _, _ in found]), study.cache
    ).total
    for n, (edge, own, beside) in enumerate(found):
        jump = min(own, _moved_px(study, total[2 * n : 2 * n + 2], edge.frame))
        if jump <= max(_LEAST_PX, _TIMES * beside):
            continue
        yield Finding(
            check="pop",
            weight=True,
            at=edge.at,
            frames=(edge.inside, edge.inside),
            amount=jump,
            unit="px",
            px=jump,
            says=f"“{edge.name}” {edge.word} abruptly: the picture jumps by {jump:.1f} px",
            fix=_ramped(edge) if edge.ramp else None,
        )


def _ramped(edge: _Edge) -> Fix:
    return Fix(says=f"a ramp of {frames_told(edge.ramp)}", command=SetSpan(at=(edge.at,), **{edge.field: edge.ramp}))


def _jump_px(study: Study, given: Array, frame: float) -> tuple[float, float]:
    """Return the jump of a layer at a frame, and its largest step between adjacent frames.

    given: (L, A) offsets at the sampled frames.
    """
    moved = given * study.px_per_unit[_row(study, frame)]
    return float(np.linalg.norm(moved[1] - moved[0])), _steps(moved[2:], _LOOKED_AT[2:])


def _moved_px(study: Study, pair: Array, frame: float) -> float:
    """Distance between two offsets. (2, A)."""
    return float(np.linalg.norm((pair[1] - pair[0]) * study.px_per_unit[_row(study, frame)]))


def _row(study: Study, frame: float) -> int:
    return int(np.clip(np.searchsorted(study.frames, frame), 0, len(study.frames) - 1))


def _steps(moved: Array, offsets: Array) -> float:
    """Return the largest step that does not cross the edge."""
    steps = np.linalg.norm(np.diff(moved, axis=0), axis=1)
    within = ~((offsets[:-1] < 0.0) & (offsets[1:] >= 0.0))
    return float(np.max(steps[within]))

"""Jumps where a clip or a layer starts or ends."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.spans import SetSpan
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.units import Array

__all__ = ["pop"]

# A step that is larger than so many px and so many times the steps beside it is a jump.
_LEAST_PX, _TIMES = 3.0, 1.5
_BESIDE = 6
# A ramp that mends it lasts so long.
_RAMP_S = 0.25
_JUST = 1e-3


def pop(study: Study) -> Iterator[Finding]:
    """Each edge of a clip or layer inside the shot at which what it gives begins or ends at once."""
    for clip, layer in study.layers:
        if layer.id not in study.counted or layer.source.blows or layer.source.sudden:
            continue
        for part, at, name in ((clip, f"clip:{clip.id}", clip.name), (layer, f"layer:{layer.id}", layer.name)):
            yield from _edges(study, clip, layer, part, at, name)


def _edges(study: Study, clip: Clip, layer: Layer, part: Spanned, at: str, name: str) -> Iterator[Finding]:
    shot = study.shot
    if part.span_frames is None:
        return
    first, last = part.span_frames
    length = last - first
    ramp = float(max(1.0, min(round(_RAMP_S * shot.fps.value), length / 3.0)))
    for word, frame, inside, field in (
        ("starts", first, first, "ramp_in_frames"),
        ("ends", last + 1.0, last, "ramp_out_frames"),
    ):
        if not shot.first_frame < frame <= shot.last_frame or getattr(part, field) > 0.0:
            continue
        jump, beside = _jump_px(study, layer.id, frame)
        if jump <= _LEAST_PX or jump <= _TIMES * beside:
            continue
        yield Finding(
            check="pop",
            weight=True,
            at=at,
            frames=(inside, inside),
            amount=jump,
            unit="px",
            px=jump,
            says=f"“{name}” {word} at once: the picture jumps by {jump:.1f} px",
            fix=Fix(says=f"a ramp of {ramp:g} frames", command=SetSpan(at=(at,), **{field: ramp})),
        )


def _jump_px(study: Study, layer: str, frame: float) -> tuple[float, float]:
    """How far a layer jumps at a frame, and its largest step from frame to frame beside it."""
    offsets = np.arange(-_BESIDE, _BESIDE + 1.0)
    frames = np.concatenate([[frame - _JUST, frame], frame + offsets])
    given = evaluate(study.shot, frames, study.cache).layers[layer]
    row = int(np.clip(np.searchsorted(study.frames, frame), 0, len(study.frames) - 1))
    moved = given * study.px_per_unit[row]
    return float(np.linalg.norm(moved[1] - moved[0])), _steps(moved[2:], offsets)


def _steps(moved: Array, offsets: Array) -> float:
    """The largest step that does not go over the edge."""
    steps = np.linalg.norm(np.diff(moved, axis=0), axis=1)
    within = ~((offsets[:-1] < 0.0) & (offsets[1:] >= 0.0))
    return float(np.max(steps[within]))

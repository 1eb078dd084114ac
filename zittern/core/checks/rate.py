"""What moves faster than half the frame rate: frames cannot show it."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.axes import AXES
from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.shot.layers import Layer
from zittern.core.sources.ringing import MOST_A_FRAME, beats_told
from zittern.core.units import Array

__all__ = ["rate"]

# A motion of fewer px (twice the root of the mean square) may be as fast as it likes.
_LEAST_PX = 2.0
# The fix goes to this share of half the frame rate.
_BELOW = 0.8


def rate(study: Study) -> Iterator[Finding]:
    """Layers of which an axis that is seen moves faster than half the frame rate."""
    half = study.shot.fps.value / 2.0
    for clip, layer in study.layers:
        if layer.id not in study.counted or layer.source.absolute:
            continue
        beats = study.beats_a_frame(clip, layer)
        if np.max(beats) > MOST_A_FRAME:
            yield _too_many(study, layer, beats)
            continue
        scope = study.scope
        size = 2.0 * np.sqrt(np.mean(np.square(study.layer_px(layer.id)), axis=0))
        paces = [
            float(np.max(layer.axes.of(axis).pace.sample(scope)))
            for n, axis in enumerate(AXES)
            if axis in layer.moving_axes and size[n] >= _LEAST_PX
        ]
        speed = clip.speed.sample(scope) * layer.speed.sample(scope)
        fastest = max(paces, default=0.0)
        hz = float(np.max(layer.source.peak_hz(scope) * speed)) * fastest
        if hz <= half:
            continue
        wanted = round(_BELOW * half / fastest, 3)
        fix = None
        if hasattr(layer.source, "rate_hz") and layer.speed.constant == 1.0 and clip.speed.constant == 1.0:
            command = SetValues(values=(Assignment(at=f"layer:{layer.id}.source.rate_hz", value=wanted),))
            fix = Fix(says=f"a rate of {wanted:g} Hz", command=command)
        yield Finding(
            check="rate",
            weight=True,
            at=f"layer:{layer.id}",
            frames=(float(study.shot.first_frame), float(study.shot.last_frame)),
            amount=hz,
            unit="Hz",
            px=float(np.max(size)),
            says=f"“{layer.name}” moves at {hz:.1f} Hz; at this frame rate {half:g} Hz can be seen at most",
            fix=fix,
        )


def _too_many(study: Study, layer: Layer, beats: Array) -> Finding:
    """Of a layer with more beats in a frame than are made. beats: (F,)."""
    most = float(np.max(beats))
    return Finding(
        check="rate",
        weight=True,
        at=f"layer:{layer.id}",
        frames=stretch(study.frames, beats > MOST_A_FRAME),
        amount=most * study.shot.fps.value,
        unit="Hz",
        says=f"“{layer.name}” has {beats_told(most)} per frame; above {MOST_A_FRAME:g} none are made. Lower the rate "
        f"or the speed",
    )

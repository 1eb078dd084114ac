"""Motion faster than half the frame rate, which frames cannot show."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

import numpy as np

from zittern.core.axes import AXES
from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.sources.ringing import MOST_A_FRAME, beats_told
from zittern.core.units import Array

__all__ = ["rate"]

# Motion of a typical size below this (px) may be as fast as it likes.
_LEAST_PX = 1.0
# The fix goes to this share of half the frame rate.
_BELOW = 0.8
# Spectra are taken in windows of this many frames, with this many samples per frame.
_WINDOW_FRAMES, _SAMPLES, _MOST_WINDOWS = 64, 8, 6
# Power above half the frame rate is too fast from this share on; the reported frequency has this share below it.
_LEAST_SHARE, _TOLD_SHARE = 0.1, 0.95
# The rates of sources that the fix may lower.
_RATES = ("rate_hz", "ring_hz")


def rate(study: Study) -> Iterator[Finding]:
    """Layers that move the picture faster than half the frame rate.

    By their rates, or by the spectrum of their motion between frames.
    """
    half = study.shot.fps.value / 2.0
    looked: list[tuple[Clip, Layer]] = []
    for clip, layer in study.layers:
        if layer.id not in study.counted:
            continue
        beats = study.beats_a_frame(clip, layer)
        if np.max(beats) > MOST_A_FRAME:
            yield _too_many(study, layer, beats)
        elif np.any(study.layer_px(layer.id)):
            looked.append((clip, layer))
    sampled = _by_spectrum(study, [each for each in looked if not _surely_slow(study, *each)])
    for clip, layer in looked:
        (hz, px), (sampled_hz, sampled_px) = _by_rate(study, clip, layer), sampled.get(layer.id, (0.0, 0.0))
        if hz <= half and sampled_px < _LEAST_PX:
            continue
        told, size = (hz, px) if hz > half else (sampled_hz, sampled_px)
        yield Finding(
            check="rate",
            weight=True,
            at=f"layer:{layer.id}",
            frames=study.shot.span,
            amount=told,
            unit="Hz",
            px=size,
            says=f"“{layer.name}” moves at {told:.1f} Hz; frames at this rate show up to {half:g} Hz",
            fix=_slower(clip, layer, _BELOW * half / max(hz, sampled_hz)),
        )


def _by_rate(study: Study, clip: Clip, layer: Layer) -> tuple[float, float]:
    """Return the fastest rate of an axis that is seen, Hz, and the typical size of the largest axis, px."""
    if layer.source.absolute:
        return 0.0, 0.0
    size = np.sqrt(np.mean(np.square(study.layer_px(layer.id)), axis=0))
    paces = [
        float(np.max(layer.axes.of(axis).pace.sample(study.scope)))
        for n, axis in enumerate(AXES)
        if axis in layer.moving_axes and size[n] >= _LEAST_PX
    ]
    hz = _largest(study, clip, layer, layer.source.peak_hz(study.scope)) * max(paces, default=0.0)
    return hz, float(np.max(size))


def _surely_slow(study: Study, clip: Clip, layer: Layer) -> bool:
    edge = layer.source.edge_hz(study.scope)
    if edge is None:
        return False
    fastest = max(float(np.max(layer.axes.of(axis).pace.sample(study.scope))) for axis in layer.moving_axes)
    return _largest(study, clip, layer, edge) * fastest < study.shot.fps.value / 2.0


def _largest(study: Study, clip: Clip, layer: Layer, hz: Array) -> float:
    """Return the largest of a rate (F,), at the speeds of a layer and its clip."""
    return float(np.max(hz * clip.speed.sample(study.scope) * layer.speed.sample(study.scope)))


def _by_spectrum(study: Study, layers: Sequence[tuple[Clip, Layer]]) -> dict[str, tuple[float, float]]:
    """Return by layer the frequency (Hz) of its motion between frames.

    Also the typical size (px) of the part above half the frame rate.
    """
    out: dict[str, tuple[float, float]] = {}
    px_per_unit = np.median(study.px_per_unit, axis=0)
    for _ in range(_MOST_WINDOWS):
        window = _window(study, [layer for _, layer in layers if layer.id not in out])
        if window is None:
            break
        motion = evaluate(study.shot, window, study.cache)
        for _, layer in layers:
            given = motion.layers.get(layer.id)
            if layer.id not in out and given is not None and np.any(given):
                out[layer.id] = _too_fast(given * px_per_unit, study.shot.fps.value)
    return out


def _window(study: Study, layers: Sequence[Layer]) -> Array | None:
    """Frames with samples between them, around the middle of the motion of the first layer. (W,)."""
    for layer in layers:
        rows = np.flatnonzero(np.any(study.layer_px(layer.id), axis=1))
        if len(rows):
            middle = study.frames[rows[len(rows) // 2]]
            start = max(float(study.shot.first_frame), middle - _WINDOW_FRAMES / 2)
            count = min(_WINDOW_FRAMES, study.shot.last_frame - start)
            return np.asarray(start + np.arange(int(count * _SAMPLES)) / _SAMPLES) if count >= 1 else None
    return None


def _too_fast(moved: Array, fps: float) -> tuple[float, float]:
    """Return the frequency (Hz) below which nearly all of a motion (W, A) is.

    Also the typical size (px) of its part above half the frame rate; zeros where that is a small part.
    """
    window = np.hanning(len(moved))[:, None]
    centered = (moved - moved.mean(axis=0)) * window
    power = np.sum(np.abs(np.fft.rfft(centered, axis=0)) ** 2, axis=1)
    hz = np.fft.rfftfreq(len(moved), 1.0 / (fps * _SAMPLES))
    total, fast = float(power.sum()), float(power[hz > fps / 2.0].sum())
    if total == 0.0 or fast < _LEAST_SHARE * total:
        return 0.0, 0.0
    mean_square = float(np.sum(np.mean(np.square(centered), axis=0)) / np.mean(window**2))
    told = float(hz[np.searchsorted(np.cumsum(power), _TOLD_SHARE * total)])
    return max(told, fps / 2.0), float(np.sqrt(mean_square * fast / total))


def _slower(clip: Clip, layer: Layer, factor: float) -> Fix | None:
    """Return a lower rate, where the source has a fixed one and no speed changes it."""
    if layer.speed.constant != 1.0 or clip.speed.constant != 1.0:
        return None
    for field in _RATES:
        number = getattr(layer.source, field, None)
        if number is not None and number.constant is not None:
            wanted = float(f"{number.constant * factor:.3g}")
            command = SetValues(values=(Assignment(at=f"layer:{layer.id}.source.{field}", value=wanted),))
            return Fix(says=f"a rate of {wanted:g} Hz", command=command)
    return None


def _too_many(study: Study, layer: Layer, beats: Array) -> Finding:
    """Return the finding for a layer with more beats per frame than are generated. beats: (F,) beats per frame."""
    most = float(np.max(beats))
    return Finding(
        check="rate",
        weight=True,
        at=f"layer:{layer.id}",
        frames=stretch(study.frames, beats > MOST_A_FRAME),
        amount=most * study.shot.fps.value,
        unit="Hz",
        says=f"“{layer.name}” has {beats_told(most)} per frame; above {MOST_A_FRAME:g} none are generated. "
        "Lower the rate or the speed",
    )

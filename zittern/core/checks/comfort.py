"""Motion that causes discomfort: fast turning and slow swaying.

The turning of the picture (degrees a second) is weighted by frequency: full between 0.5 and 10 Hz, falling by 6 dB an
octave outside; the swaying of its horizon and height between 0.1 and 0.5 Hz. The shapes follow those of ISO 2631-1:1997
(W_k between 0.5 and 10 Hz, W_f about 0.2 Hz), simplified; the thresholds are ours, found by looking.
"""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.values import ScaleSwings
from zittern.core.units import Array

__all__ = ["comfort", "weighted_rms"]

# Thresholds of the root mean squares: degrees per second of turning; degrees of slow roll.
_TURNING_DEG_S, _SWAY_DEG = 12.0, 1.5
_TURNING_HZ, _SWAY_HZ = (0.5, 10.0), (0.1, 0.5)
# Shorter shots (s) cause no discomfort and are not checked.
_LEAST_S = 2.0
_AMPLE = 0.97


def comfort(study: Study) -> Iterator[Finding]:
    """Find turning that is too fast, or else swaying that is too slow; neither has weight."""
    shot = study.shot
    fps = shot.fps.value
    if shot.frame_count < _LEAST_S * fps:
        return
    layers = tuple(layer.id for _, layer in study.layers if layer.id in study.counted and not layer.source.absolute)
    shake = study.motion.total[:, :3]
    rows = _longest(study)
    turning = weighted_rms(np.gradient(shake[rows], axis=0) * fps, fps, _TURNING_HZ)
    sway = weighted_rms(shake[rows, 2:], fps, _SWAY_HZ)
    for amount, most, unit, says in (
        (turning, _TURNING_DEG_S, "°/s", "the picture turns fast: people look away"),
        (sway, _SWAY_DEG, "°", "the horizon sways slowly: people get seasick"),
    ):
        if amount <= most or not layers:
            continue
        factor = float(np.floor(_AMPLE * most / amount * 1000.0) / 1000.0)
        yield Finding(
            check="comfort",
            weight=False,
            at=None,
            frames=(float(study.frames[rows][0]), float(study.frames[rows][-1])),
            amount=amount,
            unit=unit,
            says=f"{says} ({amount:.1f} {unit}, more than {most:g})",
            fix=Fix(says=f"all swings × {factor:.2f}", command=ScaleSwings(layers=layers, factor=factor)),
        )
        return


def _longest(study: Study) -> slice:
    """Return the first stretch of frames that follow each other."""
    breaks = np.flatnonzero(~study.neighbours)
    return slice(0, int(breaks[0]) + 1 if len(breaks) else len(study.frames))


def weighted_rms(values: Array, fps: float, band_hz: tuple[float, float]) -> float:
    """Return the root mean square within a band, over all columns; outside of it the weight falls by 6 dB per octave.

    Parameters
    ----------
    values: (F, n) in any unit.

    Returns
    -------
    Their root mean square, in their unit.
    """
    spectrum = np.fft.rfft(values - values.mean(axis=0), axis=0)
    hz = np.fft.rfftfreq(len(values), 1.0 / fps)
    low, high = band_hz
    safe = np.maximum(hz, 1e-9)
    weight = np.minimum(np.minimum(safe / low, high / safe), 1.0)
    kept = np.fft.irfft(spectrum * weight[:, None], n=len(values), axis=0)
    return float(np.sqrt(np.mean(np.sum(kept * kept, axis=1))))

"""Spectrum of a layer and of the sum for display: amplitude by rate, in pixels of the picture."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from zittern.core.axes import px_per_unit
from zittern.core.errors import NotFound
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.facts import scope_at
from zittern.core.motion.picture import scale_at, subject_distance_m
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["bands_px"]

# Bands of a third of an octave, as sound engineers use them (IEC 61260-1).
_BANDS_PER_OCTAVE = 3
_LOWEST_HZ = 0.05


def bands_px(shot: Shot, motions: Sequence[Motion], layer: str) -> tuple[Array, Array, Array]:
    """Centres in Hz (B,), and twice the RMS within each band, over all axes, in pixels.

    Of the layer (B,), of the sum (B,).

    Each motion has adjacent whole frames; of several the mean power is used (Welch 1967). By Parseval, the squares of
    all bands add to the square of the swing. Raises NotFound.
    """
    motion = motions[0]
    if layer not in motion.layers and layer not in motion.silent:
        raise NotFound(f"there is no layer {layer!r}")
    distance = subject_distance_m(shot, float(motion.frames[0]), motion.bare.position_m[0])
    per_unit = px_per_unit(scale_at(shot, scope_at(shot, float(motion.frames[0])), distance))
    highest = shot.fps.value / 2.0
    count = max(1, int(np.ceil(np.log2(highest / _LOWEST_HZ) * _BANDS_PER_OCTAVE)))
    edges = _LOWEST_HZ * 2.0 ** (np.arange(count + 1) / _BANDS_PER_OCTAVE)
    centres = np.sqrt(edges[:-1] * edges[1:])
    own = [each.layers[layer] if layer in each.layers else each.silent[layer] for each in motions]
    return (
        centres,
        _mean_bands([each * per_unit for each in own], shot, edges),
        _mean_bands([each.total * per_unit for each in motions], shot, edges),
    )


def _mean_bands(stretches: list[Array], shot: Shot, edges: Array) -> Array:
    """Twice the RMS of each band, over some stretches of motion. -> (B,)."""
    power = np.mean([_in_bands(values, shot.fps.value, edges) for values in stretches], axis=0)
    return np.asarray(2.0 * np.sqrt(power), dtype=np.float64)


def _in_bands(values: Array, fps: float, edges: Array) -> Array:
    """Mean square of each band. values (F, A) -> (B,).

    What is slower than the lowest edge counts in the lowest band.
    """
    count = len(values)
    power = 2.0 * np.sum(np.abs(np.fft.rfft(values - values.mean(axis=0), axis=0)) ** 2, axis=1) / count**2
    if count % 2 == 0 and len(power):
        power[-1] *= 0.5
    rate = np.fft.rfftfreq(count, 1.0 / fps)
    band = np.clip(np.searchsorted(edges, rate, side="right") - 1, 0, len(edges) - 2)
    return np.asarray(np.bincount(band, weights=power, minlength=len(edges) - 1), dtype=np.float64)

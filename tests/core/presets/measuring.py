"""How presets move the picture, measured over many seeds and lenses."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.signal import welch

from zittern.core.edits.presets import PlacePreset
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import picture_offsets_px, subject_distance_m
from zittern.core.numbers.param import fixed
from zittern.core.shot.shot import new_shot
from zittern.store.shipped import shipped_presets

# Twice what a fast tremor needs.
FPS = 48
SEEDS = 20
LENSES = (18.0, 35.0, 85.0)
_SECONDS = 10
_HALF_WIDTH_PX = 960.0


@dataclass(frozen=True, slots=True)
class Measured:
    """typicals_px, peaks_px (S,): of the picture's centre, seed by seed. hz, power (H,): mean spectrum of centre and
    right edge, its sum 1.
    """

    typicals_px: np.ndarray
    peaks_px: np.ndarray
    hz: np.ndarray
    power: np.ndarray

    @property
    def typical_px(self) -> float:
        return float(np.median(self.typicals_px))

    def share(self, low_hz: float, high_hz: float) -> float:
        """Of the power, between two rates."""
        return float(self.power[(self.hz >= low_hz) & (self.hz < high_hz)].sum())


def measured(key: str, lens_mm: float) -> Measured:
    """A shipped preset on a shot of ten seconds that stands still, or while it lasts."""
    return _through_each(key)[lens_mm]


@lru_cache(maxsize=100)
def _through_each(key: str) -> dict[float, Measured]:
    looks = [_looked_at(key, seed) for seed in range(SEEDS)]
    return {lens_mm: _measured(np.stack([through[lens_mm] for through in looks])) for lens_mm in LENSES}


def _looked_at(key: str, seed: int) -> dict[float, np.ndarray]:
    """Where the picture is by each lens, (F, 3) px: its centre across and down, and its right edge down."""
    preset = shipped_presets()[key]
    # What does not hang on the lens is worked out for the first and met again.
    cache, found = Cache(), {}
    for lens_mm in LENSES:
        stage = new_shot("Stage", fps=FPS, last_frame=FPS * _SECONDS, focal_mm=fixed(lens_mm), seed=seed)
        shot = PlacePreset(preset=preset, first_frame=None if preset.length_s is None else 1.0).apply(stage)
        first, last = shot.span_of(next(shot.clips()))
        motion = evaluate(shot, np.arange(first, min(last, shot.last_frame) + 1.0), cache)
        offsets = picture_offsets_px(shot, motion, subject_distance_m(shot, 1.0, motion.bare.position_m[0]))
        edge = np.sin(np.radians(motion.total[:, 2])) * _HALF_WIDTH_PX
        found[lens_mm] = np.column_stack([offsets, edge])
    return found


def _measured(looks: np.ndarray) -> Measured:
    """From (S, F, 3) px, seed by seed."""
    typicals = np.sqrt(np.mean(np.sum(looks[..., :2] ** 2, axis=2), axis=1))
    peaks = np.max(np.hypot(looks[..., 0], looks[..., 1]), axis=1)
    hz, power = welch(looks, fs=FPS, nperseg=min(looks.shape[1], 4 * FPS), axis=1)
    total = power.sum(axis=(0, 2))
    return Measured(typicals, peaks, hz, total / total.sum())

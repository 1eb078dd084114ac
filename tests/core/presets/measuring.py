"""How presets move the picture, measured over many seeds and lenses."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.signal import welch

from zittern.core.edits.presets import PlacePreset
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed
from zittern.core.picture import picture_offsets_px, subject_distance_m
from zittern.core.presets.shipped import SHIPPED_BY_KEY
from zittern.core.shot.shot import new_shot

# Twice what a fast tremor needs.
FPS = 48
SEEDS = 20
_SECONDS = 10
_HALF_WIDTH_PX = 960.0


@dataclass(frozen=True, slots=True)
class Measured:
    """swings_px, peaks_px (S,): of the picture's centre, seed by seed. hz, power (H,): mean spectrum of centre and
    right edge, its sum 1.
    """

    swings_px: np.ndarray
    peaks_px: np.ndarray
    hz: np.ndarray
    power: np.ndarray

    @property
    def swing_px(self) -> float:
        return float(np.median(self.swings_px))

    def share(self, low_hz: float, high_hz: float) -> float:
        """Of the power, between two rates."""
        return float(self.power[(self.hz >= low_hz) & (self.hz < high_hz)].sum())


@lru_cache(maxsize=100)
def measured(key: str, lens_mm: float) -> Measured:
    """A shipped preset on a shot of ten seconds that stands still, or while it lasts."""
    preset = SHIPPED_BY_KEY[key]
    swings, peaks, total = [], [], np.zeros(1)
    for seed in range(SEEDS):
        stage = new_shot("Stage", fps=FPS, last_frame=FPS * _SECONDS, focal_mm=fixed(lens_mm), seed=seed)
        shot = PlacePreset(preset=preset, first_frame=None if preset.length_s is None else 1.0).apply(stage)
        first, last = shot.span_of(next(shot.clips()))
        motion = evaluate(shot, np.arange(first, min(last, shot.last_frame) + 1.0))
        offsets = picture_offsets_px(shot, motion, subject_distance_m(shot, 1.0, motion.bare.position_m[0]))
        edge = np.sin(np.radians(motion.total[:, 2])) * _HALF_WIDTH_PX
        swings.append(2.0 * np.sqrt(np.mean(np.sum(offsets**2, axis=1))))
        peaks.append(np.max(np.hypot(offsets[:, 0], offsets[:, 1])))
        hz, power = welch(np.column_stack([offsets, edge]), fs=FPS, nperseg=min(len(offsets), 4 * FPS), axis=0)
        total = total + power.sum(axis=1)
    return Measured(np.array(swings), np.array(peaks), hz, total / total.sum())

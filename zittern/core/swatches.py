"""Swatches: what presets look like on a shot with the default lens that stands still."""

from __future__ import annotations

import numpy as np

from zittern.core.edits.presets import PlacePreset
from zittern.core.motion.evaluate import evaluate
from zittern.core.presets.preset import Preset
from zittern.core.readings import read
from zittern.core.scribble import scribble
from zittern.core.shot.shot import new_shot
from zittern.core.units import Array

__all__ = ["scribble_of", "swing_px"]

_STAND_IN = new_shot("Swatch")


def scribble_of(preset: Preset) -> Array:
    """Where it takes the picture's centre. (N, 2) degrees of pan and tilt, N at most 360."""
    return scribble(PlacePreset(preset=preset).apply(_STAND_IN))


def swing_px(preset: Preset) -> float:
    """How far it takes the picture's centre, as the lanes tell of the sum. Pixels of the default picture."""
    shot = PlacePreset(preset=preset).apply(_STAND_IN)
    frames = np.arange(shot.first_frame, shot.last_frame + 1, dtype=np.float64)
    return read(shot, evaluate(shot, frames), float(shot.first_frame)).total_swing_px

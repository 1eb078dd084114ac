"""What tests of sources share."""

from __future__ import annotations

import numpy as np
from scipy.signal import welch

from tests.core.making import ALL_SWINGS, contribution, layer, shot_with
from zittern.core.numbers.param import keyed
from zittern.core.sources.source import SourceDoc

FPS = 60
SWINGS = np.array(list(ALL_SWINGS.values()))


def values(source: SourceDoc, seconds: float, **fields: object) -> np.ndarray:
    return contribution(shot_with(layer(source=source, **fields), fps=FPS, last_frame=int(seconds * FPS)))


def share(source: SourceDoc, low_hz: float, high_hz: float, seconds: float) -> float:
    """Share of the power within a band."""
    frequency, power = welch(values(source, seconds), fs=FPS, nperseg=min(int(seconds * FPS), 2**13), axis=0)
    inside = (frequency >= low_hz) & (frequency <= high_hz)
    return float(power[inside].sum() / power.sum())


def seam(source: SourceDoc, **fields: object) -> tuple[np.ndarray, np.ndarray]:
    shot = shot_with(layer(source=source, **fields))
    h = 1e-4
    at = contribution(shot, frames=np.array([1.0, 1.0 + h, 241.0, 241.0 + h]))
    return at[2] - at[0], (at[3] - at[2] - at[1] + at[0]) / h


def meets(source: SourceDoc) -> None:
    """Checks that value and slope meet at the seam, with and without a keyed speed."""
    for fields in ({}, {"speed": keyed((1, 1.0), (120, 3.0), (240, 1.0))}):
        jump, kink = seam(source, **fields)
        np.testing.assert_allclose(jump, 0, atol=1e-9, err_msg=f"{source.kind} {fields}")
        np.testing.assert_allclose(kink, 0, atol=1e-5, err_msg=f"{source.kind} {fields}")

"""The set `saltmarsh-kite`: the dunes, and the kite of the sled flown across them, with two sharp turns."""

from __future__ import annotations

import numpy as np

from tools.demo import dunes
from tools.demo.glb import Piece
from tools.demo.jetty import kite
from zittern.core.units import Array

__all__ = ["SET_ID", "TURNS_S", "pieces", "place_m"]

SET_ID = "saltmarsh-kite"
# When the kite turns back.
TURNS_S = (3.2, 6.6)
_REACH_M = 7.5
_FAR_M = -19.0
_HIGH_M = 7.2
# Steady between the turns, and round in them: 1 would be corners.
_ROUND = 0.985


def place_m(times_s: Array) -> Array:
    """Middle of the kite. (F,) seconds -> (F, 3) metres: across, back and across again, rising into each turn."""
    phase = np.pi * (0.5 + (times_s - TURNS_S[0]) / (TURNS_S[1] - TURNS_S[0]))
    across = np.arcsin(_ROUND * np.sin(phase)) / np.arcsin(_ROUND)
    high = _HIGH_M + 1.5 * across**2 + 0.4 * np.sin(1.7 * times_s)
    return np.stack([_REACH_M * across, high, _FAR_M + 1.5 * np.sin(0.6 * times_s)], axis=1)


def pieces(times_s: Array) -> list[Piece]:
    """All set pieces, named; the same every time."""
    place = place_m(times_s)
    speed = np.gradient(place[:, 0], times_s)
    still = np.zeros_like(times_s)
    # It leans into where it goes, belly down the wind.
    angles = np.stack([still, np.full_like(times_s, -32.0), np.clip(-7.0 * speed, -65.0, 65.0)], axis=1)
    return [*dunes.pieces(), Piece("kite", kite().scaled(0.45), position_m=place, angles_deg=angles)]

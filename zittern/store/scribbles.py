"""Scribbles packed for the database."""

from __future__ import annotations

import numpy as np

from zittern.core.readings.scribble import scribble
from zittern.core.shot.shot import Shot

__all__ = ["packed_scribble"]

# One byte per value: finer than the few pixels of a card.
_LARGEST = 127


def packed_scribble(shot: Shot) -> bytes:
    """Return the scribble as signed bytes, pan and tilt in turn.

    Scaled to the largest; all zero where nothing shakes.
    """
    points = scribble(shot)
    largest = float(np.max(np.abs(points), initial=0.0))
    return np.round(points * (_LARGEST / largest if largest > 0 else 0.0)).astype(np.int8).tobytes()

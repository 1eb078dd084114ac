"""What the card of a shot shows, kept beside the shot so that a shelf of shots decodes no document."""

from __future__ import annotations

from dataclasses import asdict, dataclass

import numpy as np
import orjson

from zittern.core.readings.scribble import scribble
from zittern.core.shot.shot import Shot

__all__ = ["Card", "card_of", "packed_scribble", "read_card", "write_card"]

# Scribbles are kept as bytes: finer than a card's few pixels.
_MOST_STEP = 127


@dataclass(frozen=True, slots=True)
class Card:
    """Name and size of a shot. problem: what is wrong with its document, when it cannot be read; the rest then is
    unknown.
    """

    name: str
    frames: int = 0
    fps: str = ""
    seconds: float = 0.0
    layers: int = 0
    set_id: str | None = None
    problem: str | None = None


def card_of(shot: Shot) -> Card:
    """The card of a document."""
    return Card(
        shot.name,
        shot.frame_count,
        str(shot.fps),
        shot.frame_count / shot.fps.value,
        sum(1 for _ in shot.layers()),
        shot.set_id,
    )


def write_card(card: Card) -> str:
    """For the card column."""
    return orjson.dumps(asdict(card)).decode()


def read_card(text: str) -> Card:
    """What `write_card` wrote."""
    return Card(**orjson.loads(text))


def packed_scribble(shot: Shot) -> bytes:
    """The scribble as signed bytes, pan and tilt in turn, sized to fill; all zero where nothing shakes."""
    points = scribble(shot)
    reach = float(np.max(np.abs(points), initial=0.0))
    return np.round(points * (_MOST_STEP / reach if reach > 0 else 0.0)).astype(np.int8).tobytes()

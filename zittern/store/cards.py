"""Properties of a shot for its card, cached with the shot so that a project list decodes no document."""

from __future__ import annotations

import hashlib
from dataclasses import asdict, dataclass
from typing import TYPE_CHECKING

import orjson

if TYPE_CHECKING:
    from zittern.core.shot.shot import Shot

__all__ = ["Card", "card_of", "digest_of", "read_card", "write_card"]


@dataclass(frozen=True, slots=True)
class Card:
    """Name and size of a shot.

    problem: what is wrong with its document, when it cannot be read; the rest then is unknown.
    """

    name: str
    frames: int = 0
    fps: str = ""
    seconds: float = 0.0
    layers: int = 0
    set_id: str | None = None
    problem: str | None = None


def digest_of(data: bytes) -> str:
    """Return the digest of packed bytes."""
    return hashlib.blake2b(data, digest_size=16).hexdigest()


def card_of(shot: Shot) -> Card:
    """Return the card of a document."""
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
    """Return the card from the text of `write_card`."""
    return Card(**orjson.loads(text))

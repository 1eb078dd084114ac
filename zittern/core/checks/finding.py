"""What a check says."""

from __future__ import annotations

from zittern.core.documents.doc import Doc
from zittern.core.edits.table import Command

__all__ = ["Finding", "Fix"]


class Fix(Doc):
    """What mends it: its effect in words, before it is done, and the command."""

    says: str
    command: Command


class Finding(Doc):
    """check: by its name in the table. weight: whether it counts, or is only worth knowing. at: address of what it is
    about, none for the shot. frames: first and last; stretches: of those the ones that count, where that is known.
    amount in its unit, px in the picture where that can be told.
    """

    check: str
    weight: bool
    at: str | None = None
    frames: tuple[float, float]
    stretches: tuple[tuple[float, float], ...] = ()
    amount: float
    unit: str
    px: float | None = None
    says: str
    fix: Fix | None = None

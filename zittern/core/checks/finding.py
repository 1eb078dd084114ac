"""The result of a check."""

from __future__ import annotations

from zittern.core.documents.doc import Doc
from zittern.core.edits.table import Command

__all__ = ["Finding", "Fix"]


class Fix(Doc):
    """A command that resolves a finding, with a description of its effect."""

    says: str
    command: Command


class Finding(Doc):
    """check: its name in the table.

    weight: problem or hint. at: address of the part it is about, none for the shot. frames: first and last; stretches:
    the affected ranges, where known. amount in its unit, px in the picture where known.
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

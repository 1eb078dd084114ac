"""What would fill the frame."""

from __future__ import annotations

from zittern.api.models.base import Model
from zittern.core.edits.table import Command

__all__ = ["NeedOut", "NeedsOut"]


class NeedOut(Model):
    """A change that would do alone: its effect in words, and the command."""

    kind: str
    amount: float
    says: str
    command: Command


class NeedsOut(Model):
    """uncovered_px: how far in the edge shows at most; at_frame: where. needs: nothing where the frame is full."""

    uncovered_px: float
    at_frame: float
    needs: list[NeedOut]

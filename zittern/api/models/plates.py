"""The smallest changes that fill the frame."""

from __future__ import annotations

from zittern.api.models.base import Model
from zittern.core.edits.table import Command

__all__ = ["LevelOut", "NeedOut", "NeedsOut", "TilesOut"]


class NeedOut(Model):
    """A change that would do alone: its effect in words, and the command."""

    kind: str
    amount: float
    says: str
    command: Command


class NeedsOut(Model):
    """uncovered_px: maximum width of the gap; at_frame: its frame. needs: nothing when the frame is full."""

    uncovered_px: float
    at_frame: float
    needs: list[NeedOut]


class LevelOut(Model):
    """Size of a picture at full, half, quarter resolution, and so on."""

    width_px: int
    height_px: int


class TilesOut(Model):
    """Tiles of a picture.

    On each level, from the picture's own size on, tile number n starts at pixel n × step_px and has a size of step_px,
    with an additional margin_px per side. No levels: there are no tiles.
    """

    step_px: int = 0
    margin_px: int = 0
    levels: list[LevelOut] = []

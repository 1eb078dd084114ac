"""What the page needs to know once, and sets."""

from __future__ import annotations

from zittern.api.models.base import Model

__all__ = ["AxisOut", "FormatOut", "SetChoice", "SetOut", "SourceOut", "TablesOut"]


class SetOut(Model):
    set_id: str
    objects: list[str]


class FormatOut(Model):
    name: str
    ending: str
    title: str
    reads: bool


class SourceOut(Model):
    kind: str
    title: str
    imitates: str


class AxisOut(Model):
    name: str
    unit: str
    plus: str
    minus: str
    most_swing: float


class SetChoice(Model):
    set_id: str
    title: str


class TablesOut(Model):
    """All tables."""

    version: str
    axes: list[AxisOut]
    sources: list[SourceOut]
    formats: list[FormatOut]
    sets: list[SetChoice]

"""Findings of checks."""

from __future__ import annotations

from zittern.api.models.base import Model, RevisionId
from zittern.core.checks.finding import Finding

__all__ = ["CheckedOut", "PastSetOut"]


class CheckedOut(Model):
    """findings: current ones, problems first; ignored: ignored ones.

    thinned: only some frames of a long shot were sampled.
    """

    revision: RevisionId
    findings: tuple[Finding, ...]
    ignored: tuple[Finding, ...]
    thinned: bool


class PastSetOut(Model):
    """Area of a picture that is past the edge of the set.

    strips: left, top, right and bottom as shares of the picture, from its upper left corner.
    """

    revision: RevisionId
    frame: float
    strips: list[tuple[float, float, float, float]]

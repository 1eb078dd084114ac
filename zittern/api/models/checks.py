"""What checks find."""

from __future__ import annotations

from zittern.api.models.base import Model, RevisionId
from zittern.core.checks.finding import Finding

__all__ = ["CheckedOut", "PastSetOut"]


class CheckedOut(Model):
    """findings: those that stand, the weighty first; meant: those that somebody means so. thinned: only some frames of
    a long shot were looked at.
    """

    revision: RevisionId
    findings: tuple[Finding, ...]
    meant: tuple[Finding, ...]
    thinned: bool


class PastSetOut(Model):
    """Where a picture looks past the edge of the set. strips: left, top, right and bottom as shares of the picture,
    from its upper left corner.
    """

    revision: RevisionId
    frame: float
    strips: list[tuple[float, float, float, float]]

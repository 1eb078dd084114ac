"""What checks find."""

from __future__ import annotations

from zittern.api.models.base import Model, RevisionId
from zittern.core.checks.finding import Finding

__all__ = ["CheckedOut"]


class CheckedOut(Model):
    """findings: those that stand, the weighty first; meant: those that somebody means so. thinned: only some frames of
    a long shot were looked at.
    """

    revision: RevisionId
    findings: tuple[Finding, ...]
    meant: tuple[Finding, ...]
    thinned: bool

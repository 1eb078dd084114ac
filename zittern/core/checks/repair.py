"""Fixes, applied in sequence: each may change the findings of the others."""

from __future__ import annotations

from zittern.core.checks.finding import Finding
from zittern.core.checks.table import Check, check
from zittern.core.edits.table import apply
from zittern.core.errors import EditError
from zittern.core.motion.cache import Cache
from zittern.core.plates.set_pieces import SetPieces
from zittern.core.shot.shot import Shot

__all__ = ["MOST_FIXES", "repaired"]

MOST_FIXES = 100


def repaired(
    shot: Shot, checks: tuple[Check, ...], pieces: SetPieces | None = None
) -> tuple[Shot, tuple[Finding, ...]]:
    """Return the shot after all available fixes of some checks, and the findings that were fixed, in order."""
    done: list[Finding] = []
    tried: set[tuple[str, str | None]] = set()
    cache = Cache()
    while len(done) < MOST_FIXES:
        found = next(
            (
                each
                for each in check(shot, checks, cache, pieces).findings
                if each.fix and (each.check, each.at) not in tried
            ),
            None,
        )
        if found is None or found.fix is None:
            break
        tried.add((found.check, found.at))
        try:
            shot = apply(shot, found.fix.command)
        except EditError:
            continue
        done.append(found)
    return shot, tuple(done)

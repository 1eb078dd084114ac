"""A frame that the plates, or the set, do not fill."""

from __future__ import annotations

from collections.abc import Iterator

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.set_edge import LEAST_SWINGS, set_edge
from zittern.core.checks.study import Study
from zittern.core.plates.coverage import counting
from zittern.core.plates.needs import Need, filling

__all__ = ["coverage"]

# A plate is enlarged by no more than this before another way is offered first.
_MOST_OVERSCAN = 1.5


def coverage(study: Study) -> Iterator[Finding]:
    """Find frames with an exposed edge: its width, its side and the smallest repair.

    And frames that show the edge of the set.
    """
    yield from set_edge(study)
    shot = study.shot
    plates = counting(shot)
    if not plates:
        return
    full = filling(shot, cache=study.cache)
    if full.uncovered_px == 0.0:
        return
    rearmost = plates[-1]
    found = {need.kind: need for need in full.needs}
    chosen = _first(found)
    others = [need.says for need in found.values() if need is not chosen]
    yield Finding(
        check="coverage",
        weight=True,
        at=f"plate:{rearmost.id}",
        frames=full.frames,
        amount=full.uncovered_px,
        unit="px",
        px=full.uncovered_px,
        says=f"the edge of “{rearmost.name}” shows, up to {full.uncovered_px:.1f} px in from the {full.side} side at "
        f"frame {full.at_frame:.4g}" + (f"; repair: {' or '.join(others)}" if others else ""),
        fix=None if chosen is None else Fix(says=chosen.says, command=chosen.command),
    )


def _first(found: dict[str, Need]) -> Need | None:
    """Order fixes by the amount of the user's work that they change."""
    swings, overscan = found.get("swings"), found.get("overscan")
    if swings is not None and swings.amount >= LEAST_SWINGS:
        return swings
    if overscan is not None and overscan.amount <= _MOST_OVERSCAN:
        return overscan
    return found.get("punch-in") or overscan or swings

"""THE TABLE of checks, and all of them on a shot. Another check is a module and a row."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass

from zittern.core.checks.blur import blur
from zittern.core.checks.comfort import comfort
from zittern.core.checks.coverage import coverage
from zittern.core.checks.finding import Finding
from zittern.core.checks.framing import framing
from zittern.core.checks.hidden import hidden
from zittern.core.checks.kink import kink
from zittern.core.checks.limits import limits
from zittern.core.checks.pop import pop
from zittern.core.checks.rate import rate
from zittern.core.checks.repeats import repeats
from zittern.core.checks.seam import seam
from zittern.core.checks.silent import silent
from zittern.core.checks.smooth import smooth
from zittern.core.checks.study import Study
from zittern.core.checks.through import passes_through
from zittern.core.checks.twins import twins
from zittern.core.errors import BadInput
from zittern.core.motion.cache import Cache
from zittern.core.plates.set_pieces import SetPieces
from zittern.core.runtime import budget
from zittern.core.shot.shot import Shot

__all__ = ["CHECKS", "Check", "Checked", "check", "named"]


@dataclass(frozen=True, slots=True)
class Check:
    """name: in JSON and on the shell; title and told: texts for the interface."""

    name: str
    title: str
    told: str
    find: Callable[[Study], Iterator[Finding]]


CHECKS: tuple[Check, ...] = (
    Check("silent", "silent layer", "layers that do nothing, and why", silent),
    Check("twins", "twin axes", "motions that are alike: along a diagonal, or doubled", twins),
    Check("seam", "loop seam", "of a shot that loops: its first frame after its last", seam),
    Check("pop", "pop", "jumps where a clip or layer starts or ends", pop),
    Check("coverage", "coverage", "edges of plates or of the set that show", coverage),
    Check("hidden", "hidden", "the subject behind plates", hidden),
    Check("through", "through", "a lens that passes through a plate or the subject", passes_through),
    Check("framing", "subject", "the subject out of frame or out of the safe area", framing),
    Check("blur", "blur", "streaks that are too long, of the shake or of the whole motion", blur),
    Check("rate", "too fast", "rates above half the frame rate", rate),
    Check("kink", "kink", "corners in the path", kink),
    Check("limits", "limits", "numbers that their limits hold, a lens at its stop", limits),
    Check("comfort", "comfort", "fast turning, slow swaying", comfort),
    Check("smooth", "too smooth", "a move without motion above 0.5 Hz", smooth),
    Check("repeats", "repeats", "a shake that repeats", repeats),
)
# An ignored finding is reported again when it has grown by this factor.
_WORSE = 1.25


@dataclass(frozen=True, slots=True)
class Checked:
    """findings: current ones, problems first; ignored: ignored ones.

    thinned: whether only some frames of a long shot were sampled.
    """

    findings: tuple[Finding, ...]
    ignored: tuple[Finding, ...]
    thinned: bool


def named(names: Iterable[str]) -> tuple[Check, ...]:
    """Check by their names. Raises BadInput for one that does not exist."""
    by_name = {each.name: each for each in CHECKS}
    wanted = list(names)
    unknown = [name for name in wanted if name not in by_name]
    if unknown:
        raise BadInput(f"there is no check {unknown[0][:40]!r}; there are {', '.join(by_name)}", "checks")
    return tuple(by_name[name] for name in wanted)


def check(
    shot: Shot, checks: tuple[Check, ...] = CHECKS, cache: Cache | None = None, pieces: SetPieces | None = None
) -> Checked:
    """Return the findings of all checks. pieces: the objects of the shot's set, where known."""
    study = Study(shot, cache, pieces)
    findings: list[Finding] = []
    ignored: list[Finding] = []
    for each in checks:
        budget.check()
        for found in each.find(study):
            (ignored if _is_ignored(shot, found) else findings).append(found)
    findings.sort(key=lambda found: not found.weight)
    return Checked(tuple(findings), tuple(ignored), study.thinned)


def _is_ignored(shot: Shot, found: Finding) -> bool:
    return any(
        (each.check, each.at) == (found.check, found.at) and abs(found.amount) <= _WORSE * abs(each.amount)
        for each in shot.ignored
    )

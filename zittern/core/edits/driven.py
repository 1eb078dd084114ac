"""Numbers that follow a formula: bulk edits leave formulas unchanged."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Protocol, TypeVar

from zittern.core.edits.address import number_at
from zittern.core.edits.titles import title_of
from zittern.core.errors import EditError
from zittern.core.shot.shot import Shot

__all__ = ["check_free", "free_of_formulas"]


class _Placed(Protocol):
    @property
    def at(self) -> str: ...


_T = TypeVar("_T", bound=_Placed)


def free_of_formulas(shot: Shot, given: Iterable[_T]) -> list[_T]:
    """Return the values for numbers (by their `at`) that have no formula. Raises EditError where nothing is left."""
    given = list(given)
    driven = {at for at in {each.at for each in given} if _is_driven(shot, at)}
    free = [each for each in given if each.at not in driven]
    if not free:
        raise _refusal(shot, list(dict.fromkeys(each.at for each in given)))
    return free


def check_free(shot: Shot, at: str) -> None:
    """Check that numbers are free. Raises EditError for a number that a formula gives."""
    if _is_driven(shot, at):
        raise _refusal(shot, [at])


def _is_driven(shot: Shot, at: str) -> bool:
    number = number_at(shot, at)
    return number.curve is None and number.constant is None


def _refusal(shot: Shot, at: list[str]) -> EditError:
    return EditError(
        f"{title_of(shot, at)} follows a formula; change the formula or the dial it reads, or make it fixed first"
    )

"""Commands that give numbers a formula, or take it away again."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zittern.core.doc import Doc
from zittern.core.edits.address import number_at, scope_of, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.values import title_of
from zittern.core.errors import EditError
from zittern.core.numbers.param import MOST_DRAFT, by_formula, fixed, formula_of
from zittern.core.shot.dials import DialName
from zittern.core.shot.shot import Shot

__all__ = ["ConnectDial", "EndFormula", "FormulaText", "SetFormula"]

_Address = Annotated[str, Field(max_length=300)]


class FormulaText(Doc):
    """A text for the number at an address, as it was typed, without the sign = before it."""

    at: _Address
    text: Annotated[str, Field(max_length=MOST_DRAFT)]


class SetFormula(CommandDoc):
    """Gives numbers a formula. A text that cannot be read, or that reads what is not there, is kept as a draft, and
    what was in force stays.
    """

    type: Literal["set_formula"] = "set_formula"
    formulas: Annotated[tuple[FormulaText, ...], Field(min_length=1, max_length=500)]

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError for what is no number."""
        for each in self.formulas:
            before = number_at(shot, each.at)
            made = by_formula(each.text, before)
            try:
                shot = set_at(shot, each.at, made)
            except EditError:
                if made.draft is not None:
                    raise
                shot = set_at(shot, each.at, by_formula(each.text, before, wrong=True))
        return shot

    def label(self, shot: Shot) -> str:
        """`Formula of swing of pan in “Slow sway”`."""
        return f"Formula of {title_of(shot, [each.at for each in self.formulas])}"


class EndFormula(CommandDoc):
    """Takes formulas away: the numbers stay at what they were at a frame."""

    type: Literal["end_formula"] = "end_formula"
    at: Annotated[tuple[_Address, ...], Field(min_length=1, max_length=500)]
    frame: float = Field(ge=-1e7, le=1e7)

    def apply(self, shot: Shot) -> Shot:
        """What has keys under an unfinished draft gets them back. Raises EditError for what has no formula."""
        for at in self.at:
            formula = formula_of(number_at(shot, at))
            if formula is None:
                raise EditError("there is no formula here", at)
            plain = formula.before if formula.before is not None else fixed(formula.at(scope_of(shot, at, self.frame)))
            shot = set_at(shot, at, plain)
        return shot

    def label(self, shot: Shot) -> str:
        """`End formula of swing of pan in “Slow sway”`."""
        return f"End formula of {title_of(shot, list(self.at))}"


class ConnectDial(CommandDoc):
    """Lets a dial drive numbers: from `low` at its least to `high` at its most, straight in between."""

    type: Literal["connect_dial"] = "connect_dial"
    dial: DialName
    at: Annotated[tuple[_Address, ...], Field(min_length=1, max_length=500)]
    low: float = Field(ge=-1e9, le=1e9)
    high: float = Field(ge=-1e9, le=1e9)

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError for a dial that is not there."""
        dial = next((each for each in shot.dials if each.name == self.dial), None)
        if dial is None:
            raise EditError(f"there is no dial `{self.dial}`; it may have been removed", "dial")
        if (self.low, self.high) == (dial.least, dial.most):
            text = dial.name
        else:
            share = (
                f"({dial.name} - {dial.least!r}) / {dial.most - dial.least!r}"
                if dial.least
                else f"{dial.name} / {dial.most!r}"
            )
            text = f"mix({self.low!r}, {self.high!r}, {share})"
        return SetFormula(formulas=tuple(FormulaText(at=at, text=text) for at in self.at)).apply(shot)

    def label(self, shot: Shot) -> str:
        """`Connect swing of pan in “Slow sway” to dial panic`."""
        return f"Connect {title_of(shot, list(self.at))} to dial {self.dial}"

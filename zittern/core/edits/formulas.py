"""Commands that set or remove formulas of numbers."""

from __future__ import annotations

import re
from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.edits.address import number_at, scope_of, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.titles import title_of
from zittern.core.errors import EditError
from zittern.core.formula.grammar import RESERVED
from zittern.core.numbers.param import MOST_DRAFT, Number, by_formula, fixed, formula_of
from zittern.core.shot.dials import Dial, DialName
from zittern.core.shot.ids import free_name
from zittern.core.shot.path_facts import FACT_NAMES
from zittern.core.shot.shot import Shot

__all__ = ["ConnectDial", "EndFormula", "FormulaText", "MakeDial", "SetFormula"]

# Minimum ratio of a new dial's range to the range of the number.
_ROOM = 2.0
_MOST_NAME = 30
_Address = Annotated[str, Field(max_length=300)]


class FormulaText(Doc):
    """The text of a formula for the number at an address, without the leading =."""

    at: _Address
    text: Annotated[str, Field(max_length=MOST_DRAFT)]


class SetFormula(CommandDoc):
    """Set formulas of numbers.

    An invalid text, or one with unknown names, is stored as a draft, and the previous formula stays in effect.
    """

    formulas: Annotated[tuple[FormulaText, ...], Field(min_length=1, max_length=500)]

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for what is no number."""
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
        """Return the label: `Formula of swing of pan in “Slow sway”`."""
        return f"Formula of {title_of(shot, [each.at for each in self.formulas])}"


class EndFormula(CommandDoc, label="Convert to value of {at}"):
    """Remove formulas: the numbers keep their values at a frame."""

    at: Annotated[tuple[_Address, ...], Field(min_length=1, max_length=500)]
    frame: float = Field(ge=-1e7, le=1e7)

    def apply(self, shot: Shot) -> Shot:
        """Keys under an unfinished draft are restored. Raises EditError for what has no formula."""
        for at in self.at:
            formula = formula_of(number_at(shot, at))
            if formula is None:
                raise EditError("there is no formula here", at)
            plain = formula.before if formula.before is not None else fixed(formula.at(scope_of(shot, at, self.frame)))
            shot = set_at(shot, at, plain)
        return shot


class ConnectDial(CommandDoc, label="Connect {at} to dial {dial}"):
    """Connect numbers to a dial: from `low` at its minimum to `high` at its maximum, linearly."""

    dial: DialName
    at: Annotated[tuple[_Address, ...], Field(min_length=1, max_length=500)]
    low: float = Field(ge=-1e9, le=1e9)
    high: float = Field(ge=-1e9, le=1e9)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a dial that is not there."""
        dial = next((each for each in shot.dials if each.name == self.dial), None)
        if dial is None:
            raise EditError(f"there is no dial `{self.dial}`; it may have been removed", "dial")
        if (self.low, self.high) == (dial.minimum, dial.maximum):
            text = dial.name
        else:
            share = (
                f"({dial.name} - {dial.minimum!r}) / {dial.maximum - dial.minimum!r}"
                if dial.minimum
                else f"{dial.name} / {dial.maximum!r}"
            )
            text = f"mix({self.low!r}, {self.high!r}, {share})"
        return SetFormula(formulas=tuple(FormulaText(at=at, text=text) for at in self.at)).apply(shot)


class MakeDial(CommandDoc, label="Make a dial of {at}"):
    """Make a dial of a number, in one step.

    The dial takes its value or keys over, shown as the number is (times, in a unit), and the number reads the dial.
    Nothing moves otherwise.
    """

    at: _Address
    unit: Annotated[str, Field(max_length=12)] = ""
    times: float = Field(default=1.0, gt=0.0, le=1e6)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a number that a formula gives already."""
        number = number_at(shot, self.at)
        if formula_of(number) is not None:
            raise EditError("this number has a formula; remove it first, or let it read a dial", self.at)
        value = number.map(lambda stored: stored * self.times)
        dial = Dial(name=self._name(shot), unit=self.unit, **_reach(value), value=value)
        text = dial.name if self.times == 1.0 else f"{dial.name} / {self.times!r}"
        made = shot.replace(dials=(*shot.dials, dial))
        return SetFormula(formulas=(FormulaText(at=self.at, text=text),)).apply(made)

    def _name(self, shot: Shot) -> str:
        """Return a name after the number, distinct from used ones: `swing_of_pan`, `swing_of_pan_2`."""
        called = title_of(shot, [self.at]).partition(" in ")[0].partition(" of “")[0]
        plain = re.sub(r"[^A-Za-z0-9]+", "_", called).strip("_")[:_MOST_NAME]
        base = plain if re.match(r"[A-Za-z]", plain) else f"dial_{plain}".rstrip("_")
        taken = {dial.name for dial in shot.dials} | RESERVED | FACT_NAMES
        return free_name(base, taken, "_")


def _reach(number: Number) -> dict[str, float]:
    """Return limits for a dial around a number: from zero where it is never negative.

    Values between free handles stay within their range.
    """
    values = list(number.set_values())
    for key in number.curve.keys if number.curve else ():
        values += [key.value + handle[1] for handle in (key.handle_in, key.handle_out) if handle is not None]
    far = max(abs(value) for value in values) * _ROOM or 1.0
    return {"minimum": -far if min(values) < 0.0 else 0.0, "maximum": far}

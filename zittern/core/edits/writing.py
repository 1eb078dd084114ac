"""What helps people who write formulas: names with a line each, and what is wrong with a text at a place of a shot."""

from __future__ import annotations

import numpy as np

from zittern.core.doc import Doc
from zittern.core.edits.address import number_at, scope_of, set_at
from zittern.core.errors import EditError
from zittern.core.formula.fault import FormulaFault, unknown
from zittern.core.formula.functions import CONSTANTS, FUNCTIONS
from zittern.core.formula.grammar import parse
from zittern.core.formula.tree import BUILT_IN, FRAME_ALIAS, Node, name_nodes
from zittern.core.numbers.param import by_formula, formula_of
from zittern.core.rig.facts import FACT_NAMES, FACTS_TOLD
from zittern.core.shot.shot import Shot

__all__ = ["FormulaName", "FormulaState", "names_at", "state_of"]


class FormulaName(Doc):
    """A name that can be written: what stands for it in a text, and what it is."""

    name: str
    written: str
    told: str


class FormulaState(Doc):
    """How a text stands at a place: what is wrong and where, or what had no finite answer."""

    fault: str | None = None
    start: int = 0
    stop: int = 0
    notices: tuple[str, ...] = ()


# So many frames, spread over the shot, are looked at for what has no finite answer.
_MOST_FRAMES = 1000
_CONSTANTS_TOLD = {"pi": "3.14159…, half a turn in radians", "tau": "6.28319…, a whole turn in radians"}


def names_at(shot: Shot, at: str) -> tuple[FormulaName, ...]:
    """What the number at an address may name: dials first, then time and the path, then functions."""
    dials = (
        FormulaName(
            name=dial.name, written=dial.name, told=f"dial, {dial.least:g} to {dial.most:g} {dial.unit}".strip()
        )
        for dial in shot.dials
    )
    plain = {
        **BUILT_IN,
        FRAME_ALIAS: "the same as f",
        **(FACTS_TOLD if _may_read_facts(at) else {}),
        **{name: _CONSTANTS_TOLD[name] for name in CONSTANTS},
    }
    others = (FormulaName(name=name, written=name, told=told) for name, told in plain.items())
    functions = (
        FormulaName(name=each.name, written=f"{each.name}({each.arguments})", told=each.told)
        for each in FUNCTIONS.values()
    )
    return (*(each for each in dials if at != f"dial:{each.name}.value"), *others, *functions)


def state_of(shot: Shot, at: str, text: str) -> FormulaState:
    """How a text stands as the formula of the number at an address. Raises EditError when there is no number."""
    number = number_at(shot, at)
    try:
        node = parse(text)
        _known(node, shot, at)
    except FormulaFault as fault:
        return FormulaState(fault=fault.message, start=fault.start, stop=fault.stop)
    try:
        after = set_at(shot, at, by_formula(text, number))
    except EditError as error:
        return FormulaState(fault=error.message, stop=len(text))
    formula = formula_of(number_at(after, at))
    frames = np.linspace(shot.first_frame, shot.last_frame, min(shot.frame_count, _MOST_FRAMES))
    return FormulaState(notices=formula.notices(scope_of(after, at, frames)) if formula else ())


def _may_read_facts(at: str) -> bool:
    return at.startswith(("layer:", "clip:", "shot.focal_mm", "shot.glass."))


def _known(node: Node, shot: Shot, at: str) -> None:
    names = {each.name for each in names_at(shot, at)}
    for each in name_nodes(node):
        if each.name in FACT_NAMES and each.name not in names:
            raise FormulaFault(
                f"cannot use `{each.name}` here: it depends on the path that this number shapes",
                each.start,
                each.stop,
            )
        if each.name not in names:
            raise unknown(each.name, names, each.start)

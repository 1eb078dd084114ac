"""Support for writing formulas: names with descriptions, and errors of a text at an address of a shot."""

from __future__ import annotations

import math

import numpy as np

from zittern.core.documents.doc import Doc
from zittern.core.edits.address import number_at, scope_of, set_at
from zittern.core.errors import EditError
from zittern.core.formula.fault import FormulaFault, unknown
from zittern.core.formula.functions import CONSTANTS, FUNCTIONS
from zittern.core.formula.grammar import parse
from zittern.core.formula.tree import BUILT_IN, FRAME_ALIAS, Node, name_nodes
from zittern.core.numbers.param import by_formula, formula_of
from zittern.core.shot.path_facts import FACT_NAMES, FACTS_TOLD
from zittern.core.shot.shot import Shot

__all__ = ["FormulaName", "FormulaState", "names_at", "state_of"]


class FormulaName(Doc):
    """A name or a template: its form, the text to insert, and its description."""

    name: str
    written: str
    insert: str
    told: str
    template: bool = False


class FormulaState(Doc):
    """Result of checking a text at an address: its error and position, or parts without a finite value.

    gives: minimum and maximum over the shot, before limits; clamped: the limits that it exceeds. hundredth: the text
    divided by 100, if this alone brings it within its limits.
    """

    fault: str | None = None
    start: int = 0
    stop: int = 0
    notices: tuple[str, ...] = ()
    gives: tuple[float, float] | None = None
    clamped: tuple[float | None, float | None] = (None, None)
    hundredth: str | None = None


# Texts to begin with.
_TEMPLATES = (
    ("decaying sine", "0.5 * decay(t, 1) * sin(tau * 2 * t)", "a swing at 2 Hz that halves every second"),
    ("slow sway", "0.5 * sin(tau * t / 4)", "from side to side in 4 s"),
    ("random drift", "0.5 * noise(0.5 * t)", "irregular motion that peaks at 0.5 Hz"),
    ("fade in", "smoothstep(0, 1, t)", "from 0 to 1 in the first second"),
)
_HUNDRED = 100.0


# Number of frames, spread over the shot, that are sampled for values that are not finite.
_MOST_FRAMES = 1000
_CONSTANTS_TOLD = {"pi": "3.14159…, half a turn in radians", "tau": "6.28319…, a whole turn in radians"}


def names_at(shot: Shot, at: str) -> tuple[FormulaName, ...]:
    """Return the names that the number at an address may use.

    Dials first, then time and path attributes, then functions.
    """
    dials = (
        _plain(dial.name, f"dial, {dial.minimum:g} to {dial.maximum:g} {dial.unit}".strip()) for dial in shot.dials
    )
    plain = {
        **BUILT_IN,
        FRAME_ALIAS: "the same as f",
        **(FACTS_TOLD if _may_read_facts(at) else {}),
        **{name: _CONSTANTS_TOLD[name] for name in CONSTANTS},
    }
    others = (_plain(name, told) for name, told in plain.items())
    functions = (
        FormulaName(name=each.name, written=f"{each.name}({each.arguments})", insert=f"{each.name}(", told=each.told)
        for each in FUNCTIONS.values()
    )
    templates = (
        FormulaName(name=name, written=text, insert=text, told=f"{name}: {told}", template=True)
        for name, text, told in _TEMPLATES
    )
    return (*(each for each in dials if at != f"dial:{each.name}.value"), *others, *functions, *templates)


def _plain(name: str, told: str) -> FormulaName:
    return FormulaName(name=name, written=name, insert=name, told=told)


def state_of(shot: Shot, at: str, text: str) -> FormulaState:
    """Return the result of checking a text as the formula of the number at an address.

    Raises EditError when there is no number.
    """
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
    frames = np.linspace(shot.first_frame, shot.last_frame, min(shot.frame_count, _MOST_FRAMES))
    formula = formula_of(number_at(after, at))
    if formula is None:
        return FormulaState()
    (lowest, highest), scope = formula.limits, scope_of(after, at, frames)
    free = formula.within(-math.inf, math.inf)
    values = free.sample(scope)
    least, most = float(np.min(values)), float(np.max(values))
    beyond = least < lowest or most > highest
    fits = lowest <= least / _HUNDRED and most / _HUNDRED <= highest
    return FormulaState(
        notices=free.notices(scope),
        gives=(least, most),
        clamped=(lowest if least < lowest else None, highest if most > highest else None),
        hundredth=f"({text}) / {_HUNDRED:g}" if beyond and fits else None,
    )


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

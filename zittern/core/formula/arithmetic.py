"""Typed numbers: figures, sums with functions and constants, a unit at the end.

`+=2` or `*=1.5` change the present value.

A unit is converted to the field's own, or refused with what would do: it is never dropped. `1:02` is a minute and two
seconds; `120/24` is a plain 5.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from zittern.core.formula.fault import FormulaFault
from zittern.core.formula.grammar import parse
from zittern.core.formula.tree import name_nodes, values_of
from zittern.core.units import Array

__all__ = ["MOST_TYPED", "UNITS", "Field", "evaluate_expression"]

MOST_TYPED = 500
Dimension = Literal["length", "angle", "time", "frequency", "share", "speed", "picture"]


@dataclass(frozen=True, slots=True)
class Unit:
    """Dimension of a unit, and its size in the first unit of that dimension."""

    dimension: Dimension
    size: float


# THE TABLE of units that can be typed. Frames and pixels have no fixed size: the field defines it.
UNITS: Mapping[str, Unit] = {
    "m": Unit("length", 1.0), "cm": Unit("length", 0.01), "mm": Unit("length", 0.001), "km": Unit("length", 1000.0),
    "°": Unit("angle", 1.0), "deg": Unit("angle", 1.0), "rad": Unit("angle", 180.0 / np.pi),
    "s": Unit("time", 1.0), "ms": Unit("time", 0.001), "min": Unit("time", 60.0), "f": Unit("time", 0.0),
    "frames": Unit("time", 0.0),
    "Hz": Unit("frequency", 1.0), "/s": Unit("frequency", 1.0), "/min": Unit("frequency", 1.0 / 60.0),
    "bpm": Unit("frequency", 1.0 / 60.0),
    "%": Unit("share", 0.01), "x": Unit("share", 1.0), "×": Unit("share", 1.0), "": Unit("share", 1.0),
    "m/s": Unit("speed", 1.0), "km/h": Unit("speed", 1.0 / 3.6), "px": Unit("picture", 1.0),
}  # fmt: skip
_BY_CASE = {name.lower(): name for name in UNITS}
_FRAMES = ("f", "frames")
_RELATIVE = re.compile(r"^\s*([-+*/])=(.*)$", re.DOTALL)
_CLOCK = re.compile(r"^\s*(-?)(?:(\d+):)?(\d+):(\d{1,2}(?:\.\d+)?)\s*$")
# Commas between thousands, if there are several or a decimal point; a single one may be a decimal comma.
_THOUSANDS = re.compile(r"(?<![\d.,])\d{1,3}(?:(?:,\d{3}){2,}(?:\.\d+)?|,\d{3}\.\d+)(?![\d,])")
_POINTS = re.compile(r"(?<![\d.,])\d{1,3}(?:\.\d{3})+,\d+(?![\d,.])")
_AMBIGUOUS = re.compile(r"(?<![\d.,])([1-9]\d{0,2}),(\d{3})(?![\d,])")
# In many countries 0,4 is a decimal number; commas between arguments follow a letter.
_COMMA = re.compile(r"(?<=\d),(?=\d)")


@dataclass(frozen=True, slots=True)
class Field:
    """Context of a typed number.

    unit: the displayed one. fps: frame rate, where known. from_px: value of a number of pixels in its unit, where
    known; no_px: why it is not.
    """

    unit: str = ""
    fps: float | None = None
    from_px: Callable[[float], float] | None = None
    no_px: str = "pixels cannot be converted to this"


_PLAIN = Field()


def evaluate_expression(text: str, before: float, field: Field = _PLAIN) -> float:
    """Return the value of a text in the field's unit, where `before` is the present value.

    Raises FormulaFault with the place in the text.

    >>> evaluate_expression("2*3 + 1", before=0.0), evaluate_expression("+=0.5", before=2.0)
    (7.0, 2.5)
    """
    if len(text) > MOST_TYPED:
        fault = f"expected a number of up to {MOST_TYPED} characters, got {len(text)}"
        raise FormulaFault(fault, MOST_TYPED, len(text))
    relative = _RELATIVE.match(text)
    start = relative.start(2) if relative else 0
    plain, unit, at = _split(text[start:], field.unit)
    if relative is not None and relative.group(1) in "*/" and unit is not None and _dimension(unit) != "share":
        raise FormulaFault(f"a factor has no unit; leave {unit} out", start + at, len(text))
    own = "×" if relative is not None and relative.group(1) in "*/" else field.unit
    clock = _CLOCK.match(plain) if unit is None else None
    if clock is not None:
        value, unit = _clock(clock), "s"
    else:
        value = _sum(plain, start)
    if unit is not None:
        value = _converted(value, unit, field if own == field.unit else Field(own), start + at, len(text))
    if relative is None:
        return value
    with np.errstate(all="ignore"):
        changed = {
            "+": before + value,
            "-": before - value,
            "*": before * value,
            "/": before / value if value else before,
        }[relative.group(1)]
    if not np.isfinite(changed):
        raise FormulaFault("this becomes too large", 0, len(text))
    return changed


def _split(text: str, own: str) -> tuple[str, str | None, int]:
    """Return a text without its unit, the unit, and its position."""
    names = sorted({*UNITS, own} - {""}, key=len, reverse=True)
    found = re.search(rf"(?<=[\d.)])\s*({'|'.join(map(re.escape, names))})\s*$", text, re.IGNORECASE)
    if found is None:
        return text, None, len(text)
    unit = found.group(1)
    if unit.lower() == own.lower():
        unit = own
    return text[: found.start()], _BY_CASE.get(unit.lower(), unit), found.start(1)


def _sum(text: str, start: int) -> float:
    """Parse figures, or a sum of them."""
    # Commas in functions separate arguments.
    plain = text if re.search("[A-Za-z]{2}", text) else _decimal(text, start)
    node = parse(plain)
    name = next(name_nodes(node), None)
    if name is not None:
        raise FormulaFault(f"`{name.name}` varies over time; start a formula with =", name.start, name.stop)
    return float(values_of(node, _nothing, 1)[0])


def _decimal(text: str, start: int) -> str:
    """Return a text with points as decimal marks. Raises FormulaFault for a comma that can be read in two ways."""
    text = _THOUSANDS.sub(lambda found: found[0].replace(",", ""), text)
    text = _POINTS.sub(lambda found: found[0].replace(".", "").replace(",", "."), text)
    twofold = _AMBIGUOUS.search(text)
    if twofold is not None:
        thousands, decimal = f"{twofold[1]}{twofold[2]}", f"{twofold[1]}.{twofold[2]}"
        raise FormulaFault(
            f"“{twofold[0]}” can be {thousands} or {float(decimal):g}; write {thousands} or {decimal}",
            start + twofold.start(),
            start + twofold.end(),
        )
    return _COMMA.sub(".", text)


def _clock(found: re.Match[str]) -> float:
    """Seconds of h:mm:ss or m:ss."""
    hours, minutes, seconds = float(found[2] or 0.0), float(found[3]), float(found[4])
    return (-1.0 if found[1] else 1.0) * (3600.0 * hours + 60.0 * minutes + seconds)


def _dimension(unit: str) -> str:
    return UNITS[unit].dimension if unit in UNITS else unit


def _converted(value: float, unit: str, field: Field, start: int, stop: int) -> float:
    own = _BY_CASE.get(field.unit.lower(), field.unit)
    if unit == own or (unit in _FRAMES and own in _FRAMES):
        return value
    if unit == "px":
        if field.from_px is None:
            raise FormulaFault(field.no_px, start, stop)
        return field.from_px(value)
    if _dimension(unit) != _dimension(own) or own not in UNITS:
        fits = (
            ", ".join(name for name in UNITS if name and _dimension(name) == _dimension(own)) if own in UNITS else own
        )
        raise FormulaFault(
            f"{unit} cannot be converted to {own or 'this, which has no unit'}; "
            f"{f'write {fits}' if fits else 'leave it out'}",
            start,
            stop,
        )
    sizes = [_size(name, field, start, stop) for name in (unit, own)]
    return value * sizes[0] / sizes[1]


def _size(unit: str, field: Field, start: int, stop: int) -> float:
    if unit not in _FRAMES:
        return UNITS[unit].size
    if not field.fps:
        raise FormulaFault("the frame rate is unknown here; write seconds", start, stop)
    return 1.0 / field.fps


def _nothing(_name: str) -> Array:
    return np.zeros(1)

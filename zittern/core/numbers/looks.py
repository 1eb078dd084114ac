"""Display of document fields: names, units, drag steps.

What a field may be is not said again here: kind, limits and choices follow from the document that has it.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Literal, get_args

from pydantic.fields import FieldInfo

from zittern.core.axes import AXIS_INFO, Axis
from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import limits_of

__all__ = ["FieldLook", "Look", "described"]

_SHARE = 100.0


@dataclass(frozen=True, slots=True)
class Look:
    """Display of a field. shown = times x stored.

    step: change of the shown value per pixel of a drag; `scales` drags multiply. group: its group in curves and tables,
    by default its title. only: the state of a switch for which it is shown. ink: the axis whose color its curve has.
    said: its name in a sentence. titles: display names of choices.
    """

    field: str
    title: str
    unit: str = ""
    times: float = 1.0
    step: float = 0.02
    digits: int = 2
    scales: bool = False
    group: str = ""
    hint: str = ""
    said: str = ""
    ink: Axis = "roll"
    only: tuple[str, bool] | None = None
    titles: Mapping[str, str] = dataclasses.field(default_factory=dict)

    @classmethod
    def percent(cls, field: str, title: str, **more: Any) -> Look:
        """Return a share, shown in percent."""
        return cls(field, title, unit="%", times=_SHARE, step=0.5, digits=0, **more)


class FieldLook(Doc):
    """A field as forms show it: `field` is its path in the document; least, most and step refer to the shown value.

    kind: a number that may be keyed or a formula, a plain one that may not, a choice, a switch. axis: of a field that
    has one number per axis. titles: display names of choices.
    """

    field: str
    title: str
    kind: Literal["number", "plain", "choice", "switch"]
    unit: str = ""
    times: float = 1.0
    step: float = 0.0
    digits: int = 0
    scales: bool = False
    least: float = 0.0
    most: float = 0.0
    choices: tuple[str | int, ...] = ()
    titles: dict[str, str] = {}
    group: str = ""
    hint: str = ""
    ink: Axis = "roll"
    axis: Axis | None = None
    only: tuple[str, bool] | None = None


def described(model: type[Doc], looks: Iterable[Look]) -> tuple[FieldLook, ...]:
    """Return the looks of a document's fields, with what the document says of them.

    Raises TypeError for a field that no form can show.
    """
    return tuple(each for look in looks for each in _described(model.model_fields[look.field], look))


def _described(info: FieldInfo, look: Look) -> Iterator[FieldLook]:
    limits = limits_of(info)
    if limits is not None:
        yield _number_look(look, limits)
    elif info.annotation is bool:
        yield FieldLook(field=look.field, title=look.title, kind="switch", hint=look.hint)
    elif isinstance(info.annotation, type) and issubclass(info.annotation, Doc):
        yield from _one_an_axis(info.annotation, look)
    elif info.annotation is float and (plain := _range(info)):
        yield _number_look(look, plain).replace(kind="plain")
    elif choices := _choices(info):
        yield FieldLook(
            field=look.field, title=look.title, kind="choice", choices=choices, titles=dict(look.titles), hint=look.hint
        )
    else:
        raise TypeError(f"no form can show {look.field!r}")


def _number_look(look: Look, limits: tuple[float, float], **more: Any) -> FieldLook:
    same = {
        name: getattr(look, name)
        for name in ("field", "title", "unit", "times", "step", "digits", "scales", "hint", "ink", "only")
    }
    least, most = (round(limit * look.times, 9) for limit in limits)
    return FieldLook(
        **{**same, "kind": "number", "least": least, "most": most, "group": look.group or look.title, **more}
    )


def _one_an_axis(model: type[Doc], look: Look) -> Iterator[FieldLook]:
    for info in AXIS_INFO:
        limits = limits_of(model.model_fields[info.name])
        if limits is None:
            raise TypeError(f"no form can show {look.field!r}: it has no number for {info.name}")
        own = {"field": f"{look.field}.{info.name}", "title": f"{info.title} {look.title}", "ink": info.name}
        yield _number_look(look, limits, **own, unit=look.unit or info.sign, axis=info.name)


def _range(info: FieldInfo) -> tuple[float, float] | None:
    found = {name: getattr(each, name) for each in info.metadata for name in ("ge", "le") if hasattr(each, name)}
    return (found["ge"], found["le"]) if len(found) == 2 else None


def _choices(info: FieldInfo) -> tuple[str | int, ...]:
    if info.annotation is int:
        least, most = ([getattr(each, name) for each in info.metadata if hasattr(each, name)] for name in ("ge", "le"))
        return tuple(range(least[0], most[0] + 1)) if least and most else ()
    return get_args(info.annotation)

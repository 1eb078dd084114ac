"""All commands: importing this module registers them."""

from __future__ import annotations

from collections.abc import Iterator
from functools import reduce
from operator import or_
from types import UnionType
from typing import TYPE_CHECKING, Annotated, Any, Union, get_args, get_origin

from annotated_types import Ge, Le
from pydantic import Field
from pydantic.fields import FieldInfo

from zittern.core.edits import (
    aiming,
    blends,
    checking,
    clips,
    conforming,
    cues,
    dials,
    flattening,
    formulas,
    glass,
    keys,
    layers,
    moves,
    numbers,
    placing,
    plates,
    poses,
    presets,
    recording,
    riding,
    rig,
    shots,
    spans,
    steps,
    takes,
    timing,
    values,
    variants,
)
from zittern.core.edits.address import get_at
from zittern.core.edits.command import COMMANDS, CommandDoc
from zittern.core.edits.titles import owners_title, title_of
from zittern.core.errors import EditError, faults_as
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import fitted, through_each

__all__ = ["COMMANDS", "Command", "apply", "limits", "place_of"]

# Modules of commands; importing one registers its commands.
MODULES = (
    aiming, blends, checking, clips, conforming, cues, dials, flattening, formulas, glass, keys, layers, moves,
    numbers, placing, plates, poses, presets, recording, riding, rig, shots, spans, steps, takes, timing,
    values, variants,
)  # fmt: skip

if TYPE_CHECKING:
    Command = CommandDoc
else:
    Command = Annotated[reduce(or_, (COMMANDS[name] for name in sorted(COMMANDS))), Field(discriminator="type")]


def apply(shot: Shot, command: Command) -> Shot:
    """Return the shot after a command, through the variant that it was seen through.

    Raises EditError with the address; the given shot is never changed.
    """
    try:
        with faults_as(EditError):
            after = command.apply(shot)
            if len(shot.variants) == 1 or after is shot:
                return after
            return through_each(shot, after, command.apply) if command.everywhere else fitted(after, shot)
    except EditError as error:
        raise type(error)(error.message, error.where, place_of(shot, error.where)) from error


def limits() -> dict[str, tuple[float, float]]:
    """Least and most of each number in a command that has both, by `type.field`."""
    found: dict[str, tuple[float, float]] = {}
    for type_, kind in COMMANDS.items():
        for name, field in kind.model_fields.items():
            # Metadata in one member of a union counts too. (JSON Schemas would take five hundred times as long.)
            said = [*field.metadata, *_annotated_metadata(field.annotation)]
            least = [each.ge for each in said if isinstance(each, Ge)]
            most = [each.le for each in said if isinstance(each, Le)]
            if least and most:
                found[f"{type_}.{name}"] = (_end_number(least[-1]), _end_number(most[-1]))
    return found


def _annotated_metadata(annotation: Any) -> Iterator[object]:
    """Yield the metadata of annotated members of a union."""
    if get_origin(annotation) is Annotated:
        for each in annotation.__metadata__:
            yield from each.metadata if isinstance(each, FieldInfo) else (each,)
    elif get_origin(annotation) in (Union, UnionType):
        for part in get_args(annotation):
            yield from _annotated_metadata(part)


def _end_number(end: object) -> float:
    assert isinstance(end, int | float), "limits of numbers are numbers"
    return end


def place_of(shot: Shot, where: str) -> str:
    """Return the display name of an address; empty for an unknown one."""
    try:
        get_at(shot, where)
        return title_of(shot, [where]) if "." in where else owners_title(shot, [where])
    except EditError:
        return ""

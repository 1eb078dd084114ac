"""Addresses of values.

`shot.focal_mm`, `dial:panic.value`, `mount:camera.pan_deg`, `lane:main.name`, `clip:main.amount`,
`layer:sway.axes.pan.swing`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from zittern.core.axes import AXES, Axis, axis_index
from zittern.core.documents.doc import Doc
from zittern.core.edits.parts import change_layer, find_clip, find_layer, with_clip, with_lane, with_mount
from zittern.core.errors import DocumentError, EditError, faults_as
from zittern.core.motion.facts import scope_at
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.shot.clips import Clip
from zittern.core.shot.dials import Dial
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import Layer
from zittern.core.shot.plates import Plate
from zittern.core.shot.posed import FIELD_AXES
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["change_at", "get_at", "number_at", "scope_of", "set_at"]

# Fields that are not set directly: they have separate commands.
_NO_VALUES = frozenset({"id", "schema_name", "schema_version", "layers", "mounts", "clips", "lanes", "dials", "plates"})


def get_at(shot: Shot, address: str) -> Any:
    """Return the value at an address. Raises EditError."""
    owner, parts = _resolve(shot, address)
    value: Any = owner
    for part in parts:
        if not isinstance(value, Doc) or part not in type(value).model_fields:
            raise EditError(f"there is no field {part!r}", address)
        value = getattr(value, part)
    return value


def number_at(shot: Shot, address: str) -> Number:
    """Return the number at an address. Raises EditError when something else stands there."""
    param = get_at(shot, address)
    if not isinstance(param, Number):
        raise EditError("only a number can have keys", address)
    return param


def scope_of(shot: Shot, address: str, frames: Array | float) -> Scope:
    """Return the scope of the number at an address.

    Parameters
    ----------
    frames: (F,), or one frame.

    Returns
    -------
    The scope at these frames.
    """
    head = address.split(".", 1)[0]
    kind, _, name = head.partition(":")
    if kind not in ("layer", "clip"):
        # Inputs of the path cannot read its attributes; the lens can.
        return _on_axis(address, scope_at(shot, frames) if kind == "shot" else shot.scope(frames))
    clip, layer = find_layer(shot, name) if kind == "layer" else (find_clip(shot, name), None)
    return _on_axis(address, clip.clocked(scope_at(shot, frames), layer))


def _on_axis(address: str, scope: Scope) -> Scope:
    """Return the scope of the axis that an address names, if it names one."""
    fields = FIELD_AXES.items() if address.startswith(("mount:", "plate:")) else ()
    names: dict[str, Axis] = {**{axis: axis for axis in AXES}, **dict(fields)}
    found = next((names[part] for part in reversed(address.split(".")) if part in names), None)
    return scope if found is None else scope.on_axis(axis_index(found))


def set_at(shot: Shot, address: str, value: Any) -> Shot:
    """Return the shot with another value at an address. Raises EditError when the place or the value is wrong."""
    _, parts = _resolve(shot, address)
    if not parts or parts[-1] in _NO_VALUES:
        raise EditError("this cannot be set as a value", address)
    owner = address.split(".", 1)[0]
    try:
        return change_at(shot, owner, lambda each: _replaced(each, parts, value, address), address)
    except EditError as error:
        within = error.__cause__.where if isinstance(error.__cause__, DocumentError) else ""
        if isinstance(value, dict) and within.startswith(f"{parts[-1]}."):
            raise EditError(error.message, f"{address}{within[len(parts[-1]) :]}") from error
        raise


def change_at(shot: Shot, owner: str, change: Callable[[Any], Any], where: str | None = None) -> Shot:
    """Return the shot with a layer, clip, lane, mount or itself changed.

    Raises EditError with `where`, or the owner's address.
    """
    doc, _ = _resolve(shot, owner)
    with faults_as(EditError, where or owner):
        changed = change(doc)
        if isinstance(doc, Shot):
            return changed  # type: ignore[no-any-return]
        if isinstance(doc, Layer):
            return change_layer(shot, doc.id, lambda _: changed)
        if isinstance(doc, Clip):
            return with_clip(shot, doc, changed)
        if isinstance(doc, Dial):
            return shot.replace(dials=tuple(changed if each is doc else each for each in shot.dials))
        if isinstance(doc, Plate):
            return shot.replace(plates=tuple(changed if each is doc else each for each in shot.plates))
        if isinstance(doc, Lane):
            return with_lane(shot, doc, changed)
        return with_mount(shot, doc, changed)


def _replaced(doc: Doc, parts: list[str], value: Any, address: str) -> Doc:
    name, *rest = parts
    if name not in type(doc).model_fields:
        raise EditError(f"there is no field {name!r}", address)
    if not rest:
        return doc.replace(**{name: value})
    child = getattr(doc, name)
    if not isinstance(child, Doc):
        raise EditError(f"{name!r} has no custom fields", address)
    return doc.replace(**{name: _replaced(child, rest, value, address)})


def _resolve(shot: Shot, address: str) -> tuple[Doc, list[str]]:
    head, *parts = address.split(".")
    kind, _, name = head.partition(":")
    if kind == "shot":
        return shot, parts
    if kind == "layer":
        return find_layer(shot, name)[1], parts
    if kind == "clip":
        return find_clip(shot, name), parts
    if kind == "lane":
        for lane in shot.lanes:
            if lane.id == name:
                return lane, parts
    if kind == "dial":
        for dial in shot.dials:
            if dial.name == name:
                return dial, parts
    if kind == "plate":
        for plate in shot.plates:
            if plate.id == name:
                return plate, parts
    if kind == "mount":
        for mount in shot.mounts:
            if mount.id == name:
                return mount, parts
    raise EditError(
        f"nothing is called {head!r}; addresses start with shot, dial:NAME, plate:ID, mount:ID, lane:ID, clip:ID or "
        f"layer:ID",
        address,
    )

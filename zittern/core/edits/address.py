"""Addresses: `shot.focal_mm`, `dial:panic.value`, `mount:camera.pan_deg`, `lane:main.name`, `clip:main.amount`,
`layer:sway.axes.pan.swing`.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from zittern.core.axes import AXES, Axis, axis_index
from zittern.core.doc import Doc
from zittern.core.errors import DocumentError, EditError, faults_as
from zittern.core.motion.move import scope_at
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.shot.clips import Clip
from zittern.core.shot.dials import Dial
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.posed import FIELD_AXES
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = [
    "change_at",
    "change_layer",
    "find_clip",
    "find_lane",
    "find_layer",
    "find_mount",
    "get_at",
    "index_of",
    "lane_of",
    "layers_title",
    "named",
    "number_at",
    "owners_title",
    "scope_of",
    "set_at",
    "with_clip",
    "with_lane",
]  # fmt: skip


def find_layer(shot: Shot, layer_id: str) -> tuple[Clip, Layer]:
    """A layer and its clip. Raises EditError."""
    for clip, layer in shot.layers():
        if layer.id == layer_id:
            return clip, layer
    raise EditError(f"there is no layer {layer_id!r}; it may have been removed", "layer")


def find_clip(shot: Shot, clip_id: str) -> Clip:
    """A clip. Raises EditError."""
    for clip in shot.clips():
        if clip.id == clip_id:
            return clip
    raise EditError(f"there is no clip {clip_id!r}; it may have been removed", "clip")


def find_lane(shot: Shot, lane_id: str) -> Lane:
    """A lane. Raises EditError."""
    for lane in shot.lanes:
        if lane.id == lane_id:
            return lane
    raise EditError(f"there is no lane {lane_id!r}; it may have been removed", "lane")


def change_layer(shot: Shot, layer_id: str, change: Callable[[Layer], Layer]) -> Shot:
    """The shot with one layer changed."""
    clip, layer = find_layer(shot, layer_id)
    layers = tuple(change(each) if each is layer else each for each in clip.layers)
    return with_clip(shot, clip, clip.replace(layers=layers))


def get_at(shot: Shot, address: str) -> Any:
    """What stands at an address. Raises EditError."""
    owner, parts = _resolve(shot, address)
    value: Any = owner
    for part in parts:
        if not isinstance(value, Doc) or part not in type(value).model_fields:
            raise EditError(f"there is no field {part!r}", address)
        value = getattr(value, part)
    return value


def owners_title(shot: Shot, owners: Sequence[str]) -> str:
    """What some layers, clips or mounts are called in labels: `“Slow sway”` for one, `2 mounts` for more; empty for
    the shot itself.
    """
    if list(owners) == ["shot"]:
        return ""
    kinds = {each.partition(":")[0] for each in owners}
    return named([get_at(shot, f"{each}.name") for each in owners], kinds.pop() if len(kinds) == 1 else "part")


def layers_title(shot: Shot, layers: Sequence[str]) -> str:
    """The same for layers by their ids."""
    return owners_title(shot, [f"layer:{each}" for each in layers])


def named(names: Sequence[str], kind: str = "layer") -> str:
    """`“Slow sway”` for one, `3 layers` for more."""
    return f"“{names[0]}”" if len(names) == 1 else f"{len(names)} {kind}s"


def number_at(shot: Shot, address: str) -> Number:
    """The number at an address. Raises EditError when something else stands there."""
    param = get_at(shot, address)
    if not isinstance(param, Number):
        raise EditError("only a number can have keys", address)
    return param


def scope_of(shot: Shot, address: str, frames: Array | float) -> Scope:
    """What the number at an address may look at, at some frames (F,) or at one."""
    head = address.split(".", 1)[0]
    kind, _, name = head.partition(":")
    if kind not in ("layer", "clip"):
        # What the path is made of cannot read its attributes; the lens can.
        return _on_axis(address, scope_at(shot, frames) if kind == "shot" else shot.scope(frames))
    clip, layer = find_layer(shot, name) if kind == "layer" else (find_clip(shot, name), None)
    return _on_axis(
        address, clip.clocked(scope_at(shot, frames), (float(shot.first_frame), float(shot.last_frame)), layer)
    )


def _on_axis(address: str, scope: Scope) -> Scope:
    """The scope of the axis that an address names, if it names one."""
    fields = FIELD_AXES.items() if address.startswith("mount:") else ()
    names: dict[str, Axis] = {**{axis: axis for axis in AXES}, **dict(fields)}
    found = next((names[part] for part in reversed(address.split(".")) if part in names), None)
    return scope if found is None else scope.on_axis(axis_index(found))


def set_at(shot: Shot, address: str, value: Any) -> Shot:
    """The shot with another value at an address. Raises EditError when the place or the value is wrong."""
    _, parts = _resolve(shot, address)
    if not parts or parts[-1] in ("id", "schema_name", "schema_version", "layers", "mounts", "clips", "lanes", "dials"):
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
    """The shot with a layer, clip, lane, mount or itself changed. Raises EditError with `where`, or the owner's
    address.
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
        raise EditError(f"{name!r} has no fields of its own", address)
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
    if kind == "mount":
        for mount in shot.mounts:
            if mount.id == name:
                return mount, parts
    raise EditError(
        f"nothing is called {head!r}; addresses start with shot, dial:NAME, mount:ID, lane:ID, clip:ID or layer:ID",
        address,
    )


def with_mount(shot: Shot, mount: Doc, changed: Mount) -> Shot:
    """The shot with one mount changed."""
    return shot.replace(mounts=tuple(changed if each is mount else each for each in shot.mounts))


def with_lane(shot: Shot, lane: Lane, changed: Lane) -> Shot:
    """The shot with one lane changed."""
    return shot.replace(lanes=tuple(changed if each is lane else each for each in shot.lanes))


def lane_of(shot: Shot, clip: Clip) -> Lane:
    """The lane that a clip of the shot lies on."""
    return next(lane for lane in shot.lanes if any(each is clip for each in lane.clips))


def with_clip(shot: Shot, clip: Clip, *instead: Clip) -> Shot:
    """The shot with other clips in the place of one: the same one changed, several, or none."""
    lane = lane_of(shot, clip)
    return with_lane(
        shot,
        lane,
        lane.replace(clips=tuple(part for each in lane.clips for part in (instead if each is clip else (each,)))),
    )


def find_mount(shot: Shot, mount: str) -> Mount:
    """A mount by id. Raises EditError."""
    return shot.mounts[index_of(shot, mount)]


def index_of(shot: Shot, mount: str) -> int:
    """Place of a mount in the chain. Raises EditError."""
    for i, each in enumerate(shot.mounts):
        if each.id == mount:
            return i
    raise EditError(f"there is no mount {mount!r}; it may have been removed", "mount")

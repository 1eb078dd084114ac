"""Titles of parts, fields and numbers of a shot in labels."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Any

from zittern.core.axes import AXES
from zittern.core.edits.address import get_at
from zittern.core.edits.parts import find_plate
from zittern.core.shot.forms import SAID
from zittern.core.shot.shot import Shot

__all__ = [
    "FIELD_TITLES", "field_title", "layers_title", "named", "of_mount", "owners_of", "owners_title", "title_of",
]  # fmt: skip

_TITLES = {
    **SAID, "swing": "swing", "pace": "rate", "rate_hz": "rate", "on": "axis on or off", "locked": "axis lock",
    "shape": "wave shape",
    "mute": "mute", "solo": "solo", "name": "name", "mode": "add or replace", "span_frames": "span",
    "ramp_in_frames": "ramp-in",
    "ramp_out_frames": "ramp-out", "sensor_mm": "sensor width", "first_frame": "first frame",
    "last_frame": "last frame", "fps": "frame rate",
    "set_id": "set", "target": "target mount",
}  # fmt: skip
# A label lists up to this many fields.
_MAX_FIELDS = 3


def owners_title(shot: Shot, owners: Sequence[str]) -> str:
    """Return the title of layers, clips or mounts in labels: `“Slow sway”` for one, `2 mounts` for more.

    Empty for the shot itself.
    """
    if list(owners) == ["shot"]:
        return ""
    kinds = {each.partition(":")[0] for each in owners}
    return named([get_at(shot, f"{each}.name") for each in owners], kinds.pop() if len(kinds) == 1 else "part")


def of_mount(shot: Shot, mount: str | None) -> str:
    """Return ` of “Shoulder”` in a rig of several mounts, by default the last; empty for a single mount."""
    if len(shot.mounts) == 1:
        return ""
    return f" of {owners_title(shot, [f'mount:{mount or shot.mounts[-1].id}'])}"


def layers_title(shot: Shot, layers: Sequence[str]) -> str:
    """Return the title of layers by their ids."""
    return owners_title(shot, [f"layer:{each}" for each in layers])


def named(names: Sequence[str], kind: str = "layer") -> str:
    """Return `“Slow sway”` for one, `3 layers` for more."""
    return f"“{names[0]}”" if len(names) == 1 else f"{len(names)} {kind}s"


def owners_of(addresses: Sequence[str]) -> list[str]:
    """Return the layers, clips or mounts that hold numbers, by the addresses of the numbers."""
    return list(dict.fromkeys(each.split(".", 1)[0] for each in addresses))


def field_title(field: str) -> str:
    """Return a field's name for people."""
    return _TITLES.get(field, field.replace("_", " "))


def title_of(shot: Shot, addresses: Sequence[str]) -> str:
    """Return the title of numbers by their addresses: `swing of pan, tilt in “Slow sway”`, `weight in 3 layers`."""
    titles = list(dict.fromkeys(field_title(each.rsplit(".", 1)[-1]) for each in addresses))
    field = ", ".join(titles[:_MAX_FIELDS]) + (" …" if len(titles) > _MAX_FIELDS else "")
    axes = [axis for axis in AXES if any(f".axes.{axis}." in each for each in addresses)]
    of = f" of {', '.join(axes)}" if axes else ""
    owner = owners_title(shot, owners_of(addresses))
    return f"{field}{of}" + (f" in {owner}" if owner else "")


def _owner_title(kind: str) -> Callable[[Shot, str], str]:
    return lambda shot, id_: owners_title(shot, [f"{kind}:{id_}"])


def _variant_title(shot: Shot, variant: str) -> str:
    return named([each.name for each in shot.variants if each.id == variant])


# Titles of the fields of commands that hold ids or addresses, for labels.
FIELD_TITLES: dict[str, Callable[[Shot, Any], str]] = {
    "clip": _owner_title("clip"),
    "layer": _owner_title("layer"),
    "layers": layers_title,
    "mount": _owner_title("mount"),
    "plate": lambda shot, plate: named([find_plate(shot, plate).name]),
    "variant": _variant_title,
    "axes": lambda _, axes: ", ".join(axes),
    "at": lambda shot, at: title_of(shot, [at] if isinstance(at, str) else at),
}

"""What parts of a shot are called in labels."""

from __future__ import annotations

from collections.abc import Sequence

from zittern.core.edits.address import get_at
from zittern.core.shot.shot import Shot

__all__ = ["layers_title", "named", "of_mount", "owners_title"]


def owners_title(shot: Shot, owners: Sequence[str]) -> str:
    """What some layers, clips or mounts are called in labels: `“Slow sway”` for one, `2 mounts` for more; empty for
    the shot itself.
    """
    if list(owners) == ["shot"]:
        return ""
    kinds = {each.partition(":")[0] for each in owners}
    return named([get_at(shot, f"{each}.name") for each in owners], kinds.pop() if len(kinds) == 1 else "part")


def of_mount(shot: Shot, mount: str | None) -> str:
    """` of “Shoulder”` in a rig of several mounts, the last where none is named; empty where there is only one."""
    if len(shot.mounts) == 1:
        return ""
    return f" of {owners_title(shot, [f'mount:{mount or shot.mounts[-1].id}'])}"


def layers_title(shot: Shot, layers: Sequence[str]) -> str:
    """The same for layers by their ids."""
    return owners_title(shot, [f"layer:{each}" for each in layers])


def named(names: Sequence[str], kind: str = "layer") -> str:
    """`“Slow sway”` for one, `3 layers` for more."""
    return f"“{names[0]}”" if len(names) == 1 else f"{len(names)} {kind}s"

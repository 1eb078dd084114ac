"""A preset: a saved clip. Placed in a shot it becomes an independent clip, which only remembers its origin."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from zittern.core.documents.doc import Doc, Label
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.blends import Blend
from zittern.core.shot.clips import Clock
from zittern.core.shot.dials import Dial
from zittern.core.shot.layers import Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.path_facts import FACT_NAMES
from zittern.core.shot.reads import check_reads
from zittern.core.timebase import Fps

__all__ = ["CARRIER", "PRESET_VERSION", "Preset", "PresetLine", "PresetTags", "Tag", "check_mounts"]

PRESET_VERSION: Literal[8] = 8
# Target of a preset's layer that moves the parent of the rig.
CARRIER = "carrier"
Tag = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=24)]
PresetTags = Annotated[tuple[Tag, ...], Field(max_length=12)]
PresetLine = Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)]
LengthS = Annotated[float, Field(gt=0.0, le=1e5)]


def _check_unique(what: str, field: str, names: list[str]) -> None:
    if len(set(names)) < len(names):
        raise ValueError(f"two of the {what} have the same {field}; each has its own")


def check_mounts(mounts: tuple[Mount, ...], where: str) -> None:
    """Raise ValueError for mounts that cannot be put into another shot. where: `a preset`."""
    for mount in mounts:
        if mount.operator is not None or mount.ride is not None or mount.id == CARRIER:
            raise ValueError(
                f"“{mount.name}” cannot be part of {where}: an operator, a ride and the name {CARRIER!r} "
                "belong to shots"
            )
    _check_unique("mounts", "id", [mount.id for mount in mounts])


class Preset(Doc):
    """Layers with an amount and a speed on top, and the dials that they read. Its frames count from 0 at its own rate.

    keep_seeds: reuse the seeds (identical motion). length_s: default length of a clip; that of the shot when missing.
    clock: of its motion; it starts with the clip while missing. rig: optional mounts, placed behind the existing ones;
    layers name them, or CARRIER for the parent of the rig. blend: the corners of its layers, and the position among
    them. Rotations are meant for a 35 mm lens on a sensor 36 mm wide.
    """

    schema_name: Literal["zittern.preset"] = "zittern.preset"
    schema_version: Literal[8] = PRESET_VERSION
    name: Label
    line: PresetLine = ""
    tags: PresetTags = ()
    keep_seeds: bool = False
    length_s: LengthS | None = None
    fps: Fps = Fps(num=24)
    clock: Clock | None = None
    dials: Annotated[tuple[Dial, ...], Field(max_length=100)] = ()
    amount: Annotated[Param, bounded(0.0, 10.0)] = fixed(1.0)
    speed: Annotated[Param, bounded(0.0, 1e3)] = fixed(1.0)
    layers: Annotated[tuple[Layer, ...], Field(min_length=1, max_length=100)]
    rig: Annotated[tuple[Mount, ...], Field(max_length=20)] = ()
    blend: Blend | None = None

    @model_validator(mode="after")
    def _check_consistent(self) -> Self:
        check_mounts(self.rig, "a preset")
        _check_unique("layers", "id", [layer.id for layer in self.layers])
        _check_unique("dials", "name", [dial.name for dial in self.dials])
        check_reads(
            self.dials,
            self.rig,
            (*self.layers, self.amount, self.speed, *([self.blend] if self.blend else [])),
            FACT_NAMES,
            "the preset",
        )
        return self

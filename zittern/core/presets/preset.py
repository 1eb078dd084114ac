"""A preset: a saved clip. Placed in a shot it becomes a clip of its own, which nothing ties to where it came from but a name."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from zittern.core.doc import Doc, Label
from zittern.core.numbers.param import Param, bounded, fixed
from zittern.core.shot.layers import Layer

__all__ = ["Preset"]

Tag = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=24)]


class Preset(Doc):
    """Layers with an amount and a speed on top. keep_seeds: whether it moves the same wherever it is placed. length_s: how long a clip of it is
    unless somebody says; as long as the shot when missing. Rotations are meant for a 35 mm lens on a sensor 36 mm wide.
    """

    schema_name: Literal["zittern.preset"] = "zittern.preset"
    schema_version: Literal[1] = 1
    name: Label
    line: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""
    tags: Annotated[tuple[Tag, ...], Field(max_length=12)] = ()
    keep_seeds: bool = False
    length_s: Annotated[float, Field(gt=0.0, le=1e5)] | None = None
    amount: Annotated[Param, bounded(0.0, 10.0)] = fixed(1.0)
    speed: Annotated[Param, bounded(0.0, 1e3)] = fixed(1.0)
    layers: Annotated[tuple[Layer, ...], Field(min_length=1, max_length=100)]

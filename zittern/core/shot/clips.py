"""A clip: a stretch of time that holds layers. Without a span it reaches over the whole shot."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.doc import Id, Label
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.param import Param, bounded, fixed
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.shot.origins import ClipOrigin

__all__ = ["Clip"]


class Clip(Spanned):
    """Layers in order, from the bottom up. origin_frame: where their motion counts from, its start when missing; a clip that was cut keeps it.
    from_preset: what it was placed from.
    """

    id: Id
    name: Label
    layers: Annotated[tuple[Layer, ...], Field(max_length=500)] = ()
    amount: Annotated[Param, bounded(0.0, 10.0)] = fixed(1.0)
    speed: Annotated[Param, bounded(0.0, 1e3)] = fixed(1.0)
    mute: bool = False
    origin_frame: Frame | None = None
    from_preset: ClipOrigin | None = None

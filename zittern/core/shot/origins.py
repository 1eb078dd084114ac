"""Origins of clips and layers: the preset that they were placed from.

They are only stored; the contents are independent.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.shot.dials import DialName

__all__ = ["BroughtDial", "ClipOrigin", "LayerOrigin", "PresetKey"]

# Key of a preset: that of a shipped one follows from its name, that of a custom one starts with `own-`.
PresetKey = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]


class BroughtDial(Doc):
    """A dial that a preset brought, and what the shot calls it."""

    brought: DialName
    name: DialName


class ClipOrigin(Doc):
    """The preset that a clip was placed from. factor: what its rotations were multiplied with, for the lens."""

    preset: PresetKey
    name: Label
    factor: float = Field(default=1.0, gt=0.0, le=1e3)
    dials: Annotated[tuple[BroughtDial, ...], Field(max_length=100)] = ()


class LayerOrigin(Doc):
    """The layer of a preset that a layer was placed from, and the fingerprint that it had then."""

    preset: PresetKey
    layer: Id
    content: Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{24}$")]

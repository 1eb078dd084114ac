"""Plates: pictures hung in depth, pieces of the set."""

from __future__ import annotations

import base64
import binascii
from functools import cached_property
from typing import Annotated, ClassVar, Literal, Self

import numpy as np
from pydantic import Field, StringConstraints, model_validator

from zittern.core.documents.doc import Id, Label
from zittern.core.shot.posed import Posed
from zittern.core.units import BoolArray

__all__ = ["MASK_CELLS", "MOST_PLATES", "Digest", "Opaque", "Plate", "SidePx", "packed_mask"]

MOST_PLATES = 100
MOST_SIDE_PX = 16_384
# Coverage of an image is stored in this many cells per side.
MASK_CELLS = 64
Digest = Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
SidePx = Annotated[int, Field(ge=1, le=MOST_SIDE_PX)]
Opaque = Annotated[str, Field(max_length=1000)]


class Plate(Posed):
    """A picture on a surface that faces its own +Z, with its center at its position; meters and degrees in the world.

    picture: digest of its content. width_px, height_px: of the image. width_m: along the surface; the height follows
    from the aspect ratio. shape: flat, or part of a cylinder (about its own up) or of a sphere, concave towards +Z;
    bend_deg: the arc covered by its width. edges: bare, or extended by a mirrored or clamped strip of edge_percent of
    the size per side. counts: whether it must fill the frame; by default the rearmost one.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"id", "name"})

    id: Id
    name: Label
    picture: Digest
    width_px: SidePx
    height_px: SidePx
    width_m: float = Field(ge=1e-4, le=1e6)
    shape: Literal["flat", "cylinder", "sphere"] = "flat"
    bend_deg: float = Field(default=60.0, ge=1.0, le=180.0)
    edges: Literal["bare", "mirrored", "stretched"] = "bare"
    edge_percent: float = Field(default=20.0, ge=0.0, le=100.0)
    counts: Literal["when rearmost", "yes", "no"] = "when rearmost"
    opaque: Opaque | None = None

    @model_validator(mode="after")
    def _mask(self) -> Self:
        if self.opaque is not None:
            try:
                size = len(base64.b64decode(self.opaque, validate=True))
            except (binascii.Error, ValueError) as error:
                raise ValueError("opaque is base64 of 64 × 64 bits") from error
            if size * 8 != MASK_CELLS**2:
                raise ValueError(f"opaque is base64 of 64 × 64 bits, got {size * 8}")
        return self

    @property
    def height_m(self) -> float:
        """Along the surface."""
        return self.width_m * self.height_px / self.width_px

    @property
    def reach_m(self) -> tuple[float, float]:
        """Return its extent from its center, to each side and up and down, with the extension of its edges."""
        more = 1.0 if self.edges == "bare" else 1.0 + self.edge_percent / 50.0
        return 0.5 * self.width_m * more, 0.5 * self.height_m * more

    @cached_property
    def mask(self) -> BoolArray | None:
        """Return the opaque cells, (64, 64), rows from the top; None if all are."""
        if self.opaque is None:
            return None
        bits = np.unpackbits(np.frombuffer(base64.b64decode(self.opaque), dtype=np.uint8))
        return np.asarray(bits.reshape(MASK_CELLS, MASK_CELLS).astype(bool))


def packed_mask(covers: BoolArray) -> str | None:
    """Cells as a plate keeps them.

    Parameters
    ----------
    covers: (64, 64), rows from above.

    Returns
    -------
    Base64; nothing where all cover.
    """
    return None if bool(covers.all()) else base64.b64encode(np.packbits(covers.ravel()).tobytes()).decode("ascii")

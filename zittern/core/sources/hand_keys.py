"""Keys: hand-keyed curves, added on top. In the axes' own units; swing does not scale it, weight does."""

from __future__ import annotations

from typing import Annotated, Any, ClassVar, Literal

import numpy as np

from zittern.core.axes import AXES, Axis, axis_index
from zittern.core.documents.by_axis import fields_by_axis
from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

__all__ = ["HandKeys", "Tracks"]

_LIMITS = {"deg": (-3600.0, 3600.0), "cm": (-1e5, 1e5), "%": (-90.0, 1000.0)}
_Offsets: Any = fields_by_axis(lambda info: (Annotated[Param, bounded(*_LIMITS[info.unit])], fixed(0.0)))


class Tracks(_Offsets, Doc):
    """Offsets of each axis: degrees, centimetres, percent."""


class HandKeys(SourceDoc):
    """A correction, a jolt, a look aside: set by hand."""

    absolute: ClassVar[bool] = True

    kind: Literal["keys"] = "keys"
    tracks: Tracks = Tracks()

    def axes(self) -> tuple[Axis, ...]:
        """Axes that have anything on them."""
        return tuple(axis for axis in AXES if getattr(self.tracks, axis).constant != 0.0)

    def motion(self, inputs: Inputs) -> Array:
        """Motion on the axes that are asked for.

        Returns
        -------
        (F, A) in the axes' units.
        """
        return np.stack(
            [getattr(self.tracks, axis).sample(inputs.scope.on_axis(axis_index(axis))) for axis in inputs.axes], axis=1
        )

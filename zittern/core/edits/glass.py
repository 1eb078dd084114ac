"""The glass of the lens."""

from __future__ import annotations

import math

from pydantic import Field

from zittern.core.edits.command import CommandDoc
from zittern.core.edits.numbers import NumberValue, SetNumbers
from zittern.core.errors import EditError
from zittern.core.motion.facts import scope_at
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.limits import limits_of
from zittern.core.optics.lens import corner_tangent
from zittern.core.shot.glass import Glass
from zittern.core.shot.shot import Shot

__all__ = ["BendCorner"]


class BendCorner(CommandDoc, label="Distort the corners by {percent:g} %"):
    """Set k1 at a frame for a displacement of the picture corners in percent.

    Above 0 outwards, below 0 inwards, with this lens and the present k2; a keyed k1 gets a key there.
    """

    frame: Frame
    percent: float = Field(ge=-30.0, le=100.0)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError where k1 would be out of reach: of a very long lens."""
        bent = shot if shot.glass is not None else shot.replace(glass=Glass())
        assert bent.glass is not None
        at = scope_at(bent, self.frame)
        size_px = bent.picture.width_px, bent.picture.height_px
        squared = corner_tangent(bent.lens_at(at), bent.sensor_mm, size_px) ** 2
        k1 = (self.percent / 100.0 - bent.glass.k2.at(at) * squared**2) / squared
        least, most = limits_of(Glass.model_fields["k1"]) or (-math.inf, math.inf)
        if not least <= k1 <= most:
            raise EditError(
                f"this lens would need k1 = {k1:.4g}, which goes from {least:g} to {most:g}: ask for less, or take a "
                f"shorter lens",
                "shot.glass.k1",
            )
        return SetNumbers(frame=self.frame, values=(NumberValue(at="shot.glass.k1", value=k1),)).apply(bent)

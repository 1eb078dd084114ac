"""Effects of a lens on the picture: distortion and breathing."""

from __future__ import annotations

from typing import Annotated

import numpy as np

from zittern.core.documents.doc import Doc
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.units import Array

__all__ = ["NEAREST_FOCUS_M", "Glass"]

NEAREST_FOCUS_M = 0.3


class Glass(Doc):
    """k1, k2: radial distortion, as `distortion` has it; below 0 barrel, above 0 pincushion.

    Breathing: growth of the focal length in percent when the focus moves from infinity to 1 m; it grows with 1 /
    focus_m, like that of a lens with unit focusing, by 0.1 % per millimeter of focal length; below 0 it shrinks.
    """

    k1: Annotated[Param, bounded(-10.0, 10.0)] = fixed(0.0)
    k2: Annotated[Param, bounded(-100.0, 100.0)] = fixed(0.0)
    breathing_percent: Annotated[Param, bounded(-20.0, 20.0)] = fixed(0.0)
    focus_m: Annotated[Param, bounded(NEAREST_FOCUS_M, 1e5)] = fixed(4.0)

    def distortion(self, scope: Scope) -> Array:
        """k1 and k2.

        Returns
        -------
        (F, 2) float64, coefficients, dimensionless.
        """
        return np.stack([self.k1.sample(scope), self.k2.sample(scope)], axis=1)

    def breath(self, scope: Scope, focus_m: Array | None = None) -> Array:
        """Return the ratio of the focal length to that with the focus far away.

        Parameters
        ----------
        focus_m : (F,) float64, meters; by default the keyed focus distance.

        Returns
        -------
        (F,) float64.
        """
        focus_m = self.focus_m.sample(scope) if focus_m is None else focus_m
        return np.asarray(1.0 + self.breathing_percent.sample(scope) / 100.0 / focus_m)

    def breathing(self, scope: Scope) -> Array:
        """Return how strongly the picture shows a motion of the focus.

        Returns
        -------
        (F,) float64, relative change of the focal length per relative change of the focus distance, without sign.
        """
        return np.asarray(np.abs(1.0 - 1.0 / self.breath(scope)))

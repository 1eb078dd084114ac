"""Stage: blends. Position of a clip's blend to weights of its corners and layers.

The position moves with limited speed, PACE_S from corner to corner: dragged, keyed or formula values are averaged over
that time
(`numbers.smoothing`), so that a jump of the position causes no jump.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from zittern.core.motion.evaluation import Part, Read, hash_of
from zittern.core.numbers.scope import Scope
from zittern.core.numbers.smoothing import moving_mean
from zittern.core.shot import pad
from zittern.core.shot.blends import Blend
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.reads import looks_at_frames_only
from zittern.core.units import Array

__all__ = ["PACE_S", "CornerWeight", "corner_weight", "counts_nowhere", "place", "shares"]

# From corner to corner takes at least this long, seconds.
PACE_S = 0.1
# Layers below this weight are invisible.
_NOTHING = 1e-6


def place(blend: Blend, scope: Scope) -> Array:
    """Return the position on the pad, with limited speed.

    Returns
    -------
    (F, 2), 0..1 from the left and lower edge.
    """
    across, up = (moving_mean(number, scope, PACE_S) for number in (blend.across_percent, blend.up_percent))
    return np.stack([across, up], axis=1) / 100.0


def shares(blend: Blend, scope: Scope) -> Array:
    """Return the share of each corner: not negative, sum 1.

    Returns
    -------
    (F, N) float64, shares, dimensionless.
    """

    def make() -> Array:
        return pad.shares(len(blend.corners), place(blend, scope))

    # Several numbers of one evaluation are sampled at the same frames.
    return scope.table("corners", (blend, hash_of(scope.frames)), make) if looks_at_frames_only(blend) else make()


@dataclass(frozen=True, slots=True)
class CornerWeight:
    """Corner of a layer in a blend.

    straight: whether its weight is its share, as for a motion that is equal in all corners and would otherwise swell,
    or the square root of its power, which keeps the size in between.
    """

    blend: Blend
    corner: int
    straight: bool

    def weight(self, scope: Scope) -> Array:
        """Return its weight.

        Returns
        -------
        (F,) float64, weight, dimensionless.
        """
        each = shares(self.blend, scope)
        return np.asarray((each if self.straight else pad.powers(each))[:, self.corner])

    def parts(self, scope: Scope) -> tuple[Part, ...]:
        """Return the inputs of its weight."""
        return Read(self.blend, scope), self.corner, self.straight


def corner_weight(clip: Clip, layer: Layer) -> CornerWeight | None:
    """Return the corner of a layer in its clip's blend; None for a layer without a corner."""
    at = None if clip.blend is None else clip.blend.index_of(layer.corner)
    if clip.blend is None or at is None:
        return None
    # Keyed motion, and motion with the same seed, is equal to that of another corner.
    alike = len(_corners_by_seed(clip)[layer.source.kind, layer.seed]) > 1
    return CornerWeight(clip.blend, at, layer.source.absolute or alike)


def _corners_by_seed(clip: Clip) -> Mapping[tuple[str, int], set[str | None]]:
    """Return the corners in which a kind of source has a seed. Kept with the clip."""
    known: dict[tuple[str, int], set[str | None]] | None = clip.__dict__.get("_corners_by_seed")
    if known is None:
        known = clip.__dict__["_corners_by_seed"] = {}
        for layer in clip.layers:
            known.setdefault((layer.source.kind, layer.seed), set()).add(layer.corner)
    return known


def counts_nowhere(clip: Clip, layer: Layer, scope: Scope) -> bool:
    """Return whether the position is away from a layer's corner at all frames of a scope.

    The layer is then inactive on purpose.
    """
    stands = corner_weight(clip, layer)
    return stands is not None and bool(np.max(stands.weight(scope), initial=0.0) <= _NOTHING)

"""New seeds.

They are drawn from the document's own seed and counter, so that the same command on the same document gives the same
result, and no two shots shake alike.
"""

from __future__ import annotations

from zittern.core.noise import streams
from zittern.core.shot.layers import MOST_SEED, Layer
from zittern.core.shot.shot import Shot

__all__ = ["drawn", "reseeded"]

_START = 61


def drawn(shot: Shot, count: int) -> tuple[Shot, tuple[int, ...]]:
    """Return seeds that no layer of the shot has, and the shot with the number of seeds drawn."""
    taken = {layer.seed for _, layer in shot.layers()}
    seeds: list[int] = []
    number = shot.seeds_drawn
    while len(seeds) < count:
        seed = streams.mix(shot.seed, number) & MOST_SEED
        number += 1
        if seed not in taken:
            taken.add(seed)
            seeds.append(seed)
    return shot.replace(seeds_drawn=number), tuple(seeds)


def reseeded(layer: Layer, seed: int) -> Layer:
    """Return a layer with another seed, which also sets the start phase of a periodic source."""
    cycles = streams.mix(seed, _START) / 2.0**64
    return layer.replace(seed=seed, source=layer.source.started(cycles))

"""Stage: mixing.

Inputs: each layer's offsets, spans, ramps, weights and amounts. Result: the contribution and weight of each layer.

Layers of a clip are taken from the bottom up: one that replaces pushes back those under it, on the axes it moves and at
the mount it acts on, by its weight. Contributions of one mount add in axis space.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator, Mapping, Sequence

import numpy as np

from zittern.core.axes import axis_index
from zittern.core.motion import blends, chain, fades, layers, morph
from zittern.core.motion.evaluation import Evaluation, Part, Read
from zittern.core.numbers.envelope import RampShape, ramp
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.runtime import budget
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Spanned
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["active", "before_replacing", "clip_weights", "contributions", "of_clip", "parts_of", "sums", "weights"]


def active(shot: Shot) -> set[str]:
    """Ids of the layers that count: not muted, their clip not muted, and soloed if any layer is."""
    soloed = any(layer.solo for _, layer in shot.layers())
    return {layer.id for clip, layer in shot.layers() if not (clip.mute or layer.mute or (soloed and not layer.solo))}


def contributions(
    run: Evaluation, mounts: Collection[str | None] | None = None
) -> tuple[dict[str, Array], dict[str, Array]]:
    """Return by layer id, (F, A): active ones after replacing, and the offsets of the others.

    mounts: only those that count and act on these.
    """
    counted = active(run.shot)
    out: dict[str, Array] = {}
    for clip in run.shot.clips():
        out.update(of_clip(run, clip, counted, mounts))
    muted = [(clip, layer) for clip, layer in run.shot.layers() if layer.id not in counted and mounts is None]
    return out, {layer.id: _weighted(run, clip, layer) for clip, layer in muted}


def of_clip(
    run: Evaluation, clip: Clip, counted: Collection[str], mounts: Collection[str | None] | None = None
) -> dict[str, Array]:
    """Return the contributions of the active layers of one clip. counted: ids of all active ones.

    Returns
    -------
    (F, A) by layer id.
    """
    out: dict[str, Array] = {}
    together = _morphed(run, clip, counted, mounts)
    for layer in clip.layers:
        if layer.id not in counted or (mounts is not None and layer.target not in mounts):
            continue
        if layer.mode == "replace":
            _push_back(run, clip, out, layer)
        out[layer.id] = together[layer.id] if layer.id in together else _weighted(run, clip, layer)
    return out


def before_replacing(run: Evaluation, ids: Collection[str]) -> list[Array]:
    """Contributions of some layers before others replace them.

    Returns
    -------
    (F, A) each.
    """
    return [_weighted(run, clip, layer) for clip, layer in run.shot.layers() if layer.id in ids]


def sums(shot: Shot, contributed: Mapping[str, Array]) -> dict[str, Array]:
    """Sum of contributions.

    Parameters
    ----------
    contributed: (F, A) by layer id.

    Returns
    -------
    (F, A) by mount id, or chain.LENS.
    """
    by_target: dict[str, list[Array]] = {}
    for _, layer in shot.layers():
        if layer.id in contributed:
            by_target.setdefault(layer.target or chain.LENS, []).append(contributed[layer.id])
    return {target: _sum_of(parts) for target, parts in by_target.items()}


def _sum_of(parts: list[Array]) -> Array:
    """In their order, into one array. One alone is itself."""
    if len(parts) == 1:
        return parts[0]
    out = parts[0] + parts[1]
    for each in parts[2:]:
        out += each
    return out


def weights(run: Evaluation) -> dict[str, Array]:
    """Weight with ramps of each layer, its clip's amount and ramps included. (F,) by layer id."""
    return {layer.id: _weight(run, clip, layer) for clip, layer in run.shot.layers()}


def clip_weights(run: Evaluation) -> dict[str, Array]:
    """Return the amount of each clip with its ramps and its cross-fade weight. (F,) by clip id."""
    return {clip.id: _clip_weight(run, clip) for clip in run.shot.clips()}


def _clip_weight(run: Evaluation, clip: Clip) -> Array:
    return run.memoized(
        "clip",
        _clip_parts(run, clip),
        lambda: _envelope(run, clip.amount, clip, layers.clip_scope(run, clip)) * _fade(run, clip),
    )


def _weight(run: Evaluation, clip: Clip, layer: Layer) -> Array:
    def make() -> Array:
        stands = _corner_weight(run, clip, layer)
        corner = _corner_parts(run, clip, stands)
        parts = (layer.ends, layers.as_read(run, clip, layer, layer.weight), *_clip_parts(run, clip), *corner)

        def own() -> Array:
            scope = layers.layer_scope(run, clip, layer)
            values = _envelope(run, layer.weight, layer, scope) * _clip_weight(run, clip)
            return values if stands is None else values * stands.weight(layers.clip_scope(run, clip))

        return run.memoized("weight", parts, own)

    return run.once("weight", layer, make)


def _weighted(run: Evaluation, clip: Clip, layer: Layer) -> Array:
    """Return a layer's contribution before others replace it. (F, A)."""

    def make() -> Array:
        with budget.doing(lambda: f"“{layer.name}”", "its rate or speed, its octaves, or the number of frames"):
            values, weight = layers.offsets(run, clip, layer), _weight(run, clip, layer)
            for axis in layer.moving_axes:
                values[:, axis_index(axis)] *= weight
            layers.add_lever(layer, values)
            return values

    return run.memoized("layer", _weighted_parts(run, clip, layer), make)


def _weighted_parts(run: Evaluation, clip: Clip, layer: Layer) -> tuple[Part, ...]:
    corner = _corner_parts(run, clip, _corner_weight(run, clip, layer))
    return (*_clip_parts(run, clip), *layers.layer_parts(run, clip, layer), *corner)


def _corner_weight(run: Evaluation, clip: Clip, layer: Layer) -> blends.CornerWeight | None:
    return run.once("standing", layer, lambda: blends.corner_weight(clip, layer)) if clip.blend is not None else None


def _corner_parts(run: Evaluation, clip: Clip, stands: blends.CornerWeight | None) -> tuple[Part, ...]:
    return () if stands is None else stands.parts(layers.clip_scope(run, clip))


def _morphed(
    run: Evaluation, clip: Clip, counted: Collection[str], mounts: Collection[str | None] | None
) -> dict[str, Array]:
    """Return the contributions of layers that are interpolated in a morph, by id.

    Each is its share of the interpolated one. (F, A) degrees, cm, %.
    """
    out: dict[str, Array] = {}
    for group in morph.groups(clip, counted):
        if mounts is None or group[0].target in mounts:
            out.update(_morphed_layers(run, clip, group))
    return out


def _morphed_layers(run: Evaluation, clip: Clip, group: Sequence[Layer]) -> Iterator[tuple[str, Array]]:
    blend = clip.blend
    assert blend is not None, "only layers of a blend can be interpolated"
    scope = layers.clip_scope(run, clip)
    which = morph.corners_of(blend, group)
    one = run.once(
        f"between {'/'.join(layer.id for layer in group)}",
        clip,
        lambda: morph.merged(clip, group, (scope.span, scope.later_frames), run.shot.fps.value),
    )
    ramps = tuple(layer.ends for layer in group)
    parts = (*_clip_parts(run, clip), *layers.layer_parts(run, clip, one), ramps, Read(blend, scope), which)

    heard = run.memoized("shares", (Read(blend, scope), which), lambda: morph.shares_among(blend, which, scope))

    def make() -> Array:
        with budget.doing(lambda: f"“{group[0].name}”", "its rate or speed, its octaves, or the number of frames"):
            values = layers.offsets(run, clip, one)
            ramped = sum(heard[:, n] * _ramp(run, layer) for n, layer in enumerate(group))
            own = one.weight.sample(layers.layer_scope(run, clip, one))
            weight = morph.size_of(blend, which, scope) * own * ramped * _clip_weight(run, clip)
            for axis in one.moving_axes:
                values[:, axis_index(axis)] *= weight
            layers.add_lever(one, values)
            return values

    whole = run.memoized("between", parts, make)
    for n, layer in enumerate(group):
        yield layer.id, run.memoized("of one", (*parts, n), lambda n=n: whole * heard[:, n, None])  # type: ignore[misc]


def _clip_parts(run: Evaluation, clip: Clip) -> tuple[Part, ...]:
    """Return the inputs of the weight of a clip, as one text for all of its layers."""
    return (run.printed("clip", clip, lambda: _parts_of_clip(run, clip)),)


def _parts_of_clip(run: Evaluation, clip: Clip) -> tuple[Part, ...]:
    return (clip.ends, Read(clip.amount, layers.clip_scope(run, clip)), *_overlapping(run, clip))


def parts_of(run: Evaluation, mounts: Collection[str | None]) -> tuple[Part, ...]:
    """Return the inputs of the sums of all contributions to some mounts.

    Clip by clip, since a layer replaces only within its own.
    """
    counted = active(run.shot)
    groups = []
    for clip in run.shot.clips():
        acting = [layer for layer in clip.layers if layer.target in mounts and layer.id in counted]
        if acting:
            groups.append(tuple((layer.target, layer.mode, *_weighted_parts(run, clip, layer)) for layer in acting))
    return tuple(groups)


def _envelope(run: Evaluation, weight: Number, part: Spanned, scope: Scope) -> Array:
    """Return a weight with the ramps of its part."""
    return _ramp(run, part) * weight.sample(scope)


def _ramp(run: Evaluation, part: Spanned) -> Array:
    return ramp(run.frames, *part.ends, run.span)


def _fade(run: Evaluation, clip: Clip) -> Array | float:
    """Cross-fade weight of a clip where others on its lane overlap it."""
    others, shape = _overlapping(run, clip)
    return fades.fade(run.frames, run.span_of(clip), others, shape) if others else 1.0


def _overlapping(run: Evaluation, clip: Clip) -> tuple[tuple[tuple[fades.Stretch, bool], ...], RampShape]:
    lane = next(lane for lane in run.shot.lanes if any(each is clip for each in lane.clips))
    return fades.overlapping(lane, clip, run.span), lane.fade


def _push_back(run: Evaluation, clip: Clip, below: dict[str, Array], layer: Layer) -> None:
    """Scale the layers below by the share that a replacing layer leaves."""
    left = 1.0 - np.clip(_envelope(run, layer.weight, layer, layers.layer_scope(run, clip, layer)), 0.0, 1.0)
    columns = [axis_index(axis) for axis in layer.affected_axes]
    for other in clip.layers:
        apart = clip.blend is not None and layer.corner is not None and other.corner != layer.corner
        if other.id in below and other.target == layer.target and not apart:
            values = below[other.id].copy(order="K")
            values[:, columns] *= left[:, None]
            below[other.id] = values

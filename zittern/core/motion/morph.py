"""Layers of a blend that are alike, as one layer: their numbers blended by the place on the pad.

Alike are layers of different corners with the same source, its choices, target, mode and links. Sizes (swing x weight)
and rates are blended geometrically, other numbers linearly; phases are integrated from the blended rate, so that one
walker is interpolated between two. The seeds are the first corner's. A swing is clamped to the limit of its axis before
it is
multiplied by its weight, as in a plain layer.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Sequence
from functools import cached_property
from typing import Any, ClassVar

import numpy as np

from zittern.core.axes import AXES, axis_info
from zittern.core.documents.doc import Doc, digest, motion_text
from zittern.core.motion.blends import PACE_S, shares
from zittern.core.numbers.param import Number, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.shot import pad
from zittern.core.shot.blends import Blend
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import AxisBoard, AxisSetting, Layer
from zittern.core.shot.reads import by_axis, reads_of, spanned
from zittern.core.units import Array

__all__ = ["Blended", "corners_of", "groups", "merged", "shares_among", "size_of"]

# Geometric blends stay above this value: from 0 they could not return.
_LEAST = 1e-9


class Blended(Number):
    """A number between those of several corners; never part of a document.

    rows: of each corner that `which` names the numbers whose product is blended. clock: span and lateness of the
    blend's clip, by which the place is read. per_weight: rows are (swing, weight), and the blend of their products is
    divided by that of the weights: what remains is a swing within the limits of its axis.
    """

    curve: ClassVar[None] = None  # type: ignore[assignment]
    rows: Any
    blend: Any
    which: tuple[int, ...]
    clock: tuple[tuple[float, float], float]
    geometric: bool
    pace_frames: float
    per_weight: bool = False

    @property
    def _all(self) -> tuple[Number, ...]:
        return tuple(each for row in self.rows for each in row)

    @cached_property
    def motion_key(self) -> str:
        """Return the fingerprint of the corners' numbers and of the position."""
        keys = [[each.motion_key for each in row] for row in self.rows]
        return digest(repr([keys, self.blend.motion_key, self.which, self.clock, self.geometric, self.per_weight]))

    @cached_property
    def constant(self) -> float | None:
        """Return the value, if corners and position are constant."""
        across, up = self.blend.across_percent.constant, self.blend.up_percent.constant
        if across is None or up is None or any(each.constant is None for each in self._all):
            return None
        count = len(self.blend.corners)
        share = _among(pad.shares(count, np.array([[across, up]]) / 100.0), self.which)
        numbers = [np.array([each.constant for each in row], dtype=np.float64)[:, None] for row in self.rows]
        return float(self._blended_corners(numbers, share)[0])

    @cached_property
    def breaks(self) -> Array:
        """Return the breaks of the position and of all numbers.

        Returns
        -------
        (B,) frames in increasing order.
        """
        place = np.concatenate([self.blend.across_percent.breaks, self.blend.up_percent.breaks])
        turns = [place - 0.5 * self.pace_frames, place, place + 0.5 * self.pace_frames]
        return np.unique(np.concatenate([*(each.breaks for each in self._all), *turns]))

    def jumps(self, reach: tuple[float, float]) -> Array:
        """Return the jumps of all numbers.

        Returns
        -------
        (J, 2) frames before and after each jump.
        """
        return np.concatenate([each.jumps(reach) for each in self._all])

    @cached_property
    def reads(self) -> frozenset[str]:
        """Return the names that the position and all numbers read."""
        return reads_of(self.blend).union(*(each.reads for each in self._all))

    @cached_property
    def spanned(self) -> bool:
        """Return whether the position or any number depends on its span."""
        return spanned(self.blend) or any(each.spanned for each in self._all)

    @cached_property
    def by_axis(self) -> bool:
        """Return whether the position or any number differs by axis."""
        return by_axis(self.blend) or any(each.by_axis for each in self._all)

    @property
    def may_jump(self) -> bool:
        """Return whether any number may jump."""
        return any(each.may_jump for each in self._all)

    def set_values(self) -> tuple[float, ...]:
        """Return every value that was set in the corners."""
        return tuple(value for each in self._all for value in each.set_values())

    @property
    def nothing(self) -> bool:
        """Return whether every axis has a number that is 0."""
        return all(any(each.nothing for each in row) for row in self.rows)

    def map(self, change: Callable[[float], float]) -> Number:
        """Return a changed number; interpolated ones cannot be changed."""
        raise NotImplementedError

    def sample(self, scope: Scope) -> Array:
        """Return the weighted sum at the frames of a scope.

        Returns
        -------
        (F,) in the unit of the number.
        """
        if self.constant is not None:
            return np.full(len(scope.frames), self.constant)
        share = shares_among(self.blend, self.which, scope.with_clock(*self.clock))
        return self._blended_corners([np.stack([each.sample(scope) for each in row]) for row in self.rows], share)

    def _blended_corners(self, numbers: Sequence[Array], share: Array) -> Array:
        """Blend the products of each corner's numbers. (R, F) for each of K corners, (F, K) -> (F,)."""
        values = np.stack([np.prod(each, axis=0) for each in numbers], axis=1)
        if self.geometric and not self._may_be_nothing:
            out = np.exp(np.sum(share * np.log(np.maximum(values, _LEAST)), axis=1))
        else:
            out = np.sum(share * values, axis=1)
        if not self.per_weight:
            return np.asarray(out)
        swing, weight = (np.sum(share * np.stack([each[n] for each in numbers], axis=1), axis=1) for n in (0, 1))
        return np.asarray(np.where(weight > _LEAST, out / np.maximum(weight, _LEAST), swing))

    @cached_property
    def _may_be_nothing(self) -> bool:
        """Return whether one of them is 0 anywhere, as far as it was set: to or from 0 the path is linear."""
        return any(min(each.set_values(), default=0.0) <= 0.0 for each in self._all)


def corners_of(blend: Blend, group: Sequence[Layer]) -> tuple[int, ...]:
    """Return the corners of the layers in a group."""
    return tuple(n for layer in group if (n := blend.index_of(layer.corner)) is not None)


def size_of(blend: Blend, which: Sequence[int], scope: Scope) -> Array:
    """Return the weight of a layer between some corners: 1 if these are all corners.

    Returns
    -------
    (F,) float64, weight, dimensionless.
    """
    return np.asarray(np.sqrt(np.sum(pad.powers(shares(blend, scope))[:, list(which)] ** 2, axis=1)))


def shares_among(blend: Blend, which: Sequence[int], scope: Scope) -> Array:
    """Shares of some corners among themselves.

    Returns
    -------
    (F, K), 1 together.
    """
    return _among(shares(blend, scope), which)


def _among(each: Array, which: Sequence[int]) -> Array:
    some = each[:, list(which)]
    total = some.sum(axis=1, keepdims=True)
    # Where all have weight 0, the choice does not matter.
    return np.where(total > 0.0, some / np.where(total > 0.0, total, 1.0), 1.0 / len(which))


def groups(clip: Clip, counted: Collection[str]) -> list[list[Layer]]:
    """Layers of a morph that are one, from the first corner on; of those that count. What has no partner is in none."""
    blend = clip.blend
    if blend is None or blend.method != "morph":
        return []
    alike: dict[str, list[Layer]] = {}
    for corner in blend.corners:
        for layer in clip.layers:
            if layer.corner == corner.id and layer.id in counted and layer.source.rates and layer.mode == "add":
                alike.setdefault(_likeness(layer), []).append(layer)
    return [group for some in alike.values() for group in _partners(blend, some)]


def _partners(blend: Blend, alike: list[Layer]) -> Iterator[list[Layer]]:
    """Layers that are alike, one of each corner, those with the nearest rates together."""
    by_corner = {
        corner.id: [(_log_rate(layer), layer) for layer in alike if layer.corner == corner.id]
        for corner in blend.corners
    }
    for corner, waiting in by_corner.items():
        for rate, layer in waiting:
            group = [layer]
            for other, those in by_corner.items():
                if other == corner or not those:
                    continue
                nearest = min(range(len(those)), key=lambda n: abs(those[n][0] - rate))
                group.append(those.pop(nearest)[1])
            if len(group) > 1:
                yield group
        waiting.clear()


def _likeness(layer: Layer) -> str:
    """Return the properties that must be equal in layers of a morph: all except numbers. Kept with the layer."""
    known: str | None = layer.__dict__.get("_likeness")
    if known is None:
        source = layer.source
        fields = ((name, getattr(source, name)) for name in type(source).model_fields)
        choices = [(name, motion_text(value)) for name, value in fields if not isinstance(value, Number)]
        links = [layer.axes.of(axis).linked_to for axis in AXES]
        known = layer.__dict__["_likeness"] = repr(
            (
                source.kind,
                layer.target,
                layer.steady,
                layer.steady_roll,
                layer.lever_m,
                layer.phase_offset,
                links,
                choices,
            )
        )
    return known


def _log_rate(layer: Layer) -> float:
    """Return the logarithm of a layer's first rate, as far as it is known without a shot."""
    rate = getattr(layer.source, min(layer.source.rates))
    return float(np.log(max(max(rate.set_values(), default=1.0), _LEAST)))


def merged(clip: Clip, group: Sequence[Layer], clock: tuple[tuple[float, float], float], fps: float) -> Layer:
    """Return the layer between several, without ramps: spans and ramps are each one's own. clock: of the clip."""
    blend = clip.blend
    assert blend is not None, "only layers of a blend can be interpolated"
    which = corners_of(blend, group)

    def product(rows: Sequence[tuple[Number, ...]], geometric: bool, per_weight: bool = False) -> Number:
        return Blended.model_construct(
            rows=tuple(rows), blend=blend, which=which, clock=clock, geometric=geometric, pace_frames=PACE_S * fps,
            per_weight=per_weight,
        )  # fmt: skip

    def between(numbers: Sequence[Number], geometric: bool) -> Number:
        same = len({number.motion_key for number in numbers}) == 1
        return numbers[0] if same else product([(number,) for number in numbers], geometric)

    first = group[0]
    weights = [layer.weight for layer in group]
    weight = between(weights, False)
    # Equal weights that never change cancel out.
    per_weight = weight.constant is None or len({each.constant for each in weights}) > 1
    axes: dict[str, Any] = {}
    for axis in AXES:
        settings = [layer.axes.of(axis) for layer in group]
        most = axis_info(axis).most_swing
        swings = [each.swing.within(0.0, most) if each.on else fixed(0.0) for each in settings]
        axes[axis] = AxisSetting.model_construct(
            **{
                **_fields(settings[0]),
                "on": any(each.moves for each in settings),
                "swing": product(
                    list(zip(swings, weights, strict=True)) if per_weight else [(swing,) for swing in swings],
                    True,
                    per_weight,
                ),
                "pace": between([each.pace for each in settings], True),
            }
        )
    sources = [layer.source for layer in group]
    numbers = {
        name: between([getattr(each, name) for each in sources], name in first.source.rates)
        for name in type(first.source).model_fields
        if isinstance(getattr(first.source, name), Number)
    }
    spans = {layer.span_frames for layer in group}
    return Layer.model_construct(
        **{
            **_fields(first),
            "source": type(first.source).model_construct(**{**_fields(first.source), **numbers}),
            "axes": AxisBoard.model_construct(**axes),
            "weight": weight,
            "speed": between([layer.speed for layer in group], True),
            "span_frames": first.span_frames if len(spans) == 1 else None,
            "ramp_in_frames": 0.0,
            "ramp_out_frames": 0.0,
        }
    )


def _fields(doc: Doc) -> dict[str, Any]:
    return {name: getattr(doc, name) for name in type(doc).model_fields}

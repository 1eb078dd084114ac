"""Turn a blend into a plain clip: at one place, or with its course over time as keys.

A layer of a corner gets its share as weight; layers that a morph blends become one. What a replacing layer takes from
those under it is written into their weights, since as a plain layer it would take from all corners. A layer that loses
parts of only some of its axes is written as several.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np

from zittern.core.axes import AXES, Axis, axis_index, axis_info
from zittern.core.documents.doc import Doc
from zittern.core.edits.address import scope_of
from zittern.core.edits.blends import find_blend, of_no_corner, times
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import with_clip
from zittern.core.motion import blends, morph
from zittern.core.motion.facts import scope_at
from zittern.core.motion.memory import NEAR_LEAD_S
from zittern.core.motion.mixing import active
from zittern.core.numbers.approximation import approximated
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.envelope import ramp
from zittern.core.numbers.param import Number, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.shot.blends import Blend
from zittern.core.shot.clips import Clip
from zittern.core.shot.ids import counted_on, names_in
from zittern.core.shot.layers import MAX_WEIGHT, AxisSetting, Layer
from zittern.core.shot.reads import by_axis
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["BakeBlend", "FlattenBlend"]

# Weights below this are nothing.
_NOTHING = 1e-6
# Replacing layers that act on each layer of a group, by axis; axes with equal ones stay in one layer.
_Taken = tuple[tuple[str, ...], ...]


class BakeBlend(CommandDoc, label="Bake blend {clip}"):
    """Convert a blend to a plain clip at a frame: the layers at its position there, with their numbers."""

    clip: str
    frame: Frame

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the clip is no blend."""
        clip, blend, _ = find_blend(shot, self.clip, None)
        place = blends.place(blend, scope_of(shot, f"clip:{clip.id}", self.frame))[0] * 100.0
        still = blend.replace(across_percent=fixed(float(place[0])), up_percent=fixed(float(place[1])))
        return with_clip(shot, clip, _Flattening(shot, clip, still).plain())


class FlattenBlend(CommandDoc, label="Flatten blend {clip}"):
    """One plain clip that follows a blend over time: weights of layers and numbers between corners become keys."""

    clip: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when the clip is no blend, or takes more keys than a curve may have."""
        clip, blend, _ = find_blend(shot, self.clip, None)
        return with_clip(shot, clip, _Flattening(shot, clip, blend).plain())


@dataclass(frozen=True)
class _Flattening:
    """The layers of one blend as layers of a plain clip. blend: with the place that counts."""

    shot: Shot
    original: Clip
    blend: Blend

    @cached_property
    def clip(self) -> Clip:
        return self.original.replace(blend=self.blend, mute=False)

    @cached_property
    def counted(self) -> set[str]:
        """Ids of the layers that count while the clip is not muted."""
        return active(with_clip(self.shot, self.original, self.clip))

    @cached_property
    def span(self) -> tuple[float, float]:
        return float(self.shot.first_frame), float(self.shot.last_frame)

    @cached_property
    def reach(self) -> tuple[float, float]:
        """Frames that the keys cover.

        The shot, the clip's content from where its phases are counted, and the lead of springs and shutters.
        """
        start, end, _ = self.clip.extent_in(self.span)
        lead = NEAR_LEAD_S * self.shot.fps.value + 1.0
        return min(self.span[0] - lead, start, end), max(self.span[1] + 2.0, start + 1.0, end + 1.0)

    def plain(self) -> Clip:
        groups = {group[0].id: group for group in morph.groups(self.clip, self.counted)}
        partners = {layer.id for group in groups.values() for layer in group[1:]}
        units = [groups.get(layer.id, [layer]) for layer in self.clip.layers if layer.id not in partners]
        folded = self.folded_into_others(units)
        taken_ids = names_in(self.shot)
        layers: list[Layer] = []
        for unit in units:
            for layer in self.flat(unit, folded):
                free = layer.id if all(layer.id != each.id for each in layers) else counted_on(layer.id, taken_ids)
                taken_ids.add(free)
                layers.append(layer.replace(id=free))
        return self.original.replace(layers=of_no_corner(layers), blend=None)

    def folded_into_others(self, units: Sequence[Sequence[Layer]]) -> dict[str, Layer]:
        """Return replacing layers that would replace other layers when flattened.

        Those of a corner, and those between the layers of a morph.
        """
        place = {layer.id: n for n, layer in enumerate(self.clip.layers)}
        places = [[place[layer.id] for layer in unit] for unit in units]
        between = {n for each in places for n in range(min(each) + 1, max(each))}
        return {
            layer.id: layer
            for layer in self.clip.layers
            if layer.mode == "replace"
            and layer.id in self.counted
            and (layer.corner is not None or place[layer.id] in between)
        }

    def taken_by(self, layer: Layer, axis: Axis, folded: dict[str, Layer]) -> tuple[str, ...]:
        """Ids of the replacing layers above a layer that take from it on an axis."""
        if layer.id not in self.counted:
            return ()
        above = self.clip.layers[self.clip.layers.index(layer) + 1 :]
        return tuple(
            each.id
            for each in above
            if each.id in folded
            and each.target == layer.target
            and each.corner in (None, layer.corner)
            and axis in each.affected_axes
        )

    def flat(self, unit: Sequence[Layer], folded: dict[str, Layer]) -> Iterator[Layer]:
        """Yield the plain layers of one layer, or of several that a morph blends."""
        one = unit[0]
        if len(unit) > 1:
            clock = self.at(np.empty(0))
            one = morph.merged(self.clip, unit, (clock.span, clock.later_frames), self.shot.fps.value)
        varied = len(unit) > 1 and by_axis(one.source)
        parts: dict[tuple[_Taken, Axis | None], list[Axis]] = {}
        for axis in one.affected_axes:
            taken = tuple(self.taken_by(layer, axis, folded) for layer in unit)
            parts.setdefault((taken, axis if varied else None), []).append(axis)
        nothing_taken: tuple[_Taken, Axis | None] = (((),) * len(unit), None)
        for (taken, only), axes in (parts or {nothing_taken: []}).items():
            if len(unit) == 1:
                flat = self.weighted(one, taken[0], folded)
            else:
                flat = self.between(unit, one, taken, only, folded)
            if flat is not None:
                yield flat if len(parts) < 2 else flat.replace(axes=_only(flat, axes))

    def at(self, frames: Array, layer: Layer | None = None) -> Scope:
        """Return the scope of the clip, or of one of its layers."""
        return self.clip.clocked(scope_at(self.shot, frames), layer)

    def keyed(self, function: Callable[[Array], Array], breaks: Sequence[Array], most: float = np.inf) -> Number:
        return approximated(function, np.concatenate([np.empty(0), *breaks]), self.reach, (-np.inf, most))

    @cached_property
    def blend_breaks(self) -> list[Array]:
        half = 0.5 * blends.PACE_S * self.shot.fps.value
        numbers = (self.blend.across_percent, self.blend.up_percent)
        return [number.breaks + off for number in numbers for off in (-half, 0.0, half)]

    def left_by(self, ids: Sequence[str], folded: dict[str, Layer], frames: Array) -> Array:
        """Return the part of a layer that replacing layers leave. (F,)."""
        left = np.ones(len(frames))
        for each in (folded[name] for name in ids):
            weight = each.weight.sample(self.at(frames, each)) * ramp(frames, *each.ends, self.span)
            left = left * (1.0 - np.clip(weight, 0.0, 1.0))
        return left

    def breaks_of(self, layers: Sequence[Layer]) -> list[Array]:
        """Return the frames where weights or ramps of layers can break."""
        return [each for layer in layers for each in (layer.weight.breaks, _ramp_breaks(layer, self.span))]

    def weighted(self, layer: Layer, takers: Sequence[str], folded: dict[str, Layer]) -> Layer | None:
        """Return a layer with its share, and what others leave of it, as weight.

        None where that is nothing at all times.
        """
        mode = {"mode": "add"} if layer.id in folded else {}
        stands = blends.corner_weight(self.clip, layer)
        if stands is None and not takers:
            return layer.replace(**mode) if mode else layer

        def share(frames: Array) -> Array:
            own = np.ones(len(frames)) if stands is None else stands.weight(self.at(frames))
            return own * self.left_by(takers, folded, frames)

        breaks = [*self.blend_breaks, *self.breaks_of([folded[name] for name in takers])]
        factor = self.keyed(share, breaks)
        if factor.constant is not None:
            return (
                None
                if factor.constant <= _NOTHING
                else layer.replace(weight=times(layer.weight, factor.constant), **mode)
            )
        whole = factor
        if layer.weight.constant != 1.0:
            whole = self.keyed(
                lambda frames: share(frames) * layer.weight.sample(self.at(frames, layer)),
                [*breaks, layer.weight.breaks],
                MAX_WEIGHT,
            )
        return layer.replace(weight=whole, **mode)

    def between(
        self, unit: Sequence[Layer], one: Layer, taken: _Taken, axis: Axis | None, folded: dict[str, Layer]
    ) -> Layer:
        """Return the layer between several, with separate numbers.

        Fixed where the blend position is constant, else keyed. axis: the axis of its numbers, where they differ by
        axis.
        """
        which = morph.corners_of(self.blend, unit)
        alike = len({layer.ends for layer in unit}) == 1

        def weight(frames: Array) -> Array:
            at = self.at(frames)
            shares = morph.shares_among(self.blend, which, at)
            left = sum(shares[:, n] * self.left_by(names, folded, frames) for n, names in enumerate(taken))
            ends = [ramp(frames, *layer.ends, self.span) for layer in unit]
            ramped = 1.0 if alike else sum(shares[:, n] * each for n, each in enumerate(ends))
            size = morph.size_of(self.blend, which, at) * one.weight.sample(self.at(frames, one))
            return np.asarray(size * left * ramped)

        takers = [folded[name] for names in taken for name in names]
        breaks = [*self.blend_breaks, one.weight.breaks, *self.breaks_of([*takers, *(() if alike else unit)])]
        plain_ends = {} if alike else {"span_frames": None, "ramp_in_frames": 0.0, "ramp_out_frames": 0.0}
        index = 0 if axis is None else axis_index(axis) + 1
        return unit[0].replace(
            source=self.numbers_of(one.source, one, index),
            axes={each: self.setting_of(one, each) for each in AXES},
            speed=self.plain_number(one.speed, one, index),
            weight=self.keyed(weight, breaks, MAX_WEIGHT),
            **plain_ends,
        )

    def setting_of(self, one: Layer, axis: Axis) -> dict[str, Any]:
        setting = one.axes.of(axis)
        return self.numbers_of(setting, one, axis_index(axis) + 1, axis_info(axis).most_swing)

    def numbers_of(self, doc: Doc, one: Layer, index: int, most: float = np.inf) -> dict[str, Any]:
        fields = ((name, getattr(doc, name)) for name in type(doc).model_fields)
        plain = {
            name: self.plain_number(value, one, index, most if name == "swing" else np.inf)
            for name, value in fields
            if isinstance(value, Number)
        }
        return doc.model_copy(update=plain).model_dump()

    def plain_number(self, number: Number, one: Layer, index: int, most: float = np.inf) -> Number:
        """Return the number of an interpolated document. index: 1 + that of its axis, 0 for none."""
        if not isinstance(number, morph.Blended):
            return number

        def sample(frames: Array) -> Array:
            at = self.at(frames, one)
            return number.sample(at.on_axis(index - 1) if index else at)

        return (
            fixed(min(number.constant, most))
            if number.constant is not None
            else self.keyed(sample, [number.breaks], most)
        )


def _only(layer: Layer, axes: Sequence[Axis]) -> dict[str, AxisSetting]:
    """Return the axis settings of a layer with all other axes switched off."""
    return {
        axis: setting if axis in axes else setting.replace(on=False)
        for axis in AXES
        for setting in (layer.axes.of(axis),)
    }


def _ramp_breaks(layer: Layer, shot_span: tuple[float, float]) -> Array:
    first, last = layer.span_frames or shot_span
    return np.array([first, first + layer.ramp_in_frames, last - layer.ramp_out_frames, last, last + 1.0])

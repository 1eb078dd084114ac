"""Similar motions: the picture moves along a diagonal, or two layers double their swing."""

from __future__ import annotations

import re
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations

import numpy as np

from zittern.core.axes import AXIS_INFO, DIRECTIONS, Axis, axis_index
from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.formulas import FormulaText, SetFormula
from zittern.core.edits.layers import LinkAxes, NewSeeds
from zittern.core.edits.table import Command, apply
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.numbers.param import formula_of
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.sources.formulas import Formulas
from zittern.core.units import Array, BoolArray

__all__ = ["twins"]

# A correlation above this is visible as a line. Between layers there are many pairs, and chance has to be ruled out.
_ALIKE, _ALIKE_LAYERS = 0.8, 0.95
# Motion below this typical size (px) is invisible; shorter motion, or with fewer reversals, is not compared.
_LEAST_PX, _LEAST_FRAMES = 0.5, 36
_LEAST_TURNS, _LEAST_TURNS_LAYERS = 7, 12
# Parts of layers may be similar where the correlation over all frames is above this.
_POSSIBLE, _ROUNDING, _NOTHING = 0.15, 1e-6, 1e-12
# Only the largest layers are compared with each other.
_MOST_LAYERS = 64
# Layers of these sources keep in step on purpose, and are compared only where they are the same.
_IN_STEP = frozenset({"wave", "cycle", "breath", "gait"})
# Axes that move the picture across, and up or down.
_ACROSS, _UP = (frozenset(info.name for info in AXIS_INFO if info.moves[way]) for way in (0, 1))
_QUARTER_DEG = 90.0
# Time shifts (s) for a formula: the first one that makes the axes differ is used.
_SHIFTS_S = (3.7, 1.3, 0.41, 11.9, 0.17)
_TIME = re.compile(r"\bt\b")


@dataclass(frozen=True)
class _Shown:
    """Picture motion of a layer: right and up, (F,) px, and the frames in which it is active.

    The coupling of a lever is left out.
    """

    clip: Clip
    layer: Layer
    across: Array
    up: Array
    heard: BoolArray

    @property
    def size(self) -> float:
        return float(np.sqrt(np.mean(self.across**2 + self.up**2)))


def twins(study: Study) -> Iterator[Finding]:
    """Find up to one similarity per layer: right and up alike in it, or alike with an earlier layer.

    Linked axes have no weight.
    """
    shown = [
        _shown(study, clip, layer)
        for clip, layer in study.layers
        if layer.id in study.counted and not layer.source.impulsive
    ]
    shown = [each for each in shown if each.heard.sum() >= _LEAST_FRAMES]
    for each in shown:
        found = _twin_axes(study, each)
        if found is not None:
            yield found
    largest = {id(each) for each in sorted(shown, key=lambda each: -each.size)[:_MOST_LAYERS]}
    compared = [each for each in shown if id(each) in largest]
    possible = _possible(compared)
    found_before: set[str] = set()
    for (i, one), (k, other) in combinations(enumerate(compared), 2):
        skipped = other.layer.id in found_before or not possible[i, k]
        found = None if skipped else _twin_layers(study, one, other)
        if found is not None:
            found_before.add(other.layer.id)
            yield found


def _possible(shown: list[_Shown]) -> BoolArray:
    """Return pairs of layers that may be similar over all frames: exact for layers that are always active. (L, L)."""
    if not shown:
        return np.zeros((0, 0), dtype=bool)
    signals = np.stack([signal - np.mean(signal) for each in shown for signal in (each.across, each.up)])
    signals /= np.maximum(np.linalg.norm(signals, axis=1), _NOTHING)[:, None]
    count = len(shown)
    largest = np.abs(signals @ signals.T).reshape(count, 2, count, 2).max(axis=(1, 3))
    whole = np.array([bool(np.all(each.heard)) for each in shown])
    return np.asarray(largest > np.where(whole[:, None] & whole, _ALIKE_LAYERS - _ROUNDING, _POSSIBLE))


def _shown(study: Study, clip: Clip, layer: Layer) -> _Shown:
    moved = study.layer_px(layer.id)
    columns = [axis_index(axis) for axis in layer.moving_axes]
    across, up = (moved[:, columns] @ DIRECTIONS[columns]).T
    return _Shown(clip, layer, across, up, study.motion.weights[layer.id] > 0.0)


def _twin_axes(study: Study, shown: _Shown) -> Finding | None:
    layer, heard = shown.layer, shown.heard
    alike = _similarity(shown.across[heard], shown.up[heard], _LEAST_TURNS)
    if abs(alike) <= _ALIKE:
        return None
    one, other = _axes_of(study, layer, heard)
    linked = {one, other} & {name for name in (one, other) if layer.axes.of(name).linked_to is not None}
    return Finding(
        check="twins",
        weight=not linked,
        at=f"layer:{layer.id}",
        frames=stretch(study.frames, heard),
        amount=round(alike, 3),
        unit="",
        px=_typical(shown.across[heard]),
        says=f"{_name(one)} and {_name(other)} of “{layer.name}” move alike (correlation {alike:.2f}): along a "
        f"diagonal",
        fix=_decorrelating_fix(study, layer, one, other, bool(linked)),
    )


def _axes_of(study: Study, layer: Layer, heard: BoolArray) -> tuple[Axis, Axis]:
    """Return the axes that move the picture most across and up."""
    moved = study.layer_px(layer.id)[heard]
    across, up = (
        max(
            (axis for axis in layer.moving_axes if axis in way),
            key=lambda axis: float(np.std(moved[:, axis_index(axis)])),
        )
        for way in (_ACROSS, _UP)
    )
    return across, up


def _twin_layers(study: Study, one: _Shown, other: _Shown) -> Finding | None:
    a, b = one.layer, other.layer
    if a.corner is not None and b.corner is not None and one.clip is other.clip:
        return None
    same = a.source == b.source and a.seed == b.seed and bool(set(a.moving_axes) & set(b.moving_axes))
    if not same and {a.source.kind, b.source.kind} & _IN_STEP:
        return None
    both = one.heard & other.heard
    if both.sum() < _LEAST_FRAMES:
        return None
    (one_across, one_up), (other_across, other_up) = ((each.across[both], each.up[both]) for each in (one, other))
    doubled = max(_similarity(x, y, _LEAST_TURNS_LAYERS) for x, y in ((one_across, other_across), (one_up, other_up)))
    crossed = max(
        (_similarity(x, y, _LEAST_TURNS_LAYERS) for x, y in ((one_across, other_up), (one_up, other_across))), key=abs
    )
    doubles = doubled > _ALIKE_LAYERS
    alike = doubled if doubles else crossed
    if abs(alike) <= _ALIKE_LAYERS:
        return None
    what = "together they double the swing" if doubles else "together they move along a diagonal"
    return Finding(
        check="twins",
        weight=True,
        at=f"layer:{b.id}",
        frames=stretch(study.frames, both),
        amount=round(alike, 3),
        unit="",
        px=_typical(np.hypot(other_across, other_up)),
        says=f"“{a.name}” and “{b.name}” move alike (correlation {alike:.2f}): {what}",
        fix=_parted(study, one, other, both),
    )


def _parted(study: Study, one: _Shown, other: _Shown, both: BoolArray) -> Fix | None:
    """Return the first change of the later layer that makes two layers differ."""
    layer = other.layer
    changes: list[tuple[str, Command]] = [(f"a new seed for “{layer.name}”", NewSeeds(layers=(layer.id,)))]
    changes += (change for axis in layer.moving_axes for change in _shifted(layer, axis))
    for says, command in changes:
        after = _after(study, command, layer)
        if _similarity_after(one, after, both) < _ALIKE:
            return Fix(says=says, command=command)
    return None


def _after(study: Study, command: Command, layer: Layer) -> _Shown:
    """Return a layer after a change."""
    changed = Study(apply(study.shot, command), study.cache)
    clip, after = next((clip, each) for clip, each in changed.layers if each.id == layer.id)
    return _shown(changed, clip, after)


def _similarity_after(one: _Shown, other: _Shown, both: BoolArray) -> float:
    return max(abs(correlation(x[both], y[both])) for x in (one.across, one.up) for y in (other.across, other.up))


def _decorrelating_fix(study: Study, layer: Layer, one: Axis, other: Axis, linked: bool) -> Fix | None:
    """Return the first change that makes the axes differ."""
    for says, command in _changes(layer, one, other, linked):
        shown = _after(study, command, layer)
        if abs(correlation(shown.across[shown.heard], shown.up[shown.heard])) < _ALIKE:
            return Fix(says=says, command=command)
    return None


def _changes(layer: Layer, one: Axis, other: Axis, linked: bool) -> Iterator[tuple[str, Command]]:
    if linked:
        yield f"let {_name(other)} move on its own", LinkAxes(layer=layer.id, axes=(other, one), to=None)
    if hasattr(layer.source, "phase_deg"):
        at, first = f"layer:{layer.id}.source.phase_deg", getattr(layer.source.phase_deg, one).constant
        if first is not None:
            turned = Assignment(at=f"{at}.{other}", value=(first + _QUARTER_DEG) % 360.0)
            yield f"{_name(other)} a quarter of a cycle later: a circle", SetValues(values=(turned,))
    yield from _shifted(layer, other)
    yield f"a new seed for {_name(other)}", NewSeeds(layers=(layer.id,), axes=(other,))


def _shifted(layer: Layer, axis: Axis) -> Iterator[tuple[str, Command]]:
    """Return the formula of an axis, ahead in time."""
    formula = formula_of(getattr(layer.source.tracks, axis)) if isinstance(layer.source, Formulas) else None
    if formula is None or not _TIME.search(formula.text):
        return
    for seconds in _SHIFTS_S:
        text = FormulaText(
            at=f"layer:{layer.id}.source.tracks.{axis}", text=_TIME.sub(f"(t + {seconds:g})", formula.text)
        )
        yield f"the formula of {_name(axis)} {seconds:g} s ahead", SetFormula(formulas=(text,))


def _name(axis: Axis) -> str:
    return axis.replace("_", " ")


def _typical(values: Array) -> float:
    return float(np.sqrt(np.mean(np.square(values))))


def _similarity(one: Array, other: Array, least_turns: int) -> float:
    """Return the correlation of two motions (F,); 0 where one is too small or reverses too rarely to decide."""
    if min(np.std(one), np.std(other)) < _LEAST_PX or min(_turns(one), _turns(other)) < least_turns:
        return 0.0
    return correlation(one, other)


def _turns(values: Array) -> int:
    """Return the number of times that a motion (F,) goes through its mean."""
    return int(np.sum(np.diff(np.sign(values - np.mean(values))) != 0.0))


def correlation(one: Array, other: Array) -> float:
    """Return Pearson's correlation.

    Parameters
    ----------
    one : (F,) float64, values of one signal.
    other : (F,) float64, values of the other.

    Returns
    -------
    -1 to 1; 0 where one of them stands still.
    """
    if np.std(one) == 0.0 or np.std(other) == 0.0:
        return 0.0
    return float(np.corrcoef(one, other)[0, 1])

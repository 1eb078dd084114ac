"""Stage: layers. Reads the shot's layers, their clips' spans and speeds, the focal length where a layer is steady on screen, and the facts
of the path where a source asks for them; gives each layer's offsets of full weight, (F, 7) in AXES order, degrees / cm / %.
"""

from __future__ import annotations

import numpy as np

from zittern.core import streams
from zittern.core.axes import AXES, AXIS_INFO, Axis, axis_index
from zittern.core.motion import move
from zittern.core.motion.run import Run
from zittern.core.numbers.param import Number
from zittern.core.numbers.scope import Scope
from zittern.core.phase import integrate, phase_table
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.sources.source import CUES, NO_MOMENTS, Inputs
from zittern.core.units import Array

__all__ = ["inputs_of", "moving_axes", "offsets"]

# So far outside the shot phases are still known frame by frame, for spans that begin before it or end after it.
_LEAD_FRAMES = 10_000.0
_MOST_SWING = {info.name: info.most_swing for info in AXIS_INFO}


def moving_axes(layer: Layer) -> tuple[Axis, ...]:
    """The axes a layer moves at all."""
    if layer.source.absolute:
        return tuple(axis for axis in layer.source.axes() if layer.axes.of(axis).on)
    return tuple(axis for axis in AXES if layer.axes.of(axis).moves)


def offsets(run: Run, clip: Clip, layer: Layer) -> Array:
    """swing / 2 x source, before weight. (F, 7)."""
    axes = moving_axes(layer)
    out = np.zeros((len(run.frames), len(AXES)))
    if not axes:
        return out
    columns = [axis_index(axis) for axis in axes]
    scope = run.scope.through(run.span_of(layer, clip))
    if layer.source.absolute:
        out[:, columns] = _unit(run, clip, layer, axes)
        return out
    swings = np.stack([np.minimum(layer.axes.of(axis).swing.sample(scope), _MOST_SWING[axis]) for axis in axes], axis=1)
    out[:, columns] = 0.5 * swings * _unit(run, clip, layer, axes)
    if layer.steady:
        focal = run.shot.focal_mm
        out[:, :3] *= (focal.at(run.scope.over(np.array(run.span[:1]))) / focal.sample(run.scope))[:, None]
    return out


def _unit(run: Run, clip: Clip, layer: Layer, axes: tuple[Axis, ...]) -> Array:
    """The source's motion of unit RMS on some axes. (F, A)."""
    settings = [layer.axes.of(lead) for lead in _leads(layer, axes)]
    _, last = clip.span_frames or run.span
    span = run.span_of(layer, clip)
    numbers = (layer.source, *(s.pace for s in settings), layer.speed, clip.speed)
    made_from = (
        _start_frame(run, clip),
        last,
        layer.name if CUES in layer.source.reads else "",
        layer.seed,
        _seeds(layer, axes).tobytes(),
        axes,
        *(run.key_in(each, span) for each in numbers),
    )
    return run.kept("unit", made_from, lambda: np.ascontiguousarray(layer.source.motion(inputs_of(run, clip, layer, axes))))


def inputs_of(run: Run, clip: Clip, layer: Layer, axes: tuple[Axis, ...]) -> Inputs:
    """What the source of a layer may depend on, for some axes."""
    leads = _leads(layer, axes)
    settings = [layer.axes.of(lead) for lead in leads]
    start, (_, last) = _start_frame(run, clip), clip.span_frames or run.span
    scope = run.scope.through(run.span_of(layer, clip))
    speeds = (layer.speed, clip.speed)

    def phase_at(scope: Scope, rate: Number) -> Array:
        paces = {s.pace.fingerprint: _phase(run, scope, (rate, s.pace, *speeds), start, last) for s in settings}
        return np.stack([paces[s.pace.fingerprint] for s in settings], axis=1)

    end = scope.over(np.array([last + 1.0]))
    moments = move.moments(run) if CUES in layer.source.reads else NO_MOMENTS
    return Inputs(
        scope, leads, _seeds(layer, axes), streams.mix(layer.seed), lambda rate: phase_at(scope, rate), lambda rate: phase_at(end, rate)[0],
        lambda rate, frames: phase_at(scope.over(frames), rate),
        lambda rate, frames: _phase(run, scope.over(frames), (rate, *speeds), start, last), start, layer.name, moments,
    )  # fmt: skip


def _leads(layer: Layer, axes: tuple[Axis, ...]) -> tuple[Axis, ...]:
    """The axes whose motion these have: themselves, or what they are linked to."""
    return tuple(layer.axes.of(axis).linked_to or axis for axis in axes)


def _seeds(layer: Layer, axes: tuple[Axis, ...]) -> streams.Seeds:
    leads = _leads(layer, axes)
    return np.array([streams.mix(layer.seed, axis_index(lead), layer.axes.of(lead).seed) for lead in leads], dtype=np.uint64)


def _start_frame(run: Run, clip: Clip) -> float:
    """Where a clip's phases begin."""
    start, _ = clip.span_frames or run.span
    return start if clip.origin_frame is None else clip.origin_frame


def _phase(run: Run, scope: Scope, factors: tuple[Number, ...], start: float, last: float) -> Array:
    """Cycles from a start to each frame of a scope. (F,). The table behind it serves all parts of a shot: its work is done once."""
    if all(factor.constant is not None for factor in factors):
        return integrate(factors, scope, start)
    reach = (min(run.span[0], max(start, run.span[0] - _LEAD_FRAMES)), max(run.span[1], min(last, run.span[1] + _LEAD_FRAMES)) + 1.0)
    key = ("phase", reach, start, *(run.key_in(factor, scope.span) for factor in factors))
    return integrate(factors, scope, start, run.tables.get(key, lambda: phase_table(factors, scope, start, reach)))

"""Stage: layers.

Reads the shot's layers, their clips' clocks and speeds, the focal length where a layer is steady on screen, and the
path attributes where a source asks for them; gives each layer's offsets of full weight, (F, A), degrees /
cm / %.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from zittern.core.axes import AXES, ROTATIONS, TRANSLATIONS, Axis, axis_index, axis_info
from zittern.core.documents.doc import Doc
from zittern.core.motion import facts
from zittern.core.motion.evaluation import Evaluation, Part, Read
from zittern.core.motion.lens import focal_parts
from zittern.core.noise import streams
from zittern.core.numbers.param import Number
from zittern.core.numbers.phase import integrate, phase_table
from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer, Span
from zittern.core.shot.reads import looks_at_frames_only
from zittern.core.sources.source import CUES, NO_MOMENTS, Inputs
from zittern.core.units import CM_PER_M, Array

__all__ = ["add_lever", "as_read", "clip_scope", "inputs_of", "layer_parts", "layer_scope", "offsets"]

# Range outside the shot in which phases are computed at every frame, for spans that start before it or end after it.
_LEAD_FRAMES = 10_000.0


def clip_scope(run: Evaluation, clip: Clip) -> Scope:
    """Return the scope of a clip's numbers."""
    return run.once("scope", clip, lambda: clip.clocked(run.scope))


def layer_scope(run: Evaluation, clip: Clip, layer: Layer) -> Scope:
    """Return the scope of a layer's numbers."""
    return run.once("scope", layer, lambda: clip.clocked(run.scope, layer))


def as_read(run: Evaluation, clip: Clip, layer: Layer, doc: Doc) -> Part:
    """Return a document of a layer as part of what an array is computed from.

    Read through the layer's scope where it looks at more than frames.
    """
    return doc if looks_at_frames_only(doc) else Read(doc, layer_scope(run, clip, layer))


def offsets(run: Evaluation, clip: Clip, layer: Layer) -> Array:
    """Swing / 2 x source, before weight.

    Returns
    -------
    (F, A), each axis' own samples side by side in memory: most layers move few axes, and what is done to them is done
    axis by axis.
    """
    axes = layer.moving_axes
    by_axis = np.zeros((len(AXES), len(run.frames)))
    if not axes:
        return by_axis.T
    unit = _unit(run, clip, layer, axes)
    swings = None if layer.source.absolute else _swing_values(layer, axes, layer_scope(run, clip, layer))
    fixed = swings is not None and all(isinstance(swing, float) for swing in swings)
    for row, axis in enumerate(axes):
        here = by_axis[axis_index(axis)]
        if swings is None:
            here[:] = unit[row]
        else:
            np.multiply(0.5 * swings[row] if fixed else swings[row], unit[row], out=here)
    if swings is not None and not fixed:
        by_axis *= 0.5
    if layer.steady:
        reference = run.shot.lens_mm(run.scope.over(np.array(run.span[:1])))
        turned = len(ROTATIONS) if layer.steady_roll else len(ROTATIONS) - 1
        by_axis[:turned] *= reference / run.shot.lens_mm(run.scope)
    return by_axis.T


def add_lever(layer: Layer, values: Array) -> None:
    """Add to a layer's translations what its rotations move the lens by.

    P - R(θ) p, with the pivot p behind and below the lens.

    Parameters
    ----------
    layer: whose lever it is.
    values: (F, A) its offsets after weight, changed in place; degrees, centimeters, percent.
    """
    if layer.affected_axes == layer.moving_axes:
        return
    behind, below = layer.lever_m
    pivot = np.array([0.0, -below, behind])
    moved_m = pivot - rotations.matrices(values[:, :3]) @ pivot
    first = axis_index(TRANSLATIONS[0])
    # Right, up and forward: the camera looks along -z.
    values[:, first : first + 3] += CM_PER_M * moved_m * (1.0, 1.0, -1.0)


def layer_parts(run: Evaluation, clip: Clip, layer: Layer) -> tuple[Part, ...]:
    """Return the inputs of a layer's offsets."""
    lens = focal_parts(run.shot) if layer.steady else ()
    name = layer.name if layer.source.reads_name else ""
    speed = () if looks_at_frames_only(clip.speed) else (Read(clip.speed, layer_scope(run, clip, layer)),)
    return as_read(run, clip, layer, layer), name, _clock(run, clip), *speed, *lens


def _clock(run: Evaluation, clip: Clip) -> Part:
    """Return the inputs of the time of all layers of a clip; its speed where that depends on frames only."""
    return run.printed(
        "clock",
        clip,
        lambda: (
            *clip.extent_in(run.span),
            clip.backwards,
            clip.speed if looks_at_frames_only(clip.speed) else "",
        ),
    )


def _swing_values(layer: Layer, axes: tuple[Axis, ...], scope: Scope) -> list[Array | float]:
    """Swings of some axes, each (F,), or one number for all frames where it is fixed."""
    out: list[Array | float] = []
    for axis in axes:
        swing, most = layer.axes.of(axis).swing, axis_info(axis).most_swing
        if swing.constant is not None:
            out.append(min(swing.constant, most))
        else:
            values = swing.sample(_on_axis(scope, axis, swing))
            out.append(np.minimum(values, most, out=values) if swing.maximum > most else values)
    return out


def _on_axis(scope: Scope, axis: Axis, *numbers: Number) -> Scope:
    """Return the scope of an axis, where one of some numbers differs by it."""
    for number in numbers:
        if number.by_axis:
            return scope.on_axis(axis_index(axis))
    return scope


def _unit(run: Evaluation, clip: Clip, layer: Layer, axes: tuple[Axis, ...]) -> Array:
    """Return the source's motion of unit RMS on some axes. (A, F)."""
    leads = _leads(layer, axes)
    parts: list[Part] = [as_read(run, clip, layer, each) for each in (layer.source, layer.speed, clip.speed)]
    parts += [_pace_as_read(run, clip, layer, lead) for lead in leads]
    parts += [
        (*clip.extent_in(run.span), clip.backwards),
        layer.seed,
        layer.phase_offset,
        _seeds(layer, axes).tobytes(),
        leads,
        layer.name if layer.source.reads_name else "",
    ]
    return run.memoized(
        "unit", parts, lambda: np.ascontiguousarray(layer.source.motion(inputs_of(run, clip, layer, axes)).T)
    )


def _pace_as_read(run: Evaluation, clip: Clip, layer: Layer, lead: Axis) -> Part:
    pace = layer.axes.of(lead).pace
    if looks_at_frames_only(pace):
        return pace
    return Read(pace, _on_axis(layer_scope(run, clip, layer), lead, pace))


def inputs_of(run: Evaluation, clip: Clip, layer: Layer, axes: tuple[Axis, ...]) -> Inputs:
    """Return the inputs of the source of a layer, for some axes."""
    leads = _leads(layer, axes)
    paces = [layer.axes.of(lead).pace for lead in leads]
    start, last, _ = clip.extent_in(run.span)
    # Phases of what runs back are counted from its late end, to the frame before its early one.
    back = clip.backwards and layer.source.runs_back
    sign, origin, end_frame = (-1.0, last, start - 1.0) if back else (1.0, start, last + 1.0)
    scope = layer_scope(run, clip, layer)
    speeds = (layer.speed, clip.speed)

    def offset_of(rate: Number) -> float:
        counts = layer.phase_offset and layer.source.counted == rate
        return layer.phase_offset if counts else 0.0

    def phase_at(scope: Scope, rate: Number, offset: float) -> Array:
        known: dict[tuple[str, int], Array] = {}
        columns = []
        for lead, pace in zip(leads, paces, strict=True):
            of_axis = _on_axis(scope, lead, rate, pace)
            key = (pace.motion_key, of_axis.axis)
            if key not in known:
                begun = offset * (1.0 if pace.constant is None else pace.constant)
                known[key] = sign * _phase(run, of_axis, (rate, pace, *speeds), origin, (start, last)) + begun
            columns.append(known[key])
        if len(known) == 1:
            return np.broadcast_to(columns[0][:, None], (len(columns[0]), len(columns)))
        return np.stack(columns, axis=1)

    def pace_at(frames: Array) -> Array:
        at = scope.over(frames)
        common = layer.speed.sample(at) * clip.speed.sample(at)
        return np.stack(
            [common * pace.sample(_on_axis(at, lead, pace)) for lead, pace in zip(leads, paces, strict=True)], axis=1
        )

    end = scope.over(np.array([end_frame]))
    return Inputs(
        scope=scope,
        axes=leads,
        seeds=_seeds(layer, axes),
        shared_seed=streams.mix(layer.seed),
        phase=lambda rate: phase_at(scope, rate, offset_of(rate)),
        total_phase=lambda rate: phase_at(end, rate, 0.0)[0],
        phase_at=lambda rate, frames: phase_at(scope.over(frames), rate, offset_of(rate)),
        beat_at=lambda rate, frames: (
            sign * _phase(run, scope.over(frames), (rate, *speeds), origin, (start, last)) + offset_of(rate)
        ),
        pace_at=pace_at,
        start_frame=origin,
        name=layer.name if layer.source.reads_name else "",
        moments=facts.moments(run) if CUES in layer.source.reads else NO_MOMENTS,
    )


def _leads(layer: Layer, axes: Sequence[Axis]) -> tuple[Axis, ...]:
    """Return the axes with the same motion: themselves, or their link targets."""
    return tuple(layer.axes.of(axis).linked_to or axis for axis in axes)


def _seeds(layer: Layer, axes: tuple[Axis, ...]) -> streams.Seeds:
    leads = _leads(layer, axes)
    return np.array(
        [streams.mix(layer.seed, axis_index(lead), layer.axes.of(lead).seed) for lead in leads], dtype=np.uint64
    )


def _phase(run: Evaluation, scope: Scope, factors: tuple[Number, ...], origin: float, extent: Span) -> Array:
    """Cycles from an origin to each frame of a scope.

    (F,). extent: of the clip's content. The table behind it serves all parts of a shot: its work is done once.
    """
    if all(factor.constant is not None for factor in factors):
        return integrate(factors, scope, origin)
    start, last = extent
    reach = (
        min(run.span[0], max(start - 1.0, run.span[0] - _LEAD_FRAMES)),
        max(run.span[1], min(last, run.span[1] + _LEAD_FRAMES)) + 1.0,
    )
    parts = (reach, origin, *(Read(factor, scope) for factor in factors))
    return integrate(
        factors, scope, origin, run.table("phase", parts, lambda: phase_table(factors, scope, origin, reach))
    )

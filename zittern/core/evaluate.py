"""THE CENTRE: a shot and frames give Motion.

Mounts give the bare pose; layers give offsets that add in axis space at their mount or at the lens; the lens gives focal
length. Whole arrays over time; each layer depends on nothing but itself, its clip, the frame rate and the frames, so that
only what changed is computed again.
"""

from __future__ import annotations

import hashlib
import threading
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from cachetools import LRUCache

from zittern.core.axes import AXES, Axis, axis_index
from zittern.core.envelope import ramp
from zittern.core.lens import LEAST_FOCAL_MM
from zittern.core.params import Fixed, Keyed
from zittern.core.phase import integrate, phase_table
from zittern.core.rig import chain
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot
from zittern.core.sources import streams
from zittern.core.sources.source import Inputs
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

__all__ = ["Cache", "Motion", "Pose", "audible", "evaluate", "evaluate_in_parts", "joined", "moving_axes"]


@dataclass(frozen=True, slots=True)
class Pose:
    """World pose of the lens. position_m (F, 3); angles_deg (F, 3) pan, tilt, roll, continuous; focal_mm (F,)."""

    position_m: Array
    angles_deg: Array
    focal_mm: Array


@dataclass(frozen=True, slots=True)
class Motion:
    """What a shot does at some frames.

    frames (F,). pose: with the layers that count. bare: the move alone. layers: contributions of the layers that count,
    (F, 7) in AXES order, degrees / cm / %, after weight, ramps and clip. silent: what muted layers would give. weights:
    each layer's own weight with its ramps and its clip's, (F,). offsets:
    sums of `layers` by mount id, or chain.LENS.
    """

    frames: Array
    pose: Pose
    bare: Pose
    layers: dict[str, Array]
    silent: dict[str, Array]
    weights: dict[str, Array]
    offsets: dict[str, Array]

    @property
    def total(self) -> Array:
        """Sum of all contributions. (F, 7)."""
        out: Array = np.zeros((len(self.frames), len(AXES)))
        for values in self.layers.values():
            out += values
        return out


# So far outside the shot phases are still known frame by frame, for spans that begin before it or end after it.
_LEAD_FRAMES = 10_000.0
# Enough for what the parts of one evaluation share: tables of phases.
_PARTS_BYTES = 32 * 2**20


class Cache:
    """Arrays of earlier evaluations by what they depend on; the least recently used go first.

    Several evaluations may share one: nothing is locked while an array is made, at worst two make the same.
    """

    def __init__(self, most_bytes: int = 96 * 2**20) -> None:
        self._kept: LRUCache[tuple[Any, ...], Array] = LRUCache(most_bytes, getsizeof=lambda array: array.nbytes)
        self._lock = threading.Lock()

    @property
    def bytes(self) -> int:
        """What is kept just now."""
        return int(self._kept.currsize)

    def get(self, key: tuple[Any, ...], make: Callable[[], Array]) -> Array:
        """The array for a key, made when missing; read-only."""
        with self._lock:
            found = self._kept.get(key)
        if found is not None:
            return found
        made = make()
        made.flags.writeable = False
        with self._lock:
            if made.nbytes <= self._kept.maxsize:
                return self._kept.setdefault(key, made)
        return made


def evaluate(shot: Shot, frames: Array | None = None, cache: Cache | None = None) -> Motion:
    """The motion of a shot at frames (F,), fractional ones too; all whole frames when left out.

    The same rows come out whatever other frames are asked for, with or without a cache.
    """
    frames = frame_grid(shot.first_frame, shot.last_frame) if frames is None else np.asarray(frames, dtype=np.float64)
    run = _Run(shot, frames, cache if cache is not None else Cache())
    layers, silent = run.contributions()
    offsets: dict[str, Array] = {}
    for _, layer in shot.layers():
        if layer.id in layers:
            target = layer.target or chain.LENS
            offsets[target] = offsets[target] + layers[layer.id] if target in offsets else layers[layer.id]
    return Motion(frames, run.pose(offsets), run.bare(), layers, silent, run.weights(), offsets)


def evaluate_in_parts(shot: Shot, frames: Array, part_frames: int = 2000) -> Iterator[Motion]:
    """The same motion in pieces of a few frames, so that long work can show progress, be stopped, and needs little memory."""
    cache = Cache(_PARTS_BYTES)
    for start in range(0, max(len(frames), 1), part_frames):
        yield evaluate(shot, frames[start : start + part_frames], cache)


def joined(parts: Sequence[Motion]) -> Motion:
    """Pieces put together again, at least one."""

    def pose(which: str) -> Pose:
        poses: list[Pose] = [getattr(part, which) for part in parts]
        return Pose(*(np.concatenate([getattr(each, field) for each in poses]) for field in ("position_m", "angles_deg", "focal_mm")))

    def table(which: str) -> dict[str, Array]:
        first: dict[str, Array] = getattr(parts[0], which)
        return {name: np.concatenate([getattr(part, which)[name] for part in parts]) for name in first}

    frames = np.concatenate([part.frames for part in parts])
    return Motion(frames, pose("pose"), pose("bare"), table("layers"), table("silent"), table("weights"), table("offsets"))


def audible(shot: Shot) -> set[str]:
    """Ids of the layers that count: not muted, their clip not muted, and soloed if any layer is."""
    soloed = any(layer.solo for _, layer in shot.layers())
    return {layer.id for clip, layer in shot.layers() if not (clip.mute or layer.mute or (soloed and not layer.solo))}


class _Run:
    """One evaluation: a shot, frames and a cache."""

    def __init__(self, shot: Shot, frames: Array, cache: Cache) -> None:
        self.shot = shot
        self.frames = frames
        self.cache = cache
        self.span = (float(shot.first_frame), float(shot.last_frame))
        grid = hashlib.blake2b(frames.tobytes(), digest_size=12).hexdigest()
        self.base = (grid, shot.fps.num, shot.fps.den, *self.span)

    def locals(self) -> dict[str, Array]:
        return {m.id: self.cache.get(("mount", self.base, m.fingerprint), lambda m=m: chain.local_pose(m, self.frames)) for m in self.shot.mounts}  # type: ignore[misc]

    def focal(self) -> Array:
        return self.cache.get(("focal", self.base, self.shot.focal_mm.fingerprint), lambda: self.shot.focal_mm.sample(self.frames))

    def bare(self) -> Pose:
        key = ("bare", self.base, *(mount.fingerprint for mount in self.shot.mounts))
        packed = self.cache.get(key, lambda: self._packed({}))
        return Pose(packed[:, :3], packed[:, 3:], self.focal())

    def pose(self, offsets: dict[str, Array]) -> Pose:
        if not offsets:
            return self.bare()
        packed = self._packed(offsets)
        zoom = sum((offset[:, axis_index("zoom")] for offset in offsets.values()), np.zeros(len(self.frames)))
        return Pose(packed[:, :3], packed[:, 3:], np.maximum(self.focal() * (1.0 + zoom / 100.0), LEAST_FOCAL_MM))

    def _packed(self, offsets: dict[str, Array]) -> Array:
        """(F, 6): position and angles of the lens in the world."""
        pose = chain.lens_pose(self.shot.mounts, self.locals(), offsets)
        return np.concatenate([pose[:, :3, 3], chain.world_angles(self.shot.mounts, pose, offsets, self.frames)], axis=1)

    def contributions(self) -> tuple[dict[str, Array], dict[str, Array]]:
        """Of the layers that count, and of those that do not."""
        counted = audible(self.shot)
        out: dict[str, Array] = {}
        silent: dict[str, Array] = {}
        for clip in self.shot.clips:
            mine: dict[str, tuple[Layer, Array]] = {}
            for layer in clip.layers:
                if layer.id not in counted:
                    silent[layer.id] = self._weighted(clip, layer)
                    continue
                if layer.mode == "replace":
                    _make_way(mine, layer, np.clip(self._envelope(layer, layer.weight), 0.0, 1.0))
                mine[layer.id] = layer, self._weighted(clip, layer)
            out.update((id_, values) for id_, (_, values) in mine.items())
        return out, silent

    def _envelope(self, part: Clip | Layer, weight: Fixed | Keyed) -> Array:
        ramped = ramp(self.frames, part.span_frames, part.ramp_in_frames, part.ramp_out_frames, part.ramp_shape, self.span)
        return ramped * weight.sample(self.frames)

    def weights(self) -> dict[str, Array]:
        """Weight with ramps of each layer, its clip's amount and ramps included."""
        return {layer.id: self._weight(clip, layer) for clip, layer in self.shot.layers()}

    def _weight(self, clip: Clip, layer: Layer) -> Array:
        key = ("weight", self.base, *_when(layer), layer.weight.fingerprint, *_when(clip), clip.amount.fingerprint)
        return self.cache.get(key, lambda: self._envelope(layer, layer.weight) * self._envelope(clip, clip.amount))

    def _weighted(self, clip: Clip, layer: Layer) -> Array:
        """A layer's contribution before others replace it. (F, 7)."""
        outer = (*_when(clip), clip.amount.fingerprint, clip.speed.fingerprint)
        lens = self.shot.focal_mm.fingerprint if layer.steady else ""

        def make() -> Array:
            return self._shaken(clip, layer) * self._weight(clip, layer)[:, None]

        return self.cache.get(("layer", self.base, outer, lens, layer.fingerprint), make)

    def _shaken(self, clip: Clip, layer: Layer) -> Array:
        """swing / 2 x source, before weight. (F, 7)."""
        axes = moving_axes(layer)
        out = np.zeros((len(self.frames), len(AXES)))
        if not axes:
            return out
        columns = [axis_index(axis) for axis in axes]
        if layer.source.absolute:
            out[:, columns] = self._unit(clip, layer, axes)
            return out
        half = np.stack([0.5 * layer.axes.of(axis).swing.sample(self.frames) for axis in axes], axis=1)
        out[:, columns] = half * self._unit(clip, layer, axes)
        if layer.steady:
            reference = float(self.shot.focal_mm.sample(np.array([self.span[0]]))[0])
            out[:, :3] *= (reference / self.focal())[:, None]
        return out

    def _unit(self, clip: Clip, layer: Layer, axes: tuple[Axis, ...]) -> Array:
        """The source's motion of unit RMS on some axes. (F, A)."""
        leads = [layer.axes.of(axis).linked_to or axis for axis in axes]
        settings = [layer.axes.of(lead) for lead in leads]
        seeds = np.array([streams.mix(layer.seed, axis_index(lead), s.seed) for lead, s in zip(leads, settings, strict=True)], dtype=np.uint64)
        start, last = clip.span_frames or self.span
        speeds = (layer.speed, clip.speed)

        def phase_at(frames: Array, rate: Fixed | Keyed) -> Array:
            paces = {s.pace.fingerprint: self._phase((rate, s.pace, *speeds), frames, start, last) for s in settings}
            return np.stack([paces[s.pace.fingerprint] for s in settings], axis=1)

        def make() -> Array:
            end = np.array([last + 1.0])
            inputs = Inputs(
                self.frames, tuple(leads), seeds, streams.mix(layer.seed), lambda rate: phase_at(self.frames, rate), lambda rate: phase_at(end, rate)[0]
            )
            return np.ascontiguousarray(layer.source.motion(inputs))

        key = (
            "unit",
            self.base,
            start,
            last,
            layer.source.fingerprint,
            layer.seed,
            seeds.tobytes(),
            axes,
            *(s.pace.fingerprint for s in settings),
            *(s.fingerprint for s in speeds),
        )
        return self.cache.get(key, make)

    def _phase(self, factors: tuple[Fixed | Keyed, ...], frames: Array, start: float, last: float) -> Array:
        """Cycles from a start to each frame. (F,). The table behind it serves all parts of a shot: its work is done once."""
        if all(factor.constant is not None for factor in factors):
            return integrate(factors, frames, start, self.shot.fps)
        reach = (min(self.span[0], max(start, self.span[0] - _LEAD_FRAMES)), max(self.span[1], min(last, self.span[1] + _LEAD_FRAMES)) + 1.0)
        key = ("phase", reach, start, *(factor.fingerprint for factor in factors))
        return integrate(factors, frames, start, self.shot.fps, self.cache.get(key, lambda: phase_table(factors, start, reach)))


def _when(part: Clip | Layer) -> tuple[object, ...]:
    """What the ramps of a part depend on."""
    return part.span_frames, part.ramp_in_frames, part.ramp_out_frames, part.ramp_shape


def moving_axes(layer: Layer) -> tuple[Axis, ...]:
    """The axes a layer moves at all."""
    if layer.source.absolute:
        return tuple(axis for axis in layer.source.axes() if layer.axes.of(axis).on)
    return tuple(axis for axis in AXES if layer.axes.of(axis).moves)


def _make_way(below: dict[str, tuple[Layer, Array]], layer: Layer, weight: Array) -> None:
    """Lets a replacing layer push back those under it, on the axes it moves and where it acts, by its weight."""
    columns = [axis_index(axis) for axis in moving_axes(layer)]
    for id_, (other, values) in below.items():
        if other.target == layer.target:
            left = values.copy()
            left[:, columns] *= (1.0 - weight)[:, None]
            below[id_] = other, left

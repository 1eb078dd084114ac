"""The ways that mounts in springs are carried along, on the grid of the stages with memory, stretch by stretch.

What carries a mount may jump: at hold keys, where spans start and end. Such a way is taken apart into one that is
continuous, which is followed on the grid, and the jumps, which are answered in closed form.

A long shot is evaluated in fixed stretches of the grid, in order. The state that one passes to the
next is small and kept; so a look into the middle of a long shot needs that, and one stretch or two.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from zittern.core.documents.doc import digest
from zittern.core.motion import chain, jumps, memory, mixing
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluation import Evaluation, hash_of
from zittern.core.motion.memory import coarsened, grid_of, step_of
from zittern.core.motion.move import bare_parts
from zittern.core.shot.mounts import Mount
from zittern.core.shot.springs import Springs
from zittern.core.units import Array, IntArray

__all__ = ["LED_POINTS", "Poses", "Stretch", "Ways", "axes_of", "offsets_of"]

# Local poses and rides of neighbouring mounts, aimed ones too: from one number of a mount up to, without, another.
Poses = Callable[[Evaluation, int, int], "tuple[dict[str, Array], chain.RigOffsets]"]
# A grid of up to this many fine points is one stretch; its arrays are cached if requested.
_WHOLE_POINTS = 15_360
# Points of the fine grid in a stretch of a longer one: what is worked on for one mount stays near the processor.
_STRETCH_POINTS = 7_680
# Additional points around a stretch for interpolation, and more after it for each mount in springs: interpolation
# through the points of one continues in the next.
_BESIDE, _AFTER_EACH = 8, 4
# Fine points before a stretch, where the previous one provides the state of the mount.
LED_POINTS = 8
# Arrays of stretches of a rig with more mounts in springs would push out everything else that is kept.
_FEW_MOUNTS = 8
# Arrays of the poses at a stretch's points, where there are several: they are not met again.
_PARTS_BYTES = 32 * 2**20


@dataclass(frozen=True)
class Stretch:
    """A piece of the grid of the springs.

    frames (N,): its coarse points (of the first also those of the lead) and both sides of each jump, in order. near
    (G,): its fine points; first: the index of the first of them on the whole grid; swung: the fine points with the
    earlier ones that the previous stretch passes on. on_grid: rows of the points in `frames`, far_count of them lead.
    before, after: rows of the two sides of each jump, pairs (J, 2). key: its cache key. keeps: whether its arrays are
    likely to be reused.
    """

    number: int
    key: tuple[object, ...]
    frames: Array
    near: Array
    swung: Array
    first: int
    coarse: Array
    far_count: int
    pairs: Array
    on_grid: IntArray
    before: IntArray
    after: IntArray
    cache: Cache
    keeps: bool


class Ways:
    """The grid that all mounts in springs share, and its stretches.

    every: fine points to a coarse one. order: places of the mounts in the rig, by id. several: whether there are
    several stretches.
    """

    def __init__(self, run: Evaluation, poses: Poses, mounts: tuple[Mount, ...]) -> None:
        self.run, self.poses, self.mounts = run, poses, mounts
        shot = run.shot
        swings = [each for mount in mounts if mount.springs for each in _resonances(mount.springs)]
        lead = max(memory.NEAR_LEAD_S, *(memory.lead_s(hz, damping) for hz, damping in swings))
        self.grid = grid_of(shot, lead, max(hz for hz, _ in swings))
        self.coarse = coarsened(self.grid)
        self.every = 1 if self.coarse is self.grid.near else 2
        self.order = {mount.id: n for n, mount in enumerate(shot.mounts)}
        self.below = shot.mounts[: self.order[mounts[-1].id] + 1]
        first = self.grid.far[0] if len(self.grid.far) else self.coarse[0]
        self._known = jumps.jumps_below(shot, self.below, (float(first), float(self.coarse[-1])))
        self.several = len(self.grid.near) > _WHOLE_POINTS
        self._points = _STRETCH_POINTS if self.several else _WHOLE_POINTS
        self._jumping = jumps.jumping(shot, self.below)

    def number_at(self, frames: Array) -> IntArray:
        """In which stretch frames lie.

        Parameters
        ----------
        frames : (F,) float64, frame numbers.

        Returns
        -------
        (F,) integers.
        """
        near = self.grid.near
        place = np.clip((frames - near[0]) / step_of(near), 0.0, len(near) - 1.0)
        return np.asarray(np.floor(place).astype(np.int64) // self._points, dtype=np.int64)

    def stretches(self, asked: Array) -> Iterator[tuple[Stretch, IntArray]]:
        """Return all stretches up to the last requested one, in order, each with its requested rows.

        Parameters
        ----------
        asked : (F,) float64, frame numbers that are requested, rising.
        """
        numbers = self.number_at(asked)
        key: tuple[object, ...] = self.grid.key
        for number in range(int(numbers.max(initial=0)) + 1):
            rows = np.flatnonzero(numbers == number).astype(np.int64)
            keeps = not self.several or (len(self.mounts) <= _FEW_MOUNTS and _side_by_side(asked[rows]))
            stretch = self._stretch(number, key, keeps)
            key = stretch.key
            yield stretch, rows

    def _stretch(self, number: int, key: tuple[object, ...], keeps: bool) -> Stretch:
        near = self.grid.near
        low = max(0, number * self._points - _BESIDE)
        high = min(len(near), (number + 1) * self._points + _BESIDE + _AFTER_EACH * len(self.mounts))
        led = LED_POINTS if number else 0
        coarse = self.coarse[max(0, low // self.every - 2) : (high - 1) // self.every + 4]
        far = self.grid.far[:-1] if number == 0 else near[:0]
        points = np.concatenate([far, coarse])
        pairs = self._pairs(points)
        frames, inverse = np.unique(np.concatenate([points, pairs[:, 0], pairs[:, 1]]), return_inverse=True)
        on_grid, before, after = np.split(inverse.astype(np.int64), [len(points), len(points) + len(pairs)])
        known = (self.grid.key, number, digest(repr((key, hash_of(pairs)))))
        cache = Cache(_PARTS_BYTES) if self.several else self.run.cache
        return Stretch(
            number=number,
            key=known,
            frames=frames,
            near=near[low:high],
            swung=near[low - led : high],
            first=low,
            coarse=coarse,
            far_count=len(far),
            pairs=pairs,
            on_grid=on_grid,
            before=before,
            after=after,
            cache=cache,
            keeps=keeps,
        )

    def _pairs(self, points: Array) -> Array:
        """Jumps within some points: known ones, and those that are found between points in what drives the mounts."""
        known: Array = self._known[(self._known[:, 1] > points[0]) & (self._known[:, 1] <= points[-1])]
        moved, layers = self._jumping
        if not (moved or layers):
            return known
        run, ids = self.run, [mount.id for mount in self.below]

        def signal(frames: Array) -> Array:
            sub = run.over(frames, Cache(_PARTS_BYTES))
            numbers = [each for mount in moved for each in (mount.position_m(sub.scope), mount.angles_deg(sub.scope))]
            return np.concatenate([*numbers, *mixing.before_replacing(sub, layers)], axis=1)

        parts = (hash_of(points), tuple(ids), bare_parts(run.shot)[: len(ids)], mixing.parts_of(run, set(ids)))
        found = run.table("jumps", parts, lambda: jumps.found_jumps(signal, points))
        both = np.concatenate([known, found])
        _, first = np.unique(np.round(both[:, 1] / jumps.JUST_BEFORE_FRAMES), return_index=True)
        return np.asarray(both[first], dtype=np.float64)


def offsets_of(run: Evaluation, mounts: Sequence[str]) -> dict[str, Array]:
    """Return the offsets of layers on some mounts. (F, A) by mount id."""
    return mixing.sums(run.shot, mixing.contributions(run, set(mounts))[0]) if mounts else {}


def axes_of(springs: Springs) -> tuple[tuple[bool, slice, float, float], ...]:
    """Return whether it is springy, in which columns, and its frequency in hertz and damping.

    Of shifts, and of rotations.
    """
    return (
        (springs.shift, slice(0, 3), springs.shift_hz, springs.shift_damping),
        (springs.turn, slice(3, 6), springs.turn_hz, springs.turn_damping),
    )


def _resonances(springs: Springs) -> list[tuple[float, float]]:
    return [(hz, damping) for on, _, hz, damping in axes_of(springs) if on] or [(1.0, 1.0)]


def _side_by_side(frames: Array) -> bool:
    """Return whether most frames are adjacent: a close view, which is likely to be repeated."""
    return len(frames) > 0 and bool(np.ptp(frames) < 2.0 * len(frames))

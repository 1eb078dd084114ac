"""A mount in springs in one stretch of the grid.

Its path, the responses to its jumps, its deflection at any frame, and the state for the next stretch.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from zittern.core.motion import aim, chain, memory, mixing
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.follow import base_excited, base_excited_on, step_response
from zittern.core.motion.memory import at_frames, filled, step_of
from zittern.core.motion.move import bare_parts
from zittern.core.motion.spring_ways import LED_POINTS, Stretch, Ways, axes_of, offsets_of
from zittern.core.rig import transforms, turns
from zittern.core.runtime import budget
from zittern.core.shot.mounts import Mount
from zittern.core.units import CM_PER_M, Array

__all__ = ["Spring"]

# Jumps smaller than this (m, radians) are none.
_LEAST_JUMP = 1e-12
# Frames that are no further than this (in steps of the grid) from a point of it are at that point.
_AT_POINT = 1e-9
# Squared travel as a share of the end stop, below which the stop has no effect after rounding.
_FREE = 1e-9
# Columns of a way, each side by side in memory: position (m), turns added up (radians), rotation row by row.
_PLACE, _TURNED, _WHERE, _ROTATION = slice(0, 3), slice(3, 6), slice(0, 6), slice(6, 15)


@dataclass(frozen=True)
class _CarryOver:
    """State from the previous stretch: rotation of the path up to its first coarse point (3,).

    The jumps before that point: the settled ones, summed (6,), and the rest: frames (J,), sizes (J, 6); input and
    output at the last fine points before its first, (LED_POINTS, 6) each, in order; empty in the first stretch.
    """

    turned: Array
    over: Array
    came_out: Array
    went_in: Array
    jumped_at: Array
    jumps: Array

    @property
    def total(self) -> Array:
        """All jumps before. (6,)."""
        return np.asarray(self.over + self.jumps.sum(axis=0), dtype=np.float64)

    @property
    def packed(self) -> Array:
        """In one row of numbers."""
        parts = (self.turned, self.over, self.came_out, self.went_in, self.jumped_at, self.jumps)
        return np.concatenate([part.ravel() for part in parts])

    @classmethod
    def unpacked(cls, row: Array) -> _CarryOver:
        """From such a row."""
        points = 6 * LED_POINTS
        ends = np.cumsum([3, 6, points, points, (len(row) - 9 - 2 * points) // 7])
        turned, over, came_out, went_in, jumped_at, sizes = np.split(row, ends)
        return cls(turned, over, came_out.reshape(-1, 6), went_in.reshape(-1, 6), jumped_at, sizes.reshape(-1, 6))


_NO_POINTS = np.empty((0, 6))
_UNLED = _CarryOver(np.zeros(3), np.zeros(6), _NO_POINTS, _NO_POINTS, np.empty(0), _NO_POINTS)


class Spring:
    """A mount in springs in one stretch, ready to compute its deflection at any frames of it.

    below: the next mount in springs towards the ground.
    """

    def __init__(self, ways: Ways, stretch: Stretch, mount: Mount, below: Spring | None) -> None:
        assert mount.springs is not None, "only mounts in springs are asked"
        self.ways, self.stretch, self.mount, self.springs, self.below = ways, stretch, mount, mount.springs, below
        self.led = _UNLED
        run, at = ways.run, ways.order[mount.id]
        self.parts = (stretch.key, run.printed("way", mount, lambda: _way_parts(run, at, ways.mounts)))

    def _table(self, stage: str, compute: Callable[[], Array]) -> Array:
        if not self.stretch.keeps:
            return compute()
        return self.ways.run.table(stage, self.parts, compute)

    @cached_property
    def way(self) -> Array:
        """Return the pose of the mount without its springs, and its accumulated rotation.

        Returns
        -------
        (N, 15) float64, position in meters, accumulated rotation vectors in radians, rotation matrix.
        """

        def compute() -> Array:
            stretch = self.stretch
            out = filled(stretch.frames, 15, lambda frames: _rows(self._rigid(frames)))
            if np.any(out[1:, _ROTATION] != out[:-1, _ROTATION]):
                rotation = _rotation(out)
                np.cumsum(turns.between(rotation[:-1], rotation[1:]), axis=0, out=out[1:, _TURNED])
            out[:, _TURNED] += self.led.turned - out[np.searchsorted(stretch.frames, self._start), _TURNED]
            return out

        return compute() if self.ways.several else self._table("way", compute)

    @property
    def _start(self) -> float:
        """Return the first point of all."""
        return float(self.stretch.frames[self.stretch.on_grid[0]])

    def _rigid(self, frames: Array) -> Array:
        """World pose behind the mount without its own springs, at neighbours among the frames of the way. (F, 4, 4)."""
        ways, mount, below = self.ways, self.mount, self.below
        shot = ways.run.shot
        start, at = 0 if below is None else ways.order[below.mount.id], ways.order[mount.id]
        sub = ways.run.over(frames, self.stretch.cache)
        locals_, on = ways.poses(sub, start, at + 1)
        offsets = offsets_of(sub, [each.id for each in shot.mounts[start:at]])
        pose: Array | None = None
        if below is not None:
            row = int(np.searchsorted(self.stretch.frames, frames[0]))
            pose = below.sprung_way(sub, slice(row, row + len(frames)))
            if below.mount.id in offsets:
                pose = transforms.product(pose, transforms.offset_transforms(offsets[below.mount.id]))
            start += 1
        for each in shot.mounts[start : at + 1]:
            pose = chain.step(
                each, pose, locals_[each.id], chain.RigOffsets(on.carried, {}, {} if each is mount else offsets)
            )
        assert pose is not None, "a mount is on its own way"
        return pose

    def sprung_way(self, run: Evaluation, rows: slice) -> Array:
        """World pose behind the mount with its springs, at some rows of its way; run: at their frames.

        Returns
        -------
        (F, 4, 4) float64, poses in the world, meters.
        """
        way = self.way[rows]
        given = self._stopped(self._answered(run.frames, self._smooth_on_way[rows]), self._where[rows])
        if self.springs.weight.constant != 1.0:
            given = given * self.springs.weight.sample(run.scope)[:, None]
        pose = transforms.identity(len(way))
        pose[:, :3, 3] = way[:, _PLACE] + given[:, :3]
        rotation = _rotation(way)
        turned = np.any(given[:, 3:])
        pose[:, :3, :3] = (
            transforms.rotation_product(rotation, turns.from_vectors(given[:, 3:])) if turned else rotation
        )
        return pose

    @property
    def _where(self) -> Array:
        """Return positions on the path, and its accumulated rotation. (N, 6)."""
        return self.way[:, _WHERE]

    @cached_property
    def _smooth_on_way(self) -> Array:
        """Return the value of `followed` at the frames of the path. (N, 6)."""
        points, frames = self.stretch.swung, self.stretch.frames
        place = np.clip((frames - points[0]) / step_of(points), 0.0, len(points) - 1.0)
        point = np.rint(place).astype(np.int64)
        out = np.asarray(self._swung.T[:, point].T, dtype=np.float64)
        between = np.abs(place - point) > _AT_POINT
        out[between] = at_frames(points, self._swung, frames[between])
        return out

    @cached_property
    def jumps(self) -> Array:
        """Return the size of each jump of the path: meters, then rotations in radians.

        Returns
        -------
        (J, 6) float64, meters and radians.
        """

        def compute() -> Array:
            return np.asarray(self._where[self.stretch.after] - self._where[self.stretch.before])

        return self._table("spring jumps", compute)

    @cached_property
    def turned(self) -> Array:
        """Turns of the way added up and its rotation, at all of its frames.

        Returns
        -------
        (N, 12) float64, radians, then matrix entries.
        """
        return self._table("spring turns", lambda: self.way[:, 3:].copy("K"))

    @cached_property
    def continuous(self) -> Array:
        """The continuous part of the way at the points of the lead and the fine points.

        Returns
        -------
        (H + G, 6).
        """
        stretch = self.stretch
        smooth = self._where - self.led.total
        if len(stretch.pairs):
            at = np.searchsorted(stretch.pairs[:, 1], stretch.frames[stretch.on_grid], side="right")
            total = np.concatenate([np.zeros((1, 6)), np.cumsum(self.jumps, axis=0)])
            smooth = smooth[stretch.on_grid] - total[at]
        far = stretch.far_count
        fine = smooth[far:]
        if self.ways.every > 1:
            fine = at_frames(stretch.coarse, fine, stretch.near)
        else:
            first = int(np.searchsorted(stretch.coarse, stretch.near[0]))
            fine = fine[first : first + len(stretch.near)]
        return np.concatenate([smooth[:far], fine]) if far else fine

    @cached_property
    def followed(self) -> Array:
        """The continuous part of the sprung way on the fine points.

        Returns
        -------
        (G, 6) float64, meters and radians.
        """

        def compute() -> Array:
            every, stretch = self.continuous, self.stretch
            out = every[stretch.far_count :].copy("K")
            grid = replace(self.ways.grid, near=stretch.near)
            for on, columns, hz, damping in axes_of(self.springs):
                if not on:
                    continue
                if stretch.number == 0:
                    out[:, columns] = base_excited(every[:, columns], hz, damping, grid)
                else:
                    history = self.led.came_out[:-3:-1, columns], self.led.went_in[:-3:-1, columns]
                    out[:, columns] = base_excited_on(every[:, columns], hz, damping, grid.step_s, history)
            return out

        parts = (self.springs, *self.parts)
        return self.ways.run.table("springs", parts, compute) if self.stretch.keeps else compute()

    @cached_property
    def _swung(self) -> Array:
        """Return the response including the earlier points that the previous stretch passed on. (LED_POINTS + G, 6)."""
        led = self.led.came_out
        return np.concatenate([led, self.followed]) if len(led) else self.followed

    def handed_on(self, after: Stretch) -> _CarryOver:
        """Return the state for the next stretch."""

        def compute() -> Array:
            stretch, start = self.stretch, after.coarse[0]
            mine = stretch.pairs[:, 1] <= start
            at = np.concatenate([self.led.jumped_at, stretch.pairs[mine, 1]])
            sizes = np.concatenate([self.led.jumps, self.jumps[mine]])
            lasting = max(_settled_s(hz, damping) for on, _, hz, damping in axes_of(self.springs))
            over = at + lasting * self.ways.run.shot.fps.value < after.near[0]
            row = int(np.searchsorted(stretch.frames, start))
            stop = after.first - stretch.first
            last = slice(stop - LED_POINTS, stop)
            return _CarryOver(
                turned=self.way[row, _TURNED],
                over=self.led.over + sizes[over].sum(axis=0),
                came_out=self.followed[last],
                went_in=self.continuous[stretch.far_count :][last],
                jumped_at=at[~over],
                jumps=sizes[~over],
            ).packed

        parts = (self.springs, *self.parts, after.key)
        return _CarryOver.unpacked(self.ways.run.table("spring leads", parts, compute))

    def at(self, frames: Array, rigid: Array) -> Array:
        """Deflection at frames of the stretch.

        Parameters
        ----------
        frames : (F,) float64, frame numbers.
        rigid: (F, 4, 4), where the rigid mount stands there, weight left out.

        Returns
        -------
        (F, 6) float64, meters and radians.
        """
        stretch = self.stretch
        row = np.clip(np.searchsorted(stretch.frames, frames, side="right") - 1, 0, len(stretch.frames) - 1)
        known = self.turned.T[:, row]
        now = np.empty((6, len(frames)))
        now[_PLACE] = rigid[:, :3, 3].T
        now[_TURNED] = known[:3]
        now[_TURNED] += turns.between(known[3:].reshape(3, 3, -1).transpose(2, 0, 1), rigid[:, :3, :3]).T
        return self._stopped(self._answered(frames, at_frames(stretch.swung, self._swung, frames)), now.T)

    def _answered(self, frames: Array, smooth: Array) -> Array:
        """Return the response of the mount: to its continuous path, and to all jumps. (F, 6)."""
        at = np.concatenate([self.led.jumped_at, self.stretch.pairs[:, 1]])
        sizes = np.concatenate([self.led.jumps, self.jumps])
        fps = self.ways.run.shot.fps.value
        out = smooth + self.led.over
        if not len(at):
            return out
        for on, columns, hz, damping in axes_of(self.springs):
            if on:
                out[:, columns] += _answers(frames, at, sizes[:, columns], hz, damping, fps)
        return out

    def _stopped(self, swung: Array, now: Array) -> Array:
        """Return the deflection from the rigid position, within the end stops. (F, 6)."""
        out = swung - now
        for on, columns, _, _ in axes_of(self.springs):
            if not on:
                out[:, columns] = 0.0
        out[:, :3] = _within_stop(out[:, :3], self.springs.shift_stop_cm / CM_PER_M)
        out[:, 3:] = _within_stop(out[:, 3:], np.radians(self.springs.turn_stop_deg))
        return out


def _rows(pose: Array) -> Array:
    """Rows of a way that has not turned. (F, 4, 4) -> (F, 15)."""
    out = np.zeros((15, len(pose)))
    entries = pose.transpose(1, 2, 0)
    out[_PLACE] = entries[:3, 3]
    out[_ROTATION].reshape(3, 3, -1)[:] = entries[:3, :3]
    return out.T


def _rotation(way: Array) -> Array:
    """Return the rotations of some rows of a way. (F, 15) -> (F, 3, 3)."""
    return way.T[_ROTATION].reshape(3, 3, -1).transpose(2, 0, 1)


def _way_parts(run: Evaluation, at: int, springs: tuple[Mount, ...]) -> tuple[Part, ...]:
    """Return the inputs of the path of mount number `at`, without the grid."""
    shot = run.shot
    carriers = {each.id for each in shot.mounts[:at]}
    aims = aim.aim_parts(shot) if any(each.operator is not None for each in shot.mounts[: at + 1]) else ()
    layers = mixing.parts_of(run, carriers)
    gives = tuple((each.id, each.springs) for each in springs if each.id in carriers)
    ids = tuple(each.id for each in shot.mounts[: at + 1])
    return (ids, bare_parts(shot)[: at + 1], aims, layers, gives)


def _answers(frames: Array, at: Array, sizes: Array, hz: float, damping: float, fps: float) -> Array:
    """Sum of the answers to jumps. at (J,) frames, sizes (J, 3) -> (F, 3)."""
    out = np.zeros((len(frames), sizes.shape[1]))
    real = np.flatnonzero(np.any(np.abs(sizes) > _LEAST_JUMP, axis=1))
    if not len(real):
        return out
    order = np.argsort(frames, kind="stable")
    rising = frames[order]
    first = np.searchsorted(rising, at[real])
    stop = np.searchsorted(rising, at[real] + _settled_s(hz, damping) * fps)
    total = np.zeros((len(frames) + 1, sizes.shape[1]))
    np.add.at(total, stop, sizes[real])
    moving = np.zeros_like(out)
    for n, low, high in zip(real.tolist(), first.tolist(), stop.tolist(), strict=True):
        if high > low:
            budget.check()
            response = step_response((rising[low:high] - at[n]) / fps, hz, damping)
            moving[low:high] += response[:, None] * sizes[n]
    out[order] = moving + np.cumsum(total[:-1], axis=0)
    return out


def _settled_s(hz: float, damping: float) -> float:
    """Return the duration of the response to a jump."""
    return 4.0 * memory.lead_s(hz, damping)


def _within_stop(stray: Array, most: float) -> Array:
    """Within the end stop. (F, 3)."""
    x, y, z = stray.T / most
    squared = x * x + y * y + z * z
    if np.max(squared, initial=0.0) < _FREE:
        return stray
    return np.asarray(stray / np.sqrt(np.sqrt(1.0 + squared * squared))[:, None], dtype=np.float64)

"""Stage: springs. Reads the poses of what carries a mount, with the layers that act below it; gives its deflection: how
far it is from where it would be if it were rigid.

Translation: a mass on a damped spring in the world, carried by the mount's rigid place. Rotation: the turns of the
rigid mount in its own frame are added up to a vector, that is followed in the same way, and what is missing is turned
by: exact about any one axis, and without a pole anywhere; about several at once it leaves out the gyroscopic terms,
which is right while the mount is deflected by less than about 30 degrees.

What carries a mount may jump: at hold keys, where spans start and end. Such a way is taken apart into one that is
continuous, which is followed on a grid, and the jumps, the answer to each of which is a closed form
(`follow.step_response`) that begins at its own moment. The sprung pose is smooth and is taken between points of the
grid; the rigid one is worked out at the very frame.

The end stop keeps travel r below s, smoothly and with slope 1 where it is small: r / (1 + (r / s)^4)^(1/4).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import cached_property

import numpy as np

from zittern.core import budget
from zittern.core.motion import aim, jumps, memory, mixing
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluation import Evaluation, Part
from zittern.core.motion.follow import base_excited, step_response
from zittern.core.motion.memory import at_frames, coarsened, filled, grid_of
from zittern.core.motion.move import bare_parts
from zittern.core.rig import chain, transforms, turns
from zittern.core.shot.give import Give
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.units import CM_PER_M, Array

__all__ = ["deflections", "sprung"]

# Arrays of parts of a grid, where it has several: they are not met again.
_PARTS_BYTES = 32 * 2**20
# Points in a part over which layers are worked out once and kept.
_KEPT_POINTS = 32_768
# Longer ways than this are not kept: they are not met again often enough.
_KEPT_WAYS = 4 * _KEPT_POINTS
# Jumps smaller than this (m, radians) are none.
_LEAST_JUMP = 1e-12
# Local poses and rides of so many mounts of an evaluation, from the ground on, aimed ones too.
Poses = Callable[[Evaluation, int], "tuple[dict[str, Array], chain.On]"]
# Columns of a way: position (m), rotation row by row, turns added up (radians).
_PLACE, _ROTATION, _TURNED = slice(0, 3), slice(3, 12), slice(12, 15)


def sprung(shot: Shot) -> tuple[Mount, ...]:
    """The mounts that hang in springs, from the ground on."""
    still = chain.held(shot)
    return tuple(
        mount
        for mount in shot.mounts
        if mount.give is not None and mount.id not in still and not mount.give.weight.nothing
    )


def deflections(run: Evaluation, poses: Poses, offsets: Mapping[str, Array]) -> dict[str, Array]:
    """Deflection of each mount in springs, by its id, (F, 6) as `chain.On.given`. offsets: (F, 7) of the layers at
    the evaluation's frames.
    """
    mounts = sprung(run.shot)
    if not mounts:
        return {}
    ways = _Ways(run, poses, mounts)
    springs: list[_Spring] = []
    for mount in mounts:
        springs.append(_Spring(ways, mount, springs[-1] if springs else None))
    along = _Along(run, poses, offsets, run.shot.mounts.index(mounts[-1]) + 1)
    for spring in springs:
        along.give(spring)
    return along.given


class _Along:
    """Mounts at the frames of an evaluation, from the ground up: a pose is worked out when it is first asked for,
    with what the springs below it give.
    """

    def __init__(self, run: Evaluation, poses: Poses, offsets: Mapping[str, Array], count: int) -> None:
        self.run, self.poses, self.offsets, self.count = run, poses, offsets, count
        self.given: dict[str, Array] = {}
        self._behind: dict[str, Array] = {}

    @cached_property
    def parts(self) -> tuple[dict[str, Array], chain.On]:
        """Local poses and rides."""
        return self.poses(self.run, self.count)

    def give(self, spring: _Spring) -> None:
        """Adds what a mount in springs gives, once all below it have."""
        run, mount = self.run, spring.mount

        def make() -> Array:
            with budget.doing(
                lambda: f"the springs of “{mount.name}”",
                "the number of frames, of mounts in springs, or of jumps in what moves them",
            ):
                return spring.at(run, self._rigid(mount))

        self.given[mount.id] = run.kept("deflection", (spring.give, *spring.parts), make)

    def _rigid(self, mount: Mount) -> Array:
        """World pose behind a mount without its own springs. (F, 4, 4)."""
        locals_, on = self.parts
        return chain.step(mount, self._below(mount), locals_[mount.id], chain.On(on.carried))

    def _below(self, mount: Mount) -> Array | None:
        """World pose that carries a mount; nothing for the ground."""
        locals_, on = self.parts
        pose: Array | None = None
        for each in self.run.shot.mounts[: self.run.shot.mounts.index(mount)]:
            if each.id not in self._behind:
                self._behind[each.id] = chain.step(
                    each, pose, locals_[each.id], chain.On(on.carried, self.given, self.offsets)
                )
            pose = self._behind[each.id]
        return pose


class _Ways:
    """The ways of all mounts in springs on one grid. frames (N,): its points, coarse ones, and both sides of each jump,
    rising. before, after: rows of the two sides; grid rows: those that belong to the grid.
    """

    def __init__(self, run: Evaluation, poses: Poses, mounts: tuple[Mount, ...]) -> None:
        self.run, self.poses, self.mounts = run, poses, mounts
        shot = run.shot
        swings = [each for mount in mounts if mount.give for each in _swings(mount.give)]
        lead = max(memory.NEAR_LEAD_S, *(memory.lead_s(hz, damping) for hz, damping in swings))
        self.grid = grid_of(shot, lead, max(hz for hz, _ in swings))
        self.coarse = coarsened(self.grid)
        points = np.concatenate([self.grid.far[:-1], self.coarse])
        below = shot.mounts[: shot.mounts.index(mounts[-1]) + 1]
        pairs = jumps.jumps_below(shot, below, (float(points[0]), float(points[-1])))
        if jumps.searched(shot, below):
            pairs = self._with_found(pairs, points, below)
        self.pairs = pairs
        frames, inverse = np.unique(np.concatenate([points, pairs[:, 0], pairs[:, 1]]), return_inverse=True)
        self.frames: Array = frames
        count = len(points)
        self.on_grid, self.before, self.after = (
            inverse[:count],
            inverse[count : count + len(pairs)],
            inverse[count + len(pairs) :],
        )
        self.cache = run.cache if len(frames) <= _KEPT_POINTS else Cache(_PARTS_BYTES)

    def parts(self, mount: Mount) -> tuple[Part, ...]:
        """What the way of a mount is computed from."""
        run, shot = self.run, self.run.shot
        at = shot.mounts.index(mount)
        carriers = shot.mounts[:at]
        aims = aim.aim_parts(shot) if any(each.operator is not None for each in (*carriers, mount)) else ()
        layers = mixing.parts_of(run, {each.id for each in carriers})
        springs = tuple((each.id, each.give) for each in self.mounts if each in carriers)
        ids = tuple(each.id for each in shot.mounts[: at + 1])
        return (self.grid.key, self.pairs.tobytes(), ids, bare_parts(shot)[: at + 1], aims, layers, springs)

    def way(self, mount: Mount, below: _Spring | None) -> Array:
        """Where a mount would be without its own springs, and how it would have turned. below: the next mount in
        springs towards the ground. (N, 15).
        """

        def compute() -> Array:
            rows = filled(
                self.frames, 12, lambda frames: self._rigid(mount, below, frames)[:, :3].reshape(len(frames), 12)
            )
            rows = rows.reshape(len(rows), 3, 4)
            rotation = rows[:, :, :3]
            steps = turns.vectors(np.swapaxes(rotation[:-1], 1, 2) @ rotation[1:])
            turned = np.concatenate([np.zeros((1, 3)), np.cumsum(steps, axis=0)])
            return np.concatenate([rows[:, :, 3], rotation.reshape(len(rows), 9), turned], axis=1)

        return self.run.table("way", self.parts(mount), compute) if len(self.frames) <= _KEPT_WAYS else compute()

    def _rigid(self, mount: Mount, below: _Spring | None, frames: Array) -> Array:
        """World pose behind a mount without its own springs, at some of the frames. (F, 4, 4)."""
        shot = self.run.shot
        start, at = 0 if below is None else shot.mounts.index(below.mount), shot.mounts.index(mount)
        sub = self.run.over(frames, self.cache)
        locals_, on = self.poses(sub, at + 1)
        offsets = self._offsets(sub, [each.id for each in shot.mounts[start:at]])
        pose: Array | None = None
        if below is not None:
            row = int(np.searchsorted(self.frames, frames[0]))
            rigid = np.zeros((len(frames), 4, 4))
            rigid[:, 3, 3] = 1.0
            rigid[:, :3, 3] = below.way[row : row + len(frames), _PLACE]
            rigid[:, :3, :3] = below.way[row : row + len(frames), _ROTATION].reshape(-1, 3, 3)
            pose = chain.with_give(rigid, below.at(sub, rigid))
            if below.mount.id in offsets:
                pose = pose @ transforms.offset_transforms(offsets[below.mount.id])
            start += 1
        for each in shot.mounts[start : at + 1]:
            pose = chain.step(each, pose, locals_[each.id], chain.On(on.carried, {}, {} if each is mount else offsets))
        assert pose is not None, "a mount is on its own way"
        return pose

    def _offsets(self, sub: Evaluation, mounts: Sequence[str]) -> dict[str, Array]:
        """What layers do to some mounts."""
        return mixing.sums(sub.shot, mixing.contributions(sub, set(mounts))[0]) if mounts else {}

    def _with_found(self, pairs: Array, points: Array, below: Sequence[Mount]) -> Array:
        """Known jumps, and those that are found between points in what drives the mounts below."""
        run, ids = self.run, [mount.id for mount in below]

        def signal(frames: Array) -> Array:
            sub = run.over(frames, Cache(_PARTS_BYTES))
            numbers = [mount.position_m(sub.scope) for mount in below] + [
                mount.angles_deg(sub.scope) for mount in below
            ]
            return np.concatenate([*numbers, *self._offsets(sub, ids).values()], axis=1)

        parts = ("found", self.grid.key, tuple(ids), bare_parts(run.shot)[: len(ids)], mixing.parts_of(run, set(ids)))
        found = run.table("jumps", parts, lambda: jumps.found_jumps(signal, points))
        both = np.concatenate([pairs, found])
        _, first = np.unique(np.round(both[:, 1] / jumps.JUST_BEFORE_FRAMES), return_index=True)
        return both[first]


class _Spring:
    """A mount in springs, ready to tell its deflection at any frames. What that takes is kept for the whole shot;
    the way itself only where it is short.
    """

    def __init__(self, ways: _Ways, mount: Mount, below: _Spring | None) -> None:
        assert mount.give is not None, "only mounts in springs are asked"
        self.ways, self.mount, self.give, self.below = ways, mount, mount.give, below
        self.parts = ways.parts(mount)

    @cached_property
    def way(self) -> Array:
        """Where the mount would be without its springs. (N, 15)."""
        return self.ways.way(self.mount, self.below)

    @cached_property
    def jumps(self) -> Array:
        """How far the way jumps at each jump: metres, then turns in radians. (J, 6)."""

        def compute() -> Array:
            jumped = self.way[self.ways.after] - self.way[self.ways.before]
            return np.concatenate([jumped[:, _PLACE], jumped[:, _TURNED]], axis=1)

        return self.ways.run.table("spring jumps", self.parts, compute)

    @cached_property
    def turned(self) -> Array:
        """Rotation of the way and its turns added up, at all of its frames. (N, 12)."""
        return self.ways.run.table("spring turns", self.parts, lambda: self.way[:, 3:].copy())

    @cached_property
    def followed(self) -> Array:
        """The continuous part of the sprung way on the near grid. (G, 6)."""
        ways, give = self.ways, self.give

        def compute() -> Array:
            values = np.concatenate([self.way[:, _PLACE], self.way[:, _TURNED]], axis=1)[ways.on_grid]
            at = np.searchsorted(ways.pairs[:, 1], ways.frames[ways.on_grid], side="right")
            total = np.concatenate([np.zeros((1, 6)), np.cumsum(self.jumps, axis=0)])
            smooth = values - total[at]
            far = ways.grid.far_count
            every = np.concatenate([smooth[:far], at_frames(ways.coarse, smooth[far:], ways.grid.near)])
            out = every[far:].copy()
            for on, columns, hz, damping in _axes(give):
                if on:
                    out[:, columns] = base_excited(every[:, columns], hz, damping, ways.grid)
            return out

        return ways.run.table("springs", (give, *self.parts), compute)

    def at(self, run: Evaluation, rigid: Array) -> Array:
        """Deflection at the frames of an evaluation, where the rigid mount stands there, (F, 4, 4). (F, 6)."""
        ways, give = self.ways, self.give
        row = np.clip(np.searchsorted(ways.frames, run.frames, side="right") - 1, 0, len(ways.frames) - 1)
        known = self.turned[row]
        since = turns.vectors(np.swapaxes(known[:, :9].reshape(-1, 3, 3), 1, 2) @ rigid[:, :3, :3])
        now = np.concatenate([rigid[:, :3, 3], known[:, 9:] + since], axis=1)
        smooth = at_frames(ways.grid.near, self.followed, run.frames)
        out = np.zeros((len(run.frames), 6))
        for on, columns, hz, damping in _axes(give):
            if on:
                answers = _answers(
                    run.frames, ways.pairs[:, 1], self.jumps[:, columns], hz, damping, run.shot.fps.value
                )
                out[:, columns] = smooth[:, columns] + answers - now[:, columns]
        out[:, :3] = _stopped(out[:, :3], give.shift_stop_cm / CM_PER_M)
        out[:, 3:] = _stopped(out[:, 3:], np.radians(give.turn_stop_deg))
        return out * give.weight.sample(run.scope)[:, None]


def _answers(frames: Array, at: Array, sizes: Array, hz: float, damping: float, fps: float) -> Array:
    """Sum of the answers to jumps. at (J,) frames, sizes (J, 3) -> (F, 3)."""
    out = np.zeros((len(frames), sizes.shape[1]))
    real = np.flatnonzero(np.any(np.abs(sizes) > _LEAST_JUMP, axis=1))
    if not len(real):
        return out
    order = np.argsort(frames, kind="stable")
    rising = frames[order]
    settled_frames = 4.0 * memory.lead_s(hz, damping) * fps
    first = np.searchsorted(rising, at[real])
    stop = np.searchsorted(rising, at[real] + settled_frames)
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


def _axes(give: Give) -> tuple[tuple[bool, slice, float, float], ...]:
    return (
        (give.shift, slice(0, 3), give.shift_hz, give.shift_damping),
        (give.turn, slice(3, 6), give.turn_hz, give.turn_damping),
    )


def _swings(give: Give) -> list[tuple[float, float]]:
    return [(hz, damping) for on, _, hz, damping in _axes(give) if on] or [(1.0, 1.0)]


def _stopped(stray: Array, most: float) -> Array:
    """Within the end stop. (F, 3)."""
    gone = np.linalg.norm(stray, axis=1)
    return np.asarray(stray * ((1.0 + (gone / most) ** 4) ** -0.25)[:, None], dtype=np.float64)

"""Stage: springs.

Inputs: the parent poses of a mount, with the layers that act before it. Result: its deflection from its rigid pose.

Translation: a mass on a damped spring in the world, carried by the mount's rigid place. Rotation: the turns of the
rigid mount in its own frame are added up to a vector, that is followed in the same way, and what is missing is turned
by: exact about any single axis, and without a pole; about several axes it omits the gyroscopic terms,
which is right while the mount is deflected by less than about 30 degrees.

What carries a mount may jump: the continuous part of its way is followed on a grid (`spring_ways`), the answer to each
jump is a closed form (`follow.step_response`) that begins at its own moment. The sprung pose is smooth and is taken
between points of the grid; the rigid one is computed at the exact frame (`spring_motion`).

The end stop keeps travel r below s, smoothly and with slope 1 where it is small: r / (1 + (r / s)^4)^(1/4).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from functools import cached_property

import numpy as np

from zittern.core.motion import chain
from zittern.core.motion.evaluation import Evaluation
from zittern.core.motion.spring_motion import Spring
from zittern.core.motion.spring_ways import Poses, Ways
from zittern.core.runtime import budget
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, IntArray

__all__ = ["deflections", "sprung"]

_ADVICE = "the number of frames, of mounts in springs, or of jumps in their inputs"


def sprung(shot: Shot) -> tuple[Mount, ...]:
    """Return the mounts in springs, from the ground on."""
    still = chain.held_mounts(shot)
    return tuple(
        mount
        for mount in shot.mounts
        if mount.springs is not None and mount.id not in still and not mount.springs.weight.nothing
    )


def deflections(run: Evaluation, poses: Poses, offsets: Mapping[str, Array]) -> dict[str, Array]:
    """Deflection of each mount in springs, by its id, (F, 6) as `RigOffsets.given`.

    Parameters
    ----------
    offsets: (F, A) of the layers at the evaluation's frames.
    """
    mounts = sprung(run.shot)
    if not mounts:
        return {}
    ways = Ways(run, poses, mounts)
    along = _Along(run, poses, offsets, mounts)
    before: list[Spring] = []
    for stretch, rows in ways.stretches(run.frames):
        springs: list[Spring] = []
        for n, mount in enumerate(mounts):
            with budget.doing(_doing(mount), _ADVICE):
                spring = Spring(ways, stretch, mount, springs[-1] if springs else None)
                if before:
                    spring.led = before[n].handed_on(stretch)
                springs.append(spring)
                if len(rows):
                    along.deflect(spring, rows)
        along.next_stretch()
        before = springs
    return along.given


def _doing(mount: Mount) -> Callable[[], str]:
    return lambda: f"the springs of “{mount.name}”"


class _Along:
    """Mounts at the frames of an evaluation, from the ground up.

    A pose is computed on first use, with the deflection of the springs below it.
    """

    def __init__(self, run: Evaluation, poses: Poses, offsets: Mapping[str, Array], mounts: tuple[Mount, ...]) -> None:
        self.run, self.poses, self.offsets = run, poses, offsets
        self.order = {mount.id: n for n, mount in enumerate(run.shot.mounts)}
        self.count = self.order[mounts[-1].id] + 1
        self.given = {mount.id: np.zeros((6, len(run.frames))).T for mount in mounts}
        self._behind: dict[str, Array] = {}
        self._weights: dict[str, Array] = {}

    @cached_property
    def parts(self) -> tuple[dict[str, Array], chain.RigOffsets]:
        """Local poses and rides, at all frames."""
        return self.poses(self.run, 0, self.count)

    def next_stretch(self) -> None:
        """Discard the results at the rows of a finished stretch."""
        self._behind = {}

    def deflect(self, spring: Spring, rows: IntArray) -> None:
        """Add the deflection of a mount in springs at some rows of the frames, after all below it."""
        run, mount = self.run, spring.mount

        def make() -> Array:
            deflection = spring.at(run.frames[rows], self._rigid(mount, rows))
            return np.asarray(deflection * self._weight(mount)[rows][:, None], dtype=np.float64)

        self.given[mount.id][rows] = run.memoized("deflection", (spring.springs, *spring.parts), make)

    def _weight(self, mount: Mount) -> Array:
        """Return the weight of a mount's contribution at all frames. (F,)."""
        if mount.id not in self._weights:
            assert mount.springs is not None, "only mounts in springs are asked"
            self._weights[mount.id] = mount.springs.weight.sample(self.run.scope)
        return self._weights[mount.id]

    def _rigid(self, mount: Mount, rows: IntArray) -> Array:
        """World pose behind a mount without its own springs. (R, 4, 4)."""
        locals_, on = self.parts
        carried = {name: _at(values, rows) for name, values in on.carried.items()}
        return chain.step(mount, self._below(mount, rows), _at(locals_[mount.id], rows), chain.RigOffsets(carried))

    def _below(self, mount: Mount, rows: IntArray) -> Array | None:
        """World pose that carries a mount; nothing for the ground."""
        locals_, on = self.parts
        pose: Array | None = None
        for each in self.run.shot.mounts[: self.order[mount.id]]:
            if each.id not in self._behind:
                parts = ({each.id: _at(of[each.id], rows)} if each.id in of else {} for of in self._on(on))
                here = _at(locals_[each.id], rows)
                self._behind[each.id] = chain.step(each, pose, here, chain.RigOffsets(*parts))
            pose = self._behind[each.id]
        return pose

    def _on(self, on: chain.RigOffsets) -> tuple[Mapping[str, Array], ...]:
        return on.carried, self.given, self.offsets


def _at(values: Array, rows: IntArray) -> Array:
    """Return some increasing rows of values (F, ...): a view for adjacent ones, a single row for constant values."""
    if values.strides[0] == 0:
        return np.broadcast_to(values[0], (len(rows), *values.shape[1:]))
    if len(rows) and rows[-1] - rows[0] == len(rows) - 1:
        return values[rows[0] : rows[-1] + 1]
    return values[rows]

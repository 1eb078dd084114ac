"""THE CENTER: a shot and frames to Motion.

Only wires the stages; each is a separate module and documents its inputs and results.

Arrays over all frames; unchanged ones come from the cache.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from zittern.core.axes import no_offsets
from zittern.core.motion import angles, chain, facts, lens, mixing, move, posing
from zittern.core.motion.cache import Cache
from zittern.core.motion.cost import check_cost
from zittern.core.motion.evaluation import Evaluation
from zittern.core.motion.pose import Pose
from zittern.core.motion.rides import rides
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

__all__ = ["Motion", "evaluate", "evaluate_in_parts", "given_by", "joined"]

# Enough for the shared arrays of one evaluation: tables of phases, angles and springs, for a shot of 100,000 frames
# too. Arrays at a part's own frames are not met again.
_TABLES_BYTES = 192 * 2**20
_PART_BYTES = 16 * 2**20


# The tables of a motion: arrays by name.
_TABLES = ("layers", "silent", "weights", "clip_weights", "offsets", "rig", "locals_")
_ON = ("carried", "given", "offsets")


@dataclass(frozen=True, slots=True)
class Motion:
    """Motion of a shot at some frames.

    frames (F,). pose: with the layers that count. bare: the move alone. layers: contributions of the layers that count,
    (F, A), degrees / cm / %, after weight, ramps and clip. silent: offsets of muted layers. weights: each
    layer's own weight with its ramps and its clip's, (F,); clip_weights: each clip's alone. offsets: sums of `layers`
    by mount id, or chain.LENS. rig: world pose behind each mount with all that is on it, (F, 4, 4) by mount id. on:
    what rides, springs and the hold on the framing add. locals_: poses of the mounts in their parents, aimed ones as
    the operator turns them, (F, 4, 4).
    """

    frames: Array
    pose: Pose
    bare: Pose
    layers: dict[str, Array]
    silent: dict[str, Array]
    weights: dict[str, Array]
    clip_weights: dict[str, Array]
    offsets: dict[str, Array]
    rig: dict[str, Array]
    locals_: dict[str, Array]
    on: chain.RigOffsets

    def rows(self, first: int, stop: int) -> Motion:
        """Return the motion at some of its frames, without copying."""
        part = slice(first, stop)

        def rows_of(arrays: Mapping[str, Array]) -> dict[str, Array]:
            return {name: values[part] for name, values in arrays.items()}

        on = chain.RigOffsets(*(rows_of(getattr(self.on, each)) for each in _ON))
        pose, bare = self.pose.rows_at(part), self.bare.rows_at(part)
        return Motion(self.frames[part], pose, bare, on=on, **{name: rows_of(getattr(self, name)) for name in _TABLES})

    @property
    def total(self) -> Array:
        """Sum of all contributions.

        Returns
        -------
        (F, A) float64, degrees, cm or %.
        """
        sums = list(self.offsets.values())
        if not sums:
            return no_offsets(self.frames)
        return sums[0] if len(sums) == 1 else np.asarray(np.sum(sums, axis=0))


def evaluate(
    shot: Shot, frames: Array | None = None, cache: Cache | None = None, tables: Cache | None = None
) -> Motion:
    """Return the motion of a shot. tables: store of arrays of the whole shot, if not the cache.

    Rows do not depend on the other requested frames or on the cache.

    Parameters
    ----------
    frames: (F,), fractional ones too; all whole frames when left out.

    Returns
    -------
    What the shot does at these frames.
    """
    frames = frame_grid(shot.first_frame, shot.last_frame) if frames is None else np.asarray(frames, dtype=np.float64)
    check_cost(shot, len(frames))
    run = Evaluation(shot, frames, cache if cache is not None else Cache(), tables)
    facts.with_facts(run)
    bare = _bare(run)
    layers, silent = mixing.contributions(run)
    offsets = mixing.sums(shot, layers)
    posed = posing.posed(run, offsets)
    pose = (
        bare
        if posed.is_bare
        else Pose(
            posed.lens[:, :3, 3],
            posed.angles_deg(bare.angles_deg),
            *lens.lens_values(run, offsets),
        )
    )
    weights, clip_weights = mixing.weights(run), mixing.clip_weights(run)
    return Motion(
        frames, pose, bare, layers, silent, weights, clip_weights, offsets, posed.rig, posed.locals_, posed.on
    )


def given_by(shot: Shot, clip: Clip, frames: Array, cache: Cache) -> dict[str, Array]:
    """Return the offsets of the active layers of one clip, as in `Motion.layers`, without unneeded parts.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.

    Returns
    -------
    (F, A) by layer id.
    """
    check_cost(shot, len(frames))
    run = Evaluation(shot, frames, cache)
    facts.with_facts(run)
    return mixing.of_clip(run, clip, mixing.active(shot))


def _bare(run: Evaluation) -> Pose:
    def make() -> Array:
        pose = chain.lens_pose(run.shot.mounts, move.local_poses(run), chain.RigOffsets(rides(run.shot, run.scope)))
        return np.concatenate([pose[:, :3, 3], angles.bare_deg(run, pose)], axis=1)

    packed = run.memoized("bare", move.bare_parts(run.shot), make)
    return Pose(packed[:, :3], packed[:, 3:], *lens.lens_values(run, {}))


def evaluate_in_parts(shot: Shot, frames: Array, part_frames: int = 2000, shared: int = 0) -> Iterator[Motion]:
    """Yield the motion in pieces of a few frames.

    Background jobs can show progress, be canceled, and need little memory.

    Parameters
    ----------
    frames : (F,) float64, frame numbers.
    shared : number of frames that a piece has in common with the piece before.

    Returns
    -------
    Pieces in order.
    """
    cache, tables = Cache(_PART_BYTES), Cache(_TABLES_BYTES)
    for start in range(0, max(len(frames), 1), part_frames):
        yield evaluate(shot, frames[max(start - shared, 0) : start + part_frames], cache, tables)


def joined(parts: Sequence[Motion]) -> Motion:
    """Pieces put together again, at least one."""

    def pose(which: str) -> Pose:
        poses: list[Pose] = [getattr(part, which) for part in parts]
        return Pose(*map(np.concatenate, zip(*(each.parts for each in poses), strict=True)))

    def together(tables: Sequence[Mapping[str, Array]]) -> dict[str, Array]:
        return {name: np.concatenate([each[name] for each in tables]) for name in tables[0]}

    def table(which: str) -> dict[str, Array]:
        return together([getattr(part, which) for part in parts])

    frames = np.concatenate([part.frames for part in parts])
    on = chain.RigOffsets(
        *(together([getattr(part.on, which) for part in parts]) for which in ("carried", "given", "offsets"))
    )
    return Motion(frames, pose("pose"), pose("bare"), on=on, **{name: table(name) for name in _TABLES})

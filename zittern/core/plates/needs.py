"""The smallest changes that fill the frame with a plate, each alone: computed, not guessed."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

import numpy as np

from zittern.core.edits.numbers import ScaleFocal
from zittern.core.edits.plates import MovePath, MovePlate, SizePlate
from zittern.core.edits.values import ScaleSwings
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.motion.evaluation import dial_prints, hash_of
from zittern.core.motion.mixing import active
from zittern.core.motion.pose import Pose
from zittern.core.plates.border import SIDES, border_px, rays_through
from zittern.core.plates.coverage import A_SIDE, counting, covered, uncovered_px
from zittern.core.plates.surface import along_m
from zittern.core.rig import rotations
from zittern.core.shot.plates import Plate
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, IntArray

__all__ = ["Filling", "Need", "calmed", "filling", "frames_between", "needs"]

_HALVINGS = 22
# Every change is enlarged by an invisible amount, so that rounding leaves no gap.
_AMPLE = 1e-4
_MOST_OVERSCAN, _MOST_PUNCH_IN = 20.0, 4.0
# Swings are rounded down to this.
_SWING_STEP = 1e-3


@dataclass(frozen=True, slots=True)
class Need:
    """A change that fills the frame: description and command."""

    kind: str
    amount: float
    says: str
    command: SizePlate | MovePlate | MovePath | ScaleFocal | ScaleSwings


# Frames between whole ones are looked at too: motion blur shows them. Of longer shots only some whole ones.
_BETWEEN, _MOST_BETWEEN, _MOST_WHOLE = 4, 2_000, 8_000


@dataclass(frozen=True, slots=True)
class Filling:
    """Maximum gap in pixels, its frame and side, and the changes that fill it."""

    uncovered_px: float
    at_frame: float
    side: str
    frames: tuple[float, float]
    needs: tuple[Need, ...]


def filling(shot: Shot, cache: Cache | None = None) -> Filling:
    """Return the coverage of a shot, also between its whole frames."""
    motion = evaluate(shot, frames_between(shot), cache)
    if cache is None:
        bare = uncovered_px(shot, motion)
    else:
        bare = cache.get(("bare edges", *_edge_parts(shot, motion)), lambda: uncovered_px(shot, motion))
    most = bare.max(axis=1)
    worst, rows = int(np.argmax(most)), np.flatnonzero(most > 0.0)
    stretch = (motion.frames[rows[0]], motion.frames[rows[-1]]) if rows.size else (motion.frames[0], motion.frames[0])
    return Filling(
        float(most[worst]),
        float(motion.frames[worst]),
        SIDES[int(np.argmax(bare[worst]))],
        (float(stretch[0]), float(stretch[1])),
        needs(shot, motion, cache) if rows.size else (),
    )


def _edge_parts(shot: Shot, motion: Motion) -> Iterator[object]:
    """Yield the inputs of a shot's gaps: the complete lens, the picture and the plates."""
    yield shot.sensor_mm
    yield shot.picture.width_px, shot.picture.height_px
    yield from (hash_of(part) for part in (motion.frames, *motion.pose.parts))
    for plate in shot.plates:
        yield plate.motion_key
    yield shot.fps.value, shot.first_frame, *dial_prints(shot).values()


def frames_between(shot: Shot) -> Array:
    """Return the frames at which edges are looked for.

    Returns
    -------
    (F,) float64, frame numbers.
    """
    first, last, count = float(shot.first_frame), float(shot.last_frame), shot.frame_count
    if count <= _MOST_BETWEEN:
        return np.linspace(first, last, (count - 1) * _BETWEEN + 1)
    return np.unique(np.linspace(first, last, min(count, _MOST_WHOLE)).round())


def needs(shot: Shot, motion: Motion, cache: Cache | None = None) -> tuple[Need, ...]:
    """Return all sufficient changes.

    motion: at the relevant frames, between whole ones too. Empty without a gap, or where the frame cannot be filled.
    """
    plates = counting(shot)
    if not plates:
        return ()
    scope = shot.scope(motion.frames)
    places = border_px(shot, A_SIDE).reshape(-1, 2)
    rows = np.flatnonzero(~covered(shot, plates, motion.pose, scope, places).all(axis=1))
    if not rows.size:
        return ()
    found: list[Need | None] = [_need_of_swings(shot, plates, motion.frames[rows], places, cache)]
    # The closed form applies to one plate without holes.
    if len(plates) == 1 and plates[0].mask is None:
        (plate,) = plates
        at = along_m(plate, scope, motion.pose.position_m, rays_through(shot, motion.pose, places))
        found += [_overscan(plate, at), _shifted(plate, at), _need_of_move(shot, plate, at)]
    found.append(_punch_in(shot, plates, motion.pose.rows_at(rows), motion.frames[rows], places))
    return tuple(each for each in found if each is not None)


def _need_of_swings(
    shot: Shot, plates: tuple[Plate, ...], frames: Array, places: Array, cache: Cache | None
) -> Need | None:
    def fills(scaled: Shot) -> bool:
        pose = evaluate(scaled, frames, cache).pose
        return bool(covered(scaled, plates, pose, scaled.scope(frames), places).all())

    return calmed(shot, fills)


def calmed(shot: Shot, fills: Callable[[Shot], bool], step: float = _SWING_STEP) -> Need | None:
    """All swings of noise and the like times the most that fills the frame, rounded down to a step.

    Nothing without such layers, and where even a calm camera shows an edge.
    """
    counted = active(shot)
    layers = tuple(layer.id for _, layer in shot.layers() if layer.id in counted and not layer.source.absolute)
    if not layers:
        return None

    def fills_at(factor: float) -> bool:
        return fills(ScaleSwings(layers=layers, factor=factor).apply(shot))

    if not fills_at(0.0):
        return None
    low, high = 0.0, 1.0
    while high - low > step:
        middle = 0.5 * (low + high)
        low, high = (middle, high) if fills_at(middle) else (low, middle)
    factor = np.floor(low / step) * step
    return Need("swings", float(factor), f"all swings × {factor:.2f}", ScaleSwings(layers=layers, factor=float(factor)))


def _overscan(plate: Plate, at_m: Array) -> Need | None:
    across, up = plate.reach_m
    most = np.max(np.maximum(np.abs(at_m[..., 0]) / across, np.abs(at_m[..., 1]) / up))
    if not np.isfinite(most) or most > _MOST_OVERSCAN:
        return None
    times = float(most * (1.0 + _AMPLE))
    return Need(
        "overscan",
        times,
        f"“{plate.name}” {(times - 1.0) * 100.0:.1f} % larger",
        SizePlate(plate=plate.id, times=times),
    )


def _room(plate: Plate, at_m: Array) -> Array | None:
    """Return the shortest way for the plate to move along itself, to the right and up; None where it is too small."""
    if plate.shape != "flat" or not np.all(np.isfinite(at_m)):
        return None
    low, high = at_m.min(axis=(0, 1)), at_m.max(axis=(0, 1))
    reach = np.array(plate.reach_m) / (1.0 + _AMPLE)
    if np.any(high - low > 2.0 * reach):
        return None
    return np.asarray(np.clip(0.0, high - reach, low + reach))


def _shifted(plate: Plate, at_m: Array) -> Need | None:
    way = _room(plate, at_m)
    if way is None:
        return None
    across, up = (float(each) for each in way)
    return Need(
        "plate", float(np.hypot(across, up)), f"“{plate.name}” moved {_way(across, up)}",
        MovePlate(plate=plate.id, across_m=across, up_m=up),
    )  # fmt: skip


def _need_of_move(shot: Shot, plate: Plate, at_m: Array) -> Need | None:
    """Return the whole move the other way, along the plate; only where the plate stands still."""
    way = _room(plate, at_m)
    if way is None or any(each.constant is None for each in (plate.pan_deg, plate.tilt_deg, plate.roll_deg)):
        return None
    turn = rotations.matrices(plate.angles_deg(shot.scope(float(shot.first_frame))))[0]
    x, y, z = (float(each) for each in -(turn[:, :2] @ way))
    across, up = (float(-each) for each in way)
    says = f"the whole move {_way(across, up)} along “{plate.name}”"
    return Need("move", float(np.hypot(across, up)), says, MovePath(x_m=x, y_m=y, z_m=z))


def _punch_in(shot: Shot, plates: tuple[Plate, ...], pose: Pose, frames: Array, places: Array) -> Need | None:
    left = np.arange(len(frames))

    def bare(times: float) -> IntArray:
        """Rows of `left` that are not filled."""
        at = shot.scope(frames[left])
        return np.flatnonzero(~covered(shot, plates, pose.rows_at(left), at, places, times).all(axis=1))

    if bare(_MOST_PUNCH_IN).size:
        return None
    low, high = 1.0, _MOST_PUNCH_IN
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        rows = bare(middle)
        if rows.size:
            # A frame that is filled by a shorter lens stays filled by a longer one.
            low, left = middle, left[rows]
        else:
            high = middle
    times = high * (1.0 + _AMPLE)
    return Need("punch-in", times, f"a lens {(times - 1.0) * 100.0:.1f} % longer", ScaleFocal(times=times))


def _way(across_m: float, up_m: float) -> str:
    """`12.5 cm right, 3.0 cm up`."""
    words = [
        f"{abs(each) * 100.0:.1f} cm {names[0] if each > 0.0 else names[1]}"
        for each, names in ((across_m, ("right", "left")), (up_m, ("up", "down")))
        if abs(each) > 5e-4
    ]
    return ", ".join(words) or "a little"

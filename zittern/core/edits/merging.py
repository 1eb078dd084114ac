"""Two mounts as one.

The numbers of a mount whose pose is the product of theirs, where such numbers exist for every frame.

Each rule states its preconditions. Callers compare the picture before and after, so a rule that does
not apply does no harm.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import numpy as np

from zittern.core.motion.chain import local_pose
from zittern.core.numbers.param import Number, fixed
from zittern.core.numbers.scope import Scope
from zittern.core.rig import rotations
from zittern.core.shot.mounts import MOVE_FIELDS, Mount
from zittern.core.units import Array

__all__ = ["at_rest", "merged", "moves_at_all"]

Fields = dict[str, Any]
_PLACE = MOVE_FIELDS[:3]
_ANGLES = MOVE_FIELDS[3:]


def moves_at_all(mount: Mount) -> bool:
    """Return whether its pose changes over the shot."""
    return not mount.rigid


def at_rest(mount: Mount) -> bool:
    """Return whether its pose is the identity."""
    return all(getattr(mount, field).constant == 0.0 for field in (*MOVE_FIELDS, "length_m"))


def merged(first: Mount, second: Mount, scope: Scope) -> Iterator[Fields]:
    """Yield fields of a mount that may replace both, the second mounted on the first.

    scope: of one frame, for constant numbers.
    """
    if at_rest(second):
        yield _own(first)
    if at_rest(first):
        yield _own(second)
    if not moves_at_all(first) and not moves_at_all(second):
        yield _static_fields(local_pose(first, scope) @ local_pose(second, scope))
    yield from _shifted_behind(first, second, scope)
    yield from _shifted_before(first, second)
    yield from _rolled_behind(first, second, scope)
    yield from _panned_before(first, second, scope)


def _own(mount: Mount) -> Fields:
    return {field: getattr(mount, field) for field in (*MOVE_FIELDS, "pivot_m", "length_m")}


def _static_fields(local: Array) -> Fields:
    angles = rotations.angles_of(local[:, :3, :3])[0]
    values: dict[str, float] = dict(zip(MOVE_FIELDS, [*local[0, :3, 3], *angles], strict=True))
    return {
        **{field: fixed(float(value)) for field, value in values.items()},
        "pivot_m": (0.0, 0.0, 0.0),
        "length_m": fixed(0.0),
    }


def _shifted_behind(first: Mount, second: Mount, scope: Scope) -> Iterator[Fields]:
    """Return the second only shifts, by the same at all frames: the pivot of the first is that much farther back."""
    if moves_at_all(second) or any(getattr(second, field).constant != 0.0 for field in _ANGLES):
        return
    by = local_pose(second, scope)[0, :3, 3]
    yield {**_own(first), **_pivoted(first, np.array(first.pivot_m) - by)}


def _shifted_before(first: Mount, second: Mount) -> Iterator[Fields]:
    """Return the first only shifts: places add, where one of them stays the same."""
    if any(getattr(first, field).constant != 0.0 for field in (*_ANGLES, "length_m")):
        return
    places: Fields = {field: _added(getattr(first, field), getattr(second, field)) for field in _PLACE}
    if all(each is not None for each in places.values()):
        yield {**_own(second), **places}


def _rolled_behind(first: Mount, second: Mount, scope: Scope) -> Iterator[Fields]:
    """Return the pair if the second mount is static and rotates by roll alone."""
    roll = second.roll_deg.constant
    if (
        moves_at_all(second)
        or roll is None
        or any(getattr(second, field).constant != 0.0 for field in ("pan_deg", "tilt_deg"))
        or not first.length_m.nothing
    ):
        return
    turn = rotations.matrices(np.array([[0.0, 0.0, roll]]))[0]
    own = np.array([getattr(second, field).constant for field in _PLACE]) + second.pivot_m
    pivot = np.array(second.pivot_m) - turn.T @ (own - np.array(first.pivot_m))
    yield {
        **_own(first),
        **_pivoted(first, pivot),
        "roll_deg": first.roll_deg.map(lambda value: value + roll),
        "length_m": second.length_m,
    }


def _panned_before(first: Mount, second: Mount, scope: Scope) -> Iterator[Fields]:
    """Return the pair if the first mount rotates by pan alone and the second stays in place."""
    pan = _added(first.pan_deg, second.pan_deg)
    still = all(getattr(second, field).constant is not None for field in _PLACE)
    if (
        pan is None
        or not still
        or any(getattr(first, field).constant != 0.0 for field in ("tilt_deg", "roll_deg", "length_m"))
    ):
        return
    pivot, middle = np.array(second.pivot_m), second.position_m(scope)[0] + second.pivot_m
    if first.pan_deg.constant is not None and all(getattr(first, field).constant is not None for field in _PLACE):
        at = (local_pose(first, scope)[0] @ np.append(middle, 1.0))[:3] - pivot
        yield {
            **_own(second),
            "pan_deg": pan,
            **{field: fixed(float(value)) for field, value in zip(_PLACE, at, strict=True)},
        }
    elif not np.any(middle - np.array(first.pivot_m)):
        places: Fields = {
            field: getattr(first, field).map(lambda value, d=d: value + d)
            for field, d in zip(_PLACE, np.array(first.pivot_m) - pivot, strict=True)
        }
        yield {**_own(second), "pan_deg": pan, **places}


def _pivoted(mount: Mount, pivot_m: Array) -> Fields:
    """Return the fields for another pivot, with a position that keeps the pose."""
    by = np.array(mount.pivot_m) - pivot_m
    places: Fields = {
        field: getattr(mount, field).map(lambda value, d=d: value + d) for field, d in zip(_PLACE, by, strict=True)
    }
    return places | {"pivot_m": tuple(float(value) for value in pivot_m)}


def _added(a: Number, b: Number) -> Number | None:
    for one, other in ((a, b), (b, a)):
        constant = other.constant
        if constant is not None:
            return one if constant == 0.0 else one.map(lambda value, c=constant: value + c)  # type: ignore[misc]
    return None

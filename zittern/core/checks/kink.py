"""Corners in the path: the pace changes at once at a key."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.keys import KeyRef, SetInterp
from zittern.core.numbers.curves import Curve
from zittern.core.shot.mounts import MOVE_FIELDS
from zittern.core.units import Array

__all__ = ["kink"]

# A change of pace of so many px a frame is felt as a jerk.
_LEAST_PX = 4.0
_JUST = 1e-3
# A track that is keyed nearly every frame was recorded or baked: it has no corners but its own.
_BAKED_FRAMES = 3.0


def kink(study: Study) -> Iterator[Finding]:
    """At most one finding for each number of the move, at its hardest corner."""
    shot = study.shot
    for mount in shot.mounts:
        for field in MOVE_FIELDS:
            curve = getattr(mount, field).curve
            if curve is None or len(curve.keys) < 3:
                continue
            frames = curve.arrays.frames
            if np.median(np.diff(frames)) < _BAKED_FRAMES:
                continue
            inner = frames[1:-1]
            inner = inner[(inner > shot.first_frame) & (inner < shot.last_frame)]
            if not len(inner):
                continue
            corners = _corners(curve, inner) * _px_per_unit(study, field, inner)
            worst = int(np.argmax(corners))
            if corners[worst] <= _LEAST_PX:
                continue
            frame, at = float(inner[worst]), f"mount:{mount.id}.{field}"
            row = int(np.searchsorted(frames, frame))
            keys = tuple(KeyRef(at=at, frame=float(frames[each])) for each in (row - 1, row))
            yield Finding(
                check="kink",
                weight=True,
                at=at,
                frames=(frame, frame),
                amount=float(corners[worst]),
                unit="px a frame",
                px=float(corners[worst]),
                says=f"the path has a corner at frame {frame:g}: its pace changes by {corners[worst]:.0f} px a frame",
                fix=Fix(says="make the keys on both sides smooth", command=SetInterp(keys=keys, interp="smooth")),
            )


def _corners(curve: Curve, frames: Array) -> Array:
    """How much the pace of a curve changes at some of its keys, a frame; jumps are cuts and none. (N,)."""
    before, at, after = (curve.sample(frames + by) for by in (-_JUST, 0.0, _JUST))
    first, second = (at - before) / _JUST, (after - at) / _JUST
    jumps = curve.jumps((float(frames[0]), float(frames[-1])))[:, 1]
    return np.where(np.isin(frames, jumps), 0.0, np.abs(second - first))


def _px_per_unit(study: Study, field: str, frames: Array) -> Array:
    rows = np.clip(np.searchsorted(study.frames, frames), 0, len(study.frames) - 1)
    if field.endswith("_deg"):
        return np.asarray(np.radians(1.0) * study.f_px[rows])
    return np.asarray(study.f_px[rows] / study.distance_m[rows])

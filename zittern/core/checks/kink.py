"""Faults of the path itself: corners, where the speed changes abruptly at a key; stops at a key within a move.

Handles that overshoot the keys.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.address import number_at
from zittern.core.edits.keys import KeyRef, SetInterp
from zittern.core.edits.table import apply
from zittern.core.numbers.curves import Curve
from zittern.core.shot.mounts import MOVE_FIELDS
from zittern.core.units import Array

__all__ = ["kink"]

# A change of pace of so many px a frame is felt as a jerk.
_LEAST_PX = 4.0
_JUST = 1e-3
# A track that is keyed nearly every frame was recorded or baked: it has no corners but its own.
_BAKED_FRAMES = 3.0
# A stop: less than this share of the usual pace, on a way of so many px on both sides.
_STOPS_BELOW, _LEAST_WAY_PX = 0.12, 30.0
# Overshoot (px) that is visible, and the number of samples per segment.
_LEAST_PAST_PX, _LOOKED_AT = 15.0, 64
_FREE = 3


def kink(study: Study) -> Iterator[Finding]:
    """Find for each number of the move its hardest corner, a problem; else stops and overshoot."""
    for mount in study.shot.mounts:
        for field in MOVE_FIELDS:
            curve = getattr(mount, field).curve
            if curve is None or len(curve.keys) < 2 or np.median(np.diff(curve.arrays.frames)) < _BAKED_FRAMES:
                continue
            track = _Track(study, curve, f"mount:{mount.id}.{field}", field)
            found = track.found()
            if found is not None:
                yield found if track.is_fixed_by(found) else found.replace(fix=None)


@dataclass(frozen=True)
class _Track:
    """A keyed number of the move."""

    study: Study
    curve: Curve
    at: str
    field: str

    def found(self) -> Finding | None:
        """Return the worst of it."""
        return self.corner() or self.stop() or self.overshoot()

    def is_fixed_by(self, found: Finding) -> bool:
        """Return True if the fix removes every finding of this track."""
        assert found.fix is not None, "each finding of a track has one"
        curve = number_at(apply(self.study.shot, found.fix.command), self.at).curve
        return curve is not None and _Track(self.study, curve, self.at, self.field).found() is None

    @property
    def inner(self) -> Array:
        """Return frames of its keys inside the shot, without the first and the last. (N,)."""
        frames, shot = self.curve.arrays.frames[1:-1], self.study.shot
        return np.asarray(frames[(frames > shot.first_frame) & (frames < shot.last_frame)])

    def corner(self) -> Finding | None:
        """Its hardest corner."""
        if not len(self.inner):
            return None
        corners = _corners(self.curve, self.inner) * self.px(self.inner)
        worst = int(np.argmax(corners))
        if corners[worst] <= _LEAST_PX:
            return None
        frame = float(self.inner[worst])
        says = f"the path has a corner at frame {frame:g}: its pace changes by {corners[worst]:.0f} px a frame"
        # Smoothing one corner alone makes its neighbors harder, so the fix covers all of them.
        hard = np.searchsorted(self.curve.arrays.frames, self.inner[corners > _LEAST_PX]).tolist()
        rows = tuple(sorted({row for each in hard for row in (each - 1, each)}))
        return self.finding(True, (frame, frame), float(corners[worst]), "px a frame", says, rows)

    def stop(self) -> Finding | None:
        """Return the first key with flat handles at which it stops, though it goes on the same way."""
        frames, values, _ = self.curve.arrays
        for row in np.flatnonzero(np.isin(frames, self.inner)).tolist():
            before, after = values[row] - values[row - 1], values[row + 1] - values[row]
            px = float(self.px(frames[row : row + 1])[0])
            if before * after <= 0.0 or min(abs(before), abs(after)) * px < _LEAST_WAY_PX:
                continue
            around = self.curve.sample(frames[row] + np.array([-1.0, 1.0]))
            usual = min(abs(before) / (frames[row] - frames[row - 1]), abs(after) / (frames[row + 1] - frames[row]))
            pace = abs(float(around[1] - around[0])) / 2.0
            if pace < _STOPS_BELOW * usual:
                frame = float(frames[row])
                says = f"the path stops at frame {frame:g} within the move"
                return self.finding(False, (frame, frame), usual * px, "px a frame", says, (row - 1, row))
        return None

    def overshoot(self) -> Finding | None:
        """Return the segment whose handles carry it furthest past both of its keys."""
        frames, values, kinds = self.curve.arrays
        worst: tuple[float, int] | None = None
        for row in np.flatnonzero(kinds[:-1] == _FREE).tolist():
            if frames[row + 1] < self.study.shot.first_frame or frames[row] > self.study.shot.last_frame:
                continue
            course = self.curve.sample(np.linspace(frames[row], frames[row + 1], _LOOKED_AT))
            low, high = sorted((values[row], values[row + 1]))
            past = max(float(np.max(course)) - high, low - float(np.min(course)))
            px = past * float(self.px(frames[row : row + 1])[0])
            if px > _LEAST_PAST_PX and (worst is None or px > worst[0]):
                worst = px, row
        if worst is None:
            return None
        px, row = worst
        first, last = float(frames[row]), float(frames[row + 1])
        says = f"handles carry the path {px:.0f} px past its keys between frames {first:g} and {last:g}"
        return self.finding(False, (first, last), px, "px", says, (row,))

    def finding(
        self, weight: bool, frames: tuple[float, float], px: float, unit: str, says: str, rows: tuple[int, ...]
    ) -> Finding:
        """Return a finding; its fix makes the segments that leave some keys smooth."""
        keys = tuple(KeyRef(at=self.at, frame=float(self.curve.arrays.frames[row])) for row in rows)
        return Finding(
            check="kink",
            weight=weight,
            at=self.at,
            frames=frames,
            amount=px,
            unit=unit,
            px=px,
            says=says,
            fix=Fix(says="make it smooth there", command=SetInterp(keys=keys, interp="smooth")),
        )

    def px(self, frames: Array) -> Array:
        """Return the picture movement for a unit of it at some frames. (N,)."""
        study = self.study
        rows = np.clip(np.searchsorted(study.frames, frames), 0, len(study.frames) - 1)
        if self.field.endswith("_deg"):
            return np.asarray(np.radians(1.0) * study.f_px[rows])
        return np.asarray(study.f_px[rows] / study.distance_m[rows])


def _corners(curve: Curve, frames: Array) -> Array:
    """Return the change of speed of a curve at some of its keys, per frame; jumps are cuts and count as none. (N,)."""
    before, at, after = (curve.sample(frames + by) for by in (-_JUST, 0.0, _JUST))
    first, second = (at - before) / _JUST, (after - at) / _JUST
    jumps = curve.jumps((float(frames[0]), float(frames[-1])))[:, 1]
    return np.where(np.isin(frames, jumps), 0.0, np.abs(second - first))

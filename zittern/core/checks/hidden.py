"""The subject behind plates."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.plates import SetPlateDistance
from zittern.core.plates.coverage import depths_m
from zittern.core.plates.surface import covers, meets

__all__ = ["hidden"]

# Fewer frames than this are over before anybody minds.
_LEAST_FRAMES = 3
# A plate is brought so much further away than the subject.
_BEHIND = 1.1


def hidden(study: Study) -> Iterator[Finding]:
    """Plates that hang between the lens and the middle of the subject, each by itself."""
    shot, subject = study.shot, study.shot.subject
    if subject is None or not shot.plates:
        return
    eye = study.motion.pose.position_m
    away = subject.position_m(study.scope) - eye
    depths = depths_m(shot)
    for plate in shot.plates:
        at_m, share = meets(plate, study.scope, eye, away[:, None, :])
        before = covers(plate, at_m)[:, 0] & (np.nan_to_num(share[:, 0], nan=np.inf) < 1.0)
        if before.sum() < _LEAST_FRAMES:
            continue
        further = float(np.max(np.linalg.norm(away, axis=1))) * _BEHIND
        command = SetPlateDistance(plate=plate.id, distance_m=round(further, 2)) if depths[plate.id] > 0.0 else None
        says = f"hang “{plate.name}” at {further:.2f} m, behind the subject, as large in the picture as now"
        yield Finding(
            check="hidden",
            weight=True,
            at=f"plate:{plate.id}",
            frames=stretch(study.frames, before),
            amount=float(before.sum()),
            unit="frames",
            says=f"“{subject.name}” is behind “{plate.name}” in {int(before.sum())} frames",
            fix=None if command is None else Fix(says=says, command=command),
        )

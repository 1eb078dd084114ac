"""The lens goes through a plate, or through the subject."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding
from zittern.core.checks.study import Study, stretch
from zittern.core.plates.surface import covers, meets
from zittern.core.shot.plates import Plate
from zittern.core.units import BoolArray

__all__ = ["through"]

_LEAST_WAY_M = 1e-9


def through(study: Study) -> Iterator[Finding]:
    """Frames after which the lens is on another side of something that is there, and frames in which it is inside of
    the subject.
    """
    for plate in study.shot.plates:
        passed = _passed(study, plate)
        if passed.any():
            frames = stretch(study.frames[:-1], passed)
            yield Finding(
                check="through",
                weight=True,
                at=f"plate:{plate.id}",
                frames=frames,
                amount=float(passed.sum()),
                unit="times",
                says=f"the lens goes through “{plate.name}” after frame {frames[0]:g}",
            )
    yield from _in_subject(study)


def _passed(study: Study, plate: Plate) -> BoolArray:
    """Whether the way from each frame to the next goes through a plate. (F - 1,)."""
    place = study.motion.pose.position_m
    way = np.diff(place, axis=0)
    at = study.scope.over(study.frames[:-1])
    met, share = meets(plate, at, place[:-1], way[:, None, :])
    goes = study.neighbours & (np.linalg.norm(way, axis=1) > _LEAST_WAY_M)
    inside: BoolArray = covers(plate, met)[:, 0] & (np.nan_to_num(share[:, 0], nan=np.inf) <= 1.0) & goes
    return inside


def _in_subject(study: Study) -> Iterator[Finding]:
    subject = study.shot.subject
    if subject is None:
        return
    reach = subject.corners_m.max(axis=0)
    off = np.abs(study.motion.pose.position_m - subject.position_m(study.scope))
    inside = np.all(off < reach, axis=1)
    if inside.any():
        frames = stretch(study.frames, inside)
        yield Finding(
            check="through",
            weight=True,
            at="shot.subject",
            frames=frames,
            amount=float(inside.sum()),
            unit="frames",
            says=f"the lens is inside of “{subject.name}” in {int(inside.sum())} frames, from {frames[0]:g} on",
        )

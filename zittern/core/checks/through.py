"""The lens passes through a plate, an object of the set, the ground or the subject."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding
from zittern.core.checks.study import Study, stretch
from zittern.core.plates.set_pieces import first_met
from zittern.core.plates.surface import covers, meets
from zittern.core.shot.plates import Plate
from zittern.core.units import BoolArray

__all__ = ["passes_through"]

_LEAST_WAY_M = 1e-9


def passes_through(study: Study) -> Iterator[Finding]:
    """Find frames after which the lens is on another side of an object.

    Also frames in which it is inside the subject.
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
    yield from _through_pieces(study)
    yield from _in_ground(study)
    yield from _in_subject(study)


def _through_pieces(study: Study) -> Iterator[Finding]:
    """Find up to one collision, named after the first object. Parts that carry the camera are ignored."""
    carriers = {mount.ride.object for mount in study.shot.mounts if mount.ride is not None}
    place, seconds = study.motion.pose.position_m, study.set_seconds
    far = np.linalg.norm(np.diff(place, axis=0), axis=1)
    goes = np.flatnonzero(study.neighbours & (far > _LEAST_WAY_M))
    passed = np.zeros(len(far), dtype=bool)
    first: tuple[float, str] | None = None
    for piece in study.set_pieces.pieces:
        if not len(goes) or carriers & piece.names:
            continue
        met = first_met(piece, place[goes], place[goes + 1], seconds[goes], seconds[goes + 1])
        rows = goes[np.isfinite(met)]
        passed[rows] = True
        if len(rows) and (first is None or study.frames[rows[0]] < first[0]):
            first = float(study.frames[rows[0]]), piece.name
    if study.set_pieces.left_out:
        yield Finding(
            check="through",
            weight=False,
            at="shot.set_id",
            frames=(float(study.frames[0]), float(study.frames[-1])),
            amount=float(study.set_pieces.left_out),
            unit="triangles",
            says=f"{study.set_pieces.left_out} triangles of the set are ignored: its meshes are too dense",
        )
    if first is not None:
        yield Finding(
            check="through",
            weight=True,
            at="shot.set_id",
            frames=stretch(study.frames[:-1], passed),
            amount=float(passed.sum()),
            unit="times",
            says=f"the lens goes through “{first[1]}” after frame {first[0]:g}",
        )


def _in_ground(study: Study) -> Iterator[Finding]:
    """Return where the lens is below the ground plane, at height 0."""
    height = study.motion.pose.position_m[:, 1]
    under = height < 0.0
    if study.shot.set_id is None and under.any():
        frames = stretch(study.frames, under)
        yield Finding(
            check="through",
            weight=True,
            at="shot.set_id",
            frames=frames,
            amount=float(under.sum()),
            unit="frames",
            says=f"the lens is under the ground in {int(under.sum())} frames, by up to {-float(height.min()):.2f} m",
        )


def _passed(study: Study, plate: Plate) -> BoolArray:
    """Return whether the path between adjacent frames crosses a plate. (F - 1,)."""
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

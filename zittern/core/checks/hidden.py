"""The subject hidden by plates or by objects of the set."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.plates import SetPlateDistance
from zittern.core.plates.coverage import depths_m
from zittern.core.plates.set_pieces import first_met
from zittern.core.plates.surface import covers, meets
from zittern.core.shot.shot import Subject
from zittern.core.units import BoolArray

__all__ = ["hidden"]

# Fewer frames than this are over before anybody minds.
_LEAST_FRAMES = 3
# Factor by which the distance of a plate exceeds that of the subject.
_BEHIND = 1.1


# Parts of the subject itself are within this share of its size from its center.
_OF_ITSELF = 0.6
# Frames for which the set is looked through; of more only every other, and so on.
_MOST_LOOKS = 1_500


def hidden(study: Study) -> Iterator[Finding]:
    """Find plates between the lens and the center of the subject, each separately, and objects."""
    if study.shot.subject is None:
        return
    yield from _behind_plates(study, study.shot.subject)
    yield from _behind_pieces(study, study.shot.subject)


def _behind_pieces(study: Study, subject: Subject) -> Iterator[Finding]:
    """Find up to one occlusion, named after the object that hides it longest.

    The object that is the subject does not hide itself.
    """
    rows = np.arange(0, len(study.frames), max(1, -(-len(study.frames) // _MOST_LOOKS)))
    eye = study.motion.pose.position_m[rows]
    away = subject.position_m(study.scope)[rows] - eye
    far = np.linalg.norm(away, axis=1)
    own = _OF_ITSELF * float(np.max(2.0 * subject.corners_m))
    share = np.maximum(far - own, 0.0) / np.maximum(far, own)
    stop = eye + share[:, None] * away
    frames: dict[str, BoolArray] = {}
    for piece in study.set_pieces.pieces:
        if subject.object not in piece.names:
            met = np.isfinite(first_met(piece, eye, stop, study.set_seconds[rows])) & (share > 0.0)
            frames[piece.name] = frames.get(piece.name, np.zeros(len(rows), dtype=bool)) | met
    together = np.any(list(frames.values()), axis=0) if frames else np.zeros(len(rows), dtype=bool)
    if together.sum() < _LEAST_FRAMES:
        return
    longest = max(frames, key=lambda name: int(frames[name].sum()))
    others = sum(1 for name, each in frames.items() if name != longest and each.any())
    count = round(float(together.mean()) * len(study.frames))
    yield Finding(
        check="hidden",
        weight=True,
        at="shot.set_id",
        frames=stretch(study.frames[rows], together),
        amount=float(count),
        unit="frames",
        says=f"“{subject.name}” is behind “{longest}”{f' and {others} more' if others else ''} in {count} frames",
    )


def _behind_plates(study: Study, subject: Subject) -> Iterator[Finding]:
    shot = study.shot
    if not shot.plates:
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
        says = f"move “{plate.name}” to {further:.2f} m, behind the subject, with the same size in the picture"
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

"""The subject out of the picture, or of its safe area."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.placing import AimCamera
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.motion.aim import framing_of
from zittern.core.motion.picture import on_screen_px
from zittern.core.motion.pose import Pose
from zittern.core.motion.targets import name_of
from zittern.core.readings.framing import framed, misses_px
from zittern.core.units import Array

__all__ = ["framing"]

# The middle part of the picture's width and height in which what matters should stay.
_SAFE = 0.9
# Fewer frames than this are over before anybody minds.
_LEAST_FRAMES = 3
# Times the picture's height: what is larger does not fit; the share that it is brought to.
_LARGE, _FITS = 1.6, 0.9
# Framing error (share of the width) and share of the frames from which on the operator has lost the subject.
_FAR_OFF, _FAR_LONG = 0.2, 0.3
_AHEAD_M = 1e-6
_FAR = 1e3


def framing(study: Study) -> Iterator[Finding]:
    """Find up to one problem or hint: the subject leaves the picture, or else the safe area because of the shake."""
    subject = study.shot.subject
    if subject is None:
        return
    seen, bare = _place(study, study.motion.pose), _place(study, study.motion.bare)
    outside = seen > 1.0
    if outside.sum() >= _LEAST_FRAMES:
        worst = int(np.argmax(seen))
        shaken = bool(np.all(bare[outside] <= 1.0))
        yield Finding(
            check="framing",
            weight=True,
            at="shot.subject",
            frames=stretch(study.frames, outside),
            amount=float(outside.mean() * 100.0),
            unit="% of the frames",
            px=float((min(seen[worst], _FAR) - 1.0) * study.shot.picture.width_px / 2.0),
            says=f"“{subject.name}” is out of frame in {int(outside.sum())} frames"
            + ("; without the layers it is not" if shaken else ""),
            fix=_aiming_fix(study, worst, shaken),
        )
        return
    too_large = _larger(study)
    if too_large is not None:
        yield too_large
        return
    off = _off_target(study)
    if off is not None:
        yield off
    unsafe = (seen > _SAFE) & (bare <= _SAFE)
    if unsafe.sum() >= _LEAST_FRAMES:
        yield Finding(
            check="framing",
            weight=False,
            at="shot.subject",
            frames=stretch(study.frames, unsafe),
            amount=float(unsafe.mean() * 100.0),
            unit="% of the frames",
            px=float((np.max(seen[unsafe]) - _SAFE) * study.shot.picture.width_px / 2.0),
            says=f"the shake takes “{subject.name}” out of the safe area in {int(unsafe.sum())} frames",
            fix=_aiming_fix(study, int(np.argmax(np.where(unsafe, seen, 0.0))), True),
        )


def _larger(study: Study) -> Finding | None:
    """Return the finding for a subject that is taller than the picture."""
    shot = study.shot
    assert shot.subject is not None, "asked for with a subject only"
    share = shot.subject.height_m / study.distance_m * study.f_px / shot.picture.height_px
    large = share > _LARGE
    if large.sum() < _LEAST_FRAMES:
        return None
    frame = float(study.frames[int(np.argmax(share))])
    return Finding(
        check="framing",
        weight=True,
        at="shot.subject",
        frames=stretch(study.frames, large),
        amount=float(np.max(share) * 100.0),
        unit="% of the picture's height",
        says=f"“{shot.subject.name}” is up to {np.max(share):.1f} times as high as the picture",
        fix=Fix(says=f"step back at frame {frame:g}", command=AimCamera(frame=frame, fill=_FITS, key=True)),
    )


def _off_target(study: Study) -> Finding | None:
    """Return the finding for a subject that is far off its framing target for long."""
    shot = study.shot
    if not framed(shot):
        return None
    width = shot.picture.width_px
    off = np.linalg.norm(misses_px(shot, study.motion)[:, :2], axis=1)
    far = off > _FAR_OFF * width
    if far.mean() < _FAR_LONG:
        return None
    called = name_of(shot, framing_of(shot).target)
    return Finding(
        check="framing",
        weight=False,
        at="shot.subject",
        frames=stretch(study.frames, far),
        amount=float(far.mean() * 100.0),
        unit="% of the frames",
        px=float(np.max(off)),
        says=f"“{called}” has a framing error above {_FAR_OFF:.0%} of the width in {far.mean():.0%} of the frames",
    )


def _place(study: Study, pose: Pose) -> Array:
    """Return the distance of the subject from the center of the picture, 1 at its edges. (F,)."""
    shot = study.shot
    assert shot.subject is not None, "asked for with a subject only"
    shown, ahead = on_screen_px(shot, pose, shot.subject.position_m(study.scope))
    half = np.array([shot.picture.width_px, shot.picture.height_px]) / 2.0
    return np.where(ahead, np.max(np.abs(shown) / half, axis=1), _FAR)


def _aiming_fix(study: Study, worst: int, shaken: bool) -> Fix | None:
    shot = study.shot
    if shaken and shot.hold is None:
        command = SetValues(values=(Assignment(at="shot.hold", value={}),))
        return Fix(says="hold the framing: removes slow drift, keeps the fast shake", command=command)
    if shaken:
        return None
    frame = float(study.frames[worst])
    return Fix(says=f"aim the camera at it at frame {frame:g}", command=AimCamera(frame=frame, key=True))

"""Framing of the subject: its error, when it leaves the picture, the delay of the operator."""

from __future__ import annotations

import numpy as np

from zittern.core.documents.doc import Doc
from zittern.core.motion.aim import aiming, framing_of, slack_deg, wanted_deg
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.facts import scope_at
from zittern.core.motion.picture import on_screen_px
from zittern.core.motion.targets import followable, position_m
from zittern.core.rig import rotations
from zittern.core.runtime.later import scipy_part
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["FramingReport", "Turn", "framed", "misses_px", "report"]

# Turns of the subject smaller than the whole slack and this (degrees) are not counted as changes of direction.
_TURN_DEG = 1.0
# An operator who has not turned by then (s) is not turning after that.
_MOST_LAG_S = 3.0
_FAR_PX = 1e6


class Turn(Doc):
    """A change of direction of the subject, at a frame, and how many frames later the camera turns as well.

    Nothing when it does not.
    """

    frame: float
    lag_frames: float | None


class FramingReport(Doc):
    """Framing of a shot with a subject.

    outside: ranges [first, last] of frames in which it is off screen. reaction_frames, lag_frames: of the operator,
    time before a response, and delay of the picture for a steady subject; least_lag_frames: minimum lag with this
    anticipation.
    """

    reaction_frames: float | None
    lag_frames: float | None
    least_lag_frames: float | None
    largest_px: float
    largest_at: float
    rms_px: float
    turns: tuple[Turn, ...]
    outside: tuple[tuple[float, float], ...]


def framed(shot: Shot) -> bool:
    """Return whether the shot has a framing target."""
    return aiming(shot) is not None or (shot.hold is not None and followable(shot, framing_of(shot)))


def misses_px(shot: Shot, motion: Motion) -> Array:
    """Return the framing error of the subject, right and up, in pixels, and whether it is on screen (1) or not (0).

    Returns
    -------
    (F, 3) float64, pixels, pixels, and 1 or 0.
    """
    framing = framing_of(shot)
    if not followable(shot, framing):
        return np.zeros((len(motion.frames), 3))
    scope = scope_at(shot, motion.frames)
    shown, ahead = on_screen_px(shot, motion.pose, position_m(shot, framing, scope))
    at = np.where(ahead[:, None], shown, _FAR_PX)
    size = np.array([shot.picture.width_px, shot.picture.height_px])
    inside = ahead & np.all(np.abs(at) <= size / 2.0, axis=1)
    place = np.column_stack([framing.across_percent.sample(scope), framing.up_percent.sample(scope)])
    wanted = (place / 100.0 - 0.5) * size
    return np.column_stack([np.clip(at - wanted, -_FAR_PX, _FAR_PX), inside])


def report(shot: Shot, motion: Motion) -> FramingReport | None:
    """Of a motion over adjacent frames; None without a subject."""
    if not followable(shot, framing_of(shot)):
        return None
    misses = misses_px(shot, motion)
    off = np.hypot(misses[:, 0], misses[:, 1])
    worst = int(np.argmax(off))
    mount = aiming(shot)
    operator = mount.operator if mount else None
    return FramingReport(
        reaction_frames=None if operator is None else operator.reaction_s * shot.fps.value,
        lag_frames=None if operator is None else operator.steady_lag_s * shot.fps.value,
        least_lag_frames=None if operator is None else operator.least_lag_s * shot.fps.value,
        largest_px=float(off[worst]),
        largest_at=float(motion.frames[worst]),
        rms_px=float(np.sqrt(np.mean(off * off))),
        turns=_turns(shot, motion),
        outside=tuple(_stretches(motion.frames, misses[:, 2])),
    )


def _turns(shot: Shot, motion: Motion) -> tuple[Turn, ...]:
    """Change of direction of what the operator follows, sideways and up and down, with the lag of each."""
    mount = aiming(shot)
    if mount is None or mount.operator is None or len(motion.frames) < 3:
        return ()
    operator = mount.operator
    scope = scope_at(shot, motion.frames)
    wanted = wanted_deg(shot, mount, operator.replace(anticipation_s=0.0), scope, motion.frames)
    slack = np.mean(slack_deg(shot, operator, scope), axis=0)
    turned = rotations.continuous(motion.locals_[mount.id][:, :3, :3])[:, :2]
    found = [
        turn
        for axis, on in ((0, operator.pan), (1, operator.tilt))
        if on
        for turn in _lags(
            motion.frames, wanted[:, axis], turned[:, axis], _TURN_DEG + 2.0 * slack[axis], _MOST_LAG_S * shot.fps.value
        )
    ]
    return tuple(sorted(found, key=lambda turn: turn.frame))


def _lags(frames: Array, wanted: Array, turned: Array, least_deg: float, most_frames: float) -> list[Turn]:
    found = []
    for sign in (1.0, -1.0):
        answers = _peaks(frames, sign * turned, 0.2 * _TURN_DEG)
        for at in _peaks(frames, sign * wanted, least_deg):
            later = answers[(answers >= at - most_frames / 3.0) & (answers <= at + most_frames)]
            found.append(Turn(frame=float(at), lag_frames=float(later[0] - at) if len(later) else None))
    return found


def _peaks(frames: Array, values: Array, prominence: float) -> Array:
    """Frames of the peaks of a curve, between samples too (by a parabola through three of them). (N,)."""
    signal = scipy_part("signal")
    rows, _ = signal.find_peaks(values, prominence=prominence)
    before, at, after = values[rows - 1], values[rows], values[rows + 1]
    bend = before - 2.0 * at + after
    shift = np.where(bend < 0.0, 0.5 * (before - after) / np.where(bend < 0.0, bend, -1.0), 0.0)
    return np.asarray(frames[rows] + np.clip(shift, -0.5, 0.5), dtype=np.float64)


def _stretches(frames: Array, inside: Array) -> list[tuple[float, float]]:
    """Return the ranges in which it is outside."""
    edges = np.flatnonzero(np.diff(np.concatenate(([False], inside < 0.5, [False])).astype(np.int8)))
    return [(float(frames[a]), float(frames[b - 1])) for a, b in zip(edges[::2], edges[1::2], strict=True)]

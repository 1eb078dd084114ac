"""Pointer input that changes a number while the shot plays, or draws over it, as keys."""

from __future__ import annotations

import math
from typing import Annotated

import numpy as np
from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.edits.address import number_at, scope_of, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.driven import check_free
from zittern.core.edits.titles import title_of
from zittern.core.numbers.curves import Curve, Frame, Key
from zittern.core.numbers.param import Number, on_curve
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["DrawKeys", "RecordKeys", "Sample", "keys_outside", "thin_keys", "thinned", "with_recorded"]

# Tolerance for the omission of samples: a share of the recorded range.
TOLERANCE_SHARE = 0.01
# A hand that draws is less exact.
_DRAWN_SHARE = 0.025
# A line that cannot end at a sample may end further on: so many are tried.
_LOOK_ON = 64


class Sample(Doc):
    """Pointer position at a frame."""

    frame: Frame
    value: float


class RecordKeys(CommandDoc):
    """Replace the keys within a range with recorded ones.

    The number of keys is the minimum for linear segments within a hundredth of the recorded range.
    """

    at: Annotated[str, Field(max_length=300)]
    samples: Annotated[tuple[Sample, ...], Field(min_length=1, max_length=100_000)]

    def apply(self, shot: Shot) -> Shot:
        """With several samples at a frame, the last is used.

        Raises EditError for what is no number or follows a formula, and for values out of range.
        """
        return with_recorded(shot, self.at, *_line(self.samples))

    def label(self, shot: Shot) -> str:
        """Return `Record dial panic`."""
        frames = [each.frame for each in self.samples]
        return f"Record {title_of(shot, [self.at])} from frame {min(frames):g} to {max(frames):g}"


class DrawKeys(CommandDoc, label="Draw {at}"):
    """Replace the content of a range with keys along a hand-drawn line.

    Outside of it everything stays. The number of keys is the minimum for linear segments within a fortieth of the drawn
    range or of the previous one.
    """

    at: Annotated[str, Field(max_length=300)]
    samples: Annotated[tuple[Sample, ...], Field(min_length=1, max_length=100_000)]

    def apply(self, shot: Shot) -> Shot:
        """With several samples at a frame, the last is used.

        Raises EditError for what is no number or follows a formula, and for values out of range.
        """
        check_free(shot, self.at)
        before = number_at(shot, self.at)
        frames, values = _line(self.samples)
        spread = max(float(np.ptp(values)), float(np.ptp([*before.set_values(), *values.tolist()])))
        keys = keys_outside(before, frames)
        for edge in (float(frames[0]) - 1.0, float(frames[-1]) + 1.0):
            if shot.first_frame <= edge <= shot.last_frame and edge not in keys:
                keys[edge] = Key(frame=edge, value=before.at(scope_of(shot, self.at, edge)), interp="linear")
        return _keyed(shot, self.at, keys | thin_keys(frames, values, _DRAWN_SHARE * spread))


def with_recorded(shot: Shot, at: str, frames: Array, values: Array) -> Shot:
    """Return a shot with the recorded values of a number as keys, in place of those within their stretch.

    Raises EditError for a number that follows a formula, and for values out of range.

    Parameters
    ----------
    frames: (F,) rising.
    values: (F,) in the unit of the number.
    """
    check_free(shot, at)
    recorded = thin_keys(frames, values, TOLERANCE_SHARE * float(np.ptp(values)))
    return _keyed(shot, at, keys_outside(number_at(shot, at), frames) | recorded)


def _line(samples: tuple[Sample, ...]) -> tuple[Array, Array]:
    """Return frames, in order, and the last value at each. (N,), (N,)."""
    last = dict(sorted({each.frame: each.value for each in samples}.items()))
    return np.array(list(last)), np.array(list(last.values()))


def keys_outside(number: Number, frames: Array) -> dict[float, Key]:
    """Return the keys that a number has before and after a stretch of frames.

    Parameters
    ----------
    frames: (F,) rising.

    Returns
    -------
    By frame.
    """
    keys = () if number.curve is None else number.curve.keys
    return {key.frame: key for key in keys if not frames[0] <= key.frame <= frames[-1]}


def thin_keys(frames: Array, values: Array, tolerance: float) -> dict[float, Key]:
    """Return keys on linear segments along samples, as few as possible within a tolerance.

    Parameters
    ----------
    frames: (F,) rising.
    values: (F,) in the unit of the number.

    Returns
    -------
    By frame.
    """
    keep = thinned(frames, values, tolerance)
    return {
        frame: Key(frame=frame, value=value, interp="linear")
        for frame, value in zip(frames[keep].tolist(), values[keep].tolist(), strict=True)
    }


def _keyed(shot: Shot, at: str, keys: dict[float, Key]) -> Shot:
    return set_at(shot, at, on_curve(Curve(keys=tuple(key for _, key in sorted(keys.items())))))


def thinned(frames: Array, values: Array, tolerance: float) -> Array:
    """Return the samples that must stay so that straight lines between them pass all others within a tolerance.

    Each line extends as long as its slope allows (Imai and Iri 1986, a cone from each kept sample). frames increase.

    Parameters
    ----------
    frames : (N,) float64, frame numbers, rising.
    values : (N,) float64, samples at these frames, in any unit.

    Returns
    -------
    (N,) bool; the first and the last stay.
    """
    keep = np.zeros(len(frames), dtype=bool)
    x, y = frames.tolist(), values.tolist()
    start = 0
    while start < len(x):
        keep[start] = True
        start = _furthest(x, y, start, tolerance)
    return keep


def _furthest(x: list[float], y: list[float], start: int, tolerance: float) -> int:
    """Return the last possible end of the line from a sample; past the end for the last one.

    The search extends to a multiple of the current length.
    """
    low, high = -math.inf, math.inf
    found = at = start + 1
    while at < len(x) and at - found <= found - start + _LOOK_ON:
        run, rise = x[at] - x[start], y[at] - y[start]
        if low <= rise / run <= high:
            found = at
        low, high = max(low, (rise - tolerance) / run), min(high, (rise + tolerance) / run)
        if low > high:
            break
        at += 1
    return found

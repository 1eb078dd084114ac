"""Numbers that their limits clamp, and a lens at its stop."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.axes import axis_index
from zittern.core.checks.finding import Finding
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.table import place_of
from zittern.core.numbers.param import Number, formula_of
from zittern.core.optics.lens import LEAST_FOCAL_MM
from zittern.core.shot.glass import NEAREST_FOCUS_M
from zittern.core.units import Array

__all__ = ["limits"]

_SLACK = 1e-9


def limits(study: Study) -> Iterator[Finding]:
    """Find keyed numbers and formulas with values outside the limits of their fields."""
    for at, number in study.numbers():
        if number.constant is not None or number.limits == (-np.inf, np.inf):
            continue
        least, most = number.limits
        values = _free(study, number)
        if values is None:
            continue
        beyond = np.maximum(values - most, least - values)
        over = beyond > _SLACK * max(1.0, abs(least), abs(most))
        if not np.any(over):
            continue
        amount, called = float(np.max(beyond)), place_of(study.shot, at) or at
        yield Finding(
            check="limits",
            weight=False,
            at=at,
            frames=stretch(study.frames, over),
            amount=amount,
            unit="",
            says=f"{called} is up to {amount:.4g} outside {least:g} to {most:g} and is clamped",
        )
    yield from _lens_at_its_stop(study)
    yield from _focus_at_its_stop(study)


def _lens_at_its_stop(study: Study) -> Iterator[Finding]:
    """Find frames in which the zoom would make the focal length shorter than possible."""
    zoom = study.motion.total[:, axis_index("zoom")]
    wanted_mm = study.shot.lens_mm(study.scope) * (1.0 + zoom / 100.0)
    reason = f"zoom goes down to {np.min(zoom):.0f} %"
    yield from _at_stop(study, "shot.focal_mm", "lens", wanted_mm, LEAST_FOCAL_MM, "mm", reason)


def _focus_at_its_stop(study: Study) -> Iterator[Finding]:
    """Find frames in which layers would focus nearer than possible."""
    focus = study.motion.total[:, axis_index("focus")]
    wanted_m = study.shot.focus_m(study.scope) * (1.0 + focus / 100.0)
    at = "shot.glass.focus_m" if study.shot.glass is not None else "shot.focal_mm"
    reason = f"layers lower it by {-np.min(focus):.0f} %"
    yield from _at_stop(study, at, "focus", wanted_m, NEAREST_FOCUS_M, "m", reason)


def _at_stop(
    study: Study, at: str, name: str, wanted: Array, least: float, unit: str, reason: str
) -> Iterator[Finding]:
    """Find frames in which a value of the lens would go below the least possible."""
    at_stop = wanted < least
    if np.any(at_stop):
        yield Finding(
            check="limits",
            weight=False,
            at=at,
            frames=stretch(study.frames, at_stop),
            amount=float(least - np.min(wanted)),
            unit=unit,
            says=f"the {name} is at its stop of {least:g} {unit} in {int(at_stop.sum())} frames: {reason}",
        )


def _free(study: Study, number: Number) -> Array | None:
    """Return the number without limits, where it is known. (F,)."""
    if number.curve is not None:
        return number.curve.sample(study.frames)
    formula = formula_of(number)
    if formula is None or not formula.text:
        return None
    try:
        free = type(formula)(text=formula.text, before=formula.before)
        return free.sample(study.scope)
    except KeyError:
        return None

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
    wanted = study.shot.lens_mm(study.scope) * (1.0 + zoom / 100.0)
    at_stop = wanted < LEAST_FOCAL_MM
    if not np.any(at_stop):
        return
    yield Finding(
        check="limits",
        weight=False,
        at="shot.focal_mm",
        frames=stretch(study.frames, at_stop),
        amount=float(LEAST_FOCAL_MM - np.min(wanted)),
        unit="mm",
        says=f"the lens is at its stop of {LEAST_FOCAL_MM:g} mm in {int(at_stop.sum())} frames: zoom goes down to "
        f"{np.min(zoom):.0f} %",
    )


def _focus_at_its_stop(study: Study) -> Iterator[Finding]:
    """Find frames in which layers would focus nearer than possible."""
    focus = study.motion.total[:, axis_index("focus")]
    wanted = study.shot.focus_m(study.scope) * (1.0 + focus / 100.0)
    at_stop = wanted < NEAREST_FOCUS_M
    if not np.any(at_stop):
        return
    yield Finding(
        check="limits",
        weight=False,
        at="shot.glass.focus_m" if study.shot.glass is not None else "shot.focal_mm",
        frames=stretch(study.frames, at_stop),
        amount=float(NEAREST_FOCUS_M - np.min(wanted)),
        unit="m",
        says=f"the focus is at its stop of {NEAREST_FOCUS_M:g} m in {int(at_stop.sum())} frames: layers lower it by "
        f"{-np.min(focus):.0f} %",
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

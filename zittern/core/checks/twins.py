"""Axes that move alike: the picture goes along a diagonal."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.layers import LinkAxes
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.shot.layers import Layer
from zittern.core.units import Array

__all__ = ["twins"]

# From this correlation on the eye sees a line.
_ALIKE = 0.8
# Smaller motion (px, twice the root of the mean square) than this nobody sees; shorter motion than this says nothing.
_LEAST_PX, _LEAST_FRAMES = 1.0, 36
# Fewer swings to and fro go along a line by chance.
_LEAST_SWINGS = 7
_PAN, _TILT = 0, 1
_QUARTER_DEG = 90.0


def twins(study: Study) -> Iterator[Finding]:
    """Of each layer: whether its pan and its tilt are one motion. On purpose (linked) it has no weight."""
    for _, layer in study.layers:
        if layer.id not in study.counted or layer.source.blows:
            continue
        if not {"pan", "tilt"} <= set(layer.moving_axes):
            continue
        moved = study.layer_px(layer.id)
        heard = study.motion.weights[layer.id] > 0.0
        if heard.sum() < _LEAST_FRAMES:
            continue
        pan, tilt = moved[heard, _PAN], moved[heard, _TILT]
        if min(np.std(pan), np.std(tilt)) * 2.0 < _LEAST_PX:
            continue
        if min(_swings(pan), _swings(tilt)) < _LEAST_SWINGS:
            continue
        alike = correlation(pan, tilt)
        if abs(alike) <= _ALIKE:
            continue
        linked = {"pan", "tilt"} & {name for name in ("pan", "tilt") if layer.axes.of(name).linked_to is not None}
        yield Finding(
            check="twins",
            weight=not linked,
            at=f"layer:{layer.id}",
            frames=stretch(study.frames, heard),
            amount=round(alike, 3),
            unit="",
            px=float(2.0 * np.std(pan)),
            says=f"pan and tilt of “{layer.name}” move alike (correlation {alike:.2f}): along a diagonal",
            fix=_apart(layer, bool(linked)),
        )


def _apart(layer: Layer, linked: bool) -> Fix | None:
    """Lets tilt go its own way, where a number does."""
    if linked:
        return Fix(says="let tilt move on its own", command=LinkAxes(layer=layer.id, axes=("tilt", "pan"), to=None))
    if hasattr(layer.source, "phase_deg"):
        at, pan = f"layer:{layer.id}.source.phase_deg", layer.source.phase_deg.pan.constant
        if pan is None:
            return None
        turned = (pan + _QUARTER_DEG) % 360.0
        return Fix(
            says="tilt a quarter of a round later: a circle",
            command=SetValues(values=(Assignment(at=f"{at}.tilt", value=turned),)),
        )
    return None


def _swings(values: Array) -> int:
    """How often a motion (F,) goes through its middle."""
    return int(np.sum(np.diff(np.sign(values - np.mean(values))) != 0.0))


def correlation(one: Array, other: Array) -> float:
    """Pearson's.

    Parameters
    ----------
    one: (F,).
    other: (F,).

    Returns
    -------
    -1 to 1; 0 where one of them stands still.
    """
    if np.std(one) == 0.0 or np.std(other) == 0.0:
        return 0.0
    return float(np.corrcoef(one, other)[0, 1])

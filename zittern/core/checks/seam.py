"""The loop point: whether the first frame continues the last."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.keys import KeyValue, SetKeys
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import Number
from zittern.core.shot.mounts import MOVE_FIELDS
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["seam"]

# A jump (px) and a change of speed (px per frame) that are invisible.
_LEAST_PX = 1.0


def seam(study: Study) -> Iterator[Finding]:
    """Find layers, and the move, whose motion after the last frame does not continue with the first."""
    shot = study.shot
    if not shot.loops:
        return
    first, after = float(shot.first_frame), float(shot.last_frame) + 1.0
    seams = evaluate(shot, np.array([first, first + 1.0, after, after + 1.0]), study.cache)
    px = study.px_per_unit[0]
    for _, layer in study.layers:
        moved = seams.layers.get(layer.id)
        if moved is None:
            continue
        apart = _apart_px(moved * px)
        if apart <= _LEAST_PX:
            continue
        fix = None
        if getattr(layer.source, "loop", None) is False:
            command = SetValues(values=(Assignment(at=f"layer:{layer.id}.source.loop", value=True),))
            fix = Fix(says="loop it: its motion closes on itself", command=command)
        yield Finding(
            check="seam",
            weight=True,
            at=f"layer:{layer.id}",
            frames=(after - 1.0, after - 1.0),
            amount=apart,
            unit="px",
            px=apart,
            says=f"“{layer.name}” jumps by {apart:.3g} px at the loop point",
            fix=fix,
        )
    apart = _move_apart_px(study, seams)
    if apart > _LEAST_PX:
        yield Finding(
            check="seam",
            weight=True,
            at=None,
            frames=(after - 1.0, after - 1.0),
            amount=apart,
            unit="px",
            px=apart,
            says=f"the move ends {apart:.4g} px from where it begins",
            fix=_closed(study),
        )


def _apart_px(values: Array) -> float:
    """Return the larger of the jump and the change of speed, from (4, n).

    At the first frame and the next one, and at the two after the last.
    """
    jump, pace = values[2] - values[0], (values[3] - values[2]) - (values[1] - values[0])
    return float(max(np.linalg.norm(jump), np.linalg.norm(pace)))


def _move_apart_px(study: Study, seams: Motion) -> float:
    """Return the jump of the bare picture. A pace that changes is a cut's, not a jump: it does not count."""
    turned = (seams.bare.angles_deg[2] - seams.bare.angles_deg[0] + 180.0) % 360.0 - 180.0
    moved = (seams.bare.position_m[2] - seams.bare.position_m[0]) / study.distance_m[0]
    zoomed = seams.bare.focal_mm[2] / seams.bare.focal_mm[0] - 1.0
    half = 0.5 * study.shot.picture.width_px
    parts = (np.radians(turned) * study.f_px[0], moved * study.f_px[0], np.array([zoomed * half]))
    return float(np.linalg.norm(np.concatenate(parts)))


def _closed(study: Study) -> Fix | None:
    """Keys on the frame after the last, as at the first."""
    shot = study.shot
    first = study.shot.scope(float(shot.first_frame))
    after = float(shot.last_frame) + 1.0
    keys = [
        KeyValue(at=at, frame=after, value=number.at(first))
        for at, number in _moving(shot)
        if number.curve is not None and number.constant is None
    ]
    if not keys:
        return None
    return Fix(says=f"key frame {after:g} as the first", command=SetKeys(keys=tuple(keys)))


def _moving(shot: Shot) -> Iterator[tuple[str, Number]]:
    for mount in shot.mounts:
        for field in MOVE_FIELDS:
            yield f"mount:{mount.id}.{field}", getattr(mount, field)
    yield "shot.focal_mm", shot.focal_mm
    if shot.glass is not None:
        yield from ((f"shot.glass.{field}", getattr(shot.glass, field)) for field in type(shot.glass).model_fields)

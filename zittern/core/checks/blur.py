"""Streaks beyond a limit, at the shutter angle: of the shake, and of the whole motion."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study, stretch
from zittern.core.edits.values import ScaleSwings

__all__ = ["blur"]

# A streak of this share of the picture's width cannot be read any more; single frames of it are a blow.
_MOST_SHARE, _LEAST_FRAMES = 0.03, 4
# The fix goes a little further than it has to.
_AMPLE = 0.97


def blur(study: Study) -> Iterator[Finding]:
    """Find frames in which the streak of the shake is longer than the limit; of the whole motion, as a hint."""
    limit = _MOST_SHARE * study.shot.picture.width_px
    shake, whole = np.nan_to_num(study.blur_px), study.whole_blur_px
    both = f"shake {np.max(shake):.0f} px, whole motion {np.max(whole):.0f} px"
    if (shake > limit).sum() >= _LEAST_FRAMES:
        long, most, weight, fix = shake > limit, float(np.max(shake)), True, _calmer(study, limit)
        says = f"the shake blurs the picture in {int(long.sum())} frames"
    elif (whole > limit).sum() >= _LEAST_FRAMES:
        long, most, weight, fix = whole > limit, float(np.max(whole)), False, None
        says = f"the fast camera move blurs the picture in {int(long.sum())} frames"
    else:
        return
    yield Finding(
        check="blur",
        weight=weight,
        at=None,
        frames=stretch(study.frames, long),
        amount=most,
        unit="px",
        px=most,
        says=f"{says}: longest streaks at a 180° shutter: {both}; the limit is {limit:.0f} px",
        fix=fix,
    )


def _calmer(study: Study, limit: float) -> Fix | None:
    layers = tuple(layer.id for _, layer in study.layers if layer.id in study.counted and not layer.source.absolute)
    most = float(np.max(np.nan_to_num(study.blur_px)))
    factor = float(np.floor(_AMPLE * limit / most * 1000.0) / 1000.0)
    return Fix(says=f"all swings × {factor:.2f}", command=ScaleSwings(layers=layers, factor=factor)) if layers else None

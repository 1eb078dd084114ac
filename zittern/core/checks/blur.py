"""Streaks of the shake beyond a limit, at the shutter angle."""

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
    """Frames whose streak is longer than the limit, when there are several."""
    limit = _MOST_SHARE * study.shot.picture.width_px
    streaks = np.nan_to_num(study.blur_px)
    long = streaks > limit
    if long.sum() < _LEAST_FRAMES:
        return
    most = float(np.max(streaks))
    layers = tuple(layer.id for _, layer in study.layers if layer.id in study.counted and not layer.source.absolute)
    factor = float(np.floor(_AMPLE * limit / most * 1000.0) / 1000.0)
    fix = Fix(says=f"all swings × {factor:.2f}", command=ScaleSwings(layers=layers, factor=factor)) if layers else None
    yield Finding(
        check="blur",
        weight=True,
        at=None,
        frames=stretch(study.frames, long),
        amount=most,
        unit="px",
        px=most,
        says=f"the shake blurs the picture by up to {most:.0f} px (180° shutter), more than {limit:.0f} px in "
        f"{int(long.sum())} frames",
        fix=fix,
    )

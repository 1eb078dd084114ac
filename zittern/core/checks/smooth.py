"""A move without any life: nothing in it is faster than half a hertz."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from zittern.core.checks.finding import Finding, Fix
from zittern.core.checks.study import Study
from zittern.core.edits.layers import AddHandheld

__all__ = ["smooth"]

# Motion of a typical size below this (px) and above this frequency is none; shorter shots say nothing.
_LEAST_PX, _SLOW_HZ, _LEAST_S = 0.25, 0.5, 2.0


def smooth(study: Study) -> Iterator[Finding]:
    """One finding without weight: some shots want it so."""
    shot = study.shot
    fps = shot.fps.value
    if shot.frame_count < _LEAST_S * fps or study.thinned:
        return
    pose = study.motion.pose
    turned = np.radians(pose.angles_deg) * study.f_px[:, None]
    moved = np.cumsum(np.diff(pose.position_m, axis=0, prepend=pose.position_m[:1]) / study.distance_m[:, None], axis=0)
    seen = np.concatenate([turned, moved * study.f_px[:, None]], axis=1)
    line = np.linspace(0.0, 1.0, len(seen))[:, None]
    # Without its slope and with soft ends (Hann), so that the ends themselves are no fast motion.
    window = np.hanning(len(seen))[:, None]
    spectrum = np.fft.rfft((seen - seen[0] - (seen[-1] - seen[0]) * line) * window, axis=0)
    spectrum[np.fft.rfftfreq(len(seen), 1.0 / fps) < _SLOW_HZ] = 0.0
    fast = np.fft.irfft(spectrum, n=len(seen), axis=0)
    size = float(np.sqrt(np.mean(np.sum(fast * fast, axis=1)) / np.mean(window * window)))
    if size >= _LEAST_PX:
        return
    yield Finding(
        check="smooth",
        weight=False,
        at=None,
        frames=shot.span,
        amount=size,
        unit="px",
        px=size,
        says=f"nothing moves faster than {_SLOW_HZ:g} Hz (typical {size:.2f} px): a machine seems to carry the camera",
        fix=Fix(says="a gentle handheld feel", command=AddHandheld()),
    )

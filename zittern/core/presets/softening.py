"""Soft ends: a preset that is placed within a shot fades in and out over a few frames, so that it does not pop."""

from __future__ import annotations

from zittern.core.motion.facts import scope_at
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot

__all__ = ["softened"]

# A quarter of the slowest period, within these; no ramp takes more than this share of its clip.
_SHARE_OF_PERIOD = 0.25
_LEAST_S, _MOST_S = 0.25, 1.0
_MOST_SHARE = 0.25


def softened(shot: Shot, clip: Clip, lane: Lane | None = None) -> Clip:
    """Return a clip with ramps at its ends, where it has none yet.

    lane: whose other clips it may overlap; there it cross-fades.

    An end at the shot's own is unchanged, and so is the start of hits: they start abruptly.
    """
    if clip.span_frames is None or clip.ramp_in_frames or clip.ramp_out_frames:
        return clip
    first, last = clip.span_frames
    ramp = min(_ramp_s(shot, clip) * shot.fps.value, _MOST_SHARE * (last - first))
    overlapped = (
        [each.span_frames for each in lane.clips if each.id != clip.id and each.span_frames is not None] if lane else []
    )

    def meets(frame: float) -> bool:
        return any(a - 1.0 <= frame <= b + 1.0 for a, b in overlapped)

    blows = [layer for layer in clip.layers if layer.source.impulsive]
    into = (
        0.0
        if first <= shot.first_frame or meets(first) or any(layer.source.starts_abruptly for layer in blows)
        else ramp
    )
    out = 0.0 if last >= shot.last_frame or meets(last) or (blows and len(blows) == len(clip.layers)) else ramp
    return clip.replace(ramp_in_frames=float(round(into)), ramp_out_frames=float(round(out)))


def _ramp_s(shot: Shot, clip: Clip) -> float:
    at = scope_at(shot, clip.span_frames[0] if clip.span_frames else shot.first_frame)
    rates = [_rate_hz(layer, float(layer.source.peak_hz(at)[0]) * layer.speed.at(at)) for layer in clip.layers]
    slowest = min((rate for rate in rates if rate > 0.0), default=_SHARE_OF_PERIOD / _MOST_S)
    return min(max(_SHARE_OF_PERIOD / slowest, _LEAST_S), _MOST_S)


def _rate_hz(layer: Layer, rate: float) -> float:
    """Return the rate of a source; those without one (keys, formulas, takes) have an unknown speed."""
    return 0.0 if layer.source.absolute else rate

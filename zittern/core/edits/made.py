"""What an edit made."""

from __future__ import annotations

from collections.abc import Iterator

from zittern.core.shot.shot import Shot

__all__ = ["made"]


def made(before: Shot, after: Shot) -> tuple[str, ...]:
    """Addresses of the cues, dials, mounts, lanes, clips and layers that are there since: `("clip:main",
    "layer:sway-1")`.
    """
    known = set(_addresses(before))
    return tuple(each for each in _addresses(after) if each not in known)


def _addresses(shot: Shot) -> Iterator[str]:
    yield from (f"cue:{cue.id}" for cue in shot.cues)
    yield from (f"dial:{dial.name}" for dial in shot.dials)
    yield from (f"mount:{mount.id}" for mount in shot.mounts)
    yield from (f"lane:{lane.id}" for lane in shot.lanes)
    yield from (f"clip:{clip.id}" for clip in shot.clips())
    yield from (f"layer:{layer.id}" for _, layer in shot.layers())

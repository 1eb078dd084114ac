"""Parts that an edit added, and its notice."""

from __future__ import annotations

from collections.abc import Iterator

from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot

__all__ = ["added_addresses", "notice"]

# A gap shorter than this many frames is where one clip ends and the next begins.
_LEAST_GAP_FRAMES = 2.0
_MOST_TOLD = 3


def added_addresses(before: Shot, after: Shot) -> tuple[str, ...]:
    """Addresses of the variants, cues, dials, mounts, lanes, clips and layers that are there since.

    `("clip:main", "layer:sway-1")`.
    """
    known = set(_addresses(before))
    if before.variant != after.variant:
        # Parts of other variants existed or are copies: they are not listed.
        known.update(after.ids)
    return tuple(each for each in _addresses(after) if each not in known)


def notice(before: Shot, after: Shot) -> str:
    """Return the notice for side effects of an edit.

    Ranges of a lane that lost their clips, and parts that were retimed without the set's animation. A gap that only
    grew or shrank is no news. Empty without side effects.
    """
    known = {lane.id: _holes(before, lane) for lane in before.lanes}
    told = list(_left_by_the_set(before, after))
    for lane in after.lanes:
        holes = _holes(after, lane)
        if lane.id in known and len(holes) > len(known[lane.id]):
            told += [
                f"frames {first:g} to {last:g} of the lane “{lane.name}” have no clip now"
                for first, last in holes
                if (first, last) not in known[lane.id]
            ]
    return "; ".join(told[:_MOST_TOLD])


def _left_by_the_set(before: Shot, after: Shot) -> Iterator[str]:
    """Paths of objects of the set that were moved in time: the set plays as it did."""
    if before.frame_count == after.frame_count or before.fps != after.fps:
        return
    subject = before.subject
    if subject is not None and subject.object is not None and subject != after.subject:
        yield f"the set was not retimed: mark “{subject.name}” again to follow it"
    rides = {mount.id: mount.ride for mount in after.mounts}
    moved = [mount.name for mount in before.mounts if mount.ride is not None and mount.ride != rides.get(mount.id)]
    if moved:
        yield f"the set was not retimed: choose the ride of “{moved[0]}” again to follow it"


def _holes(shot: Shot, lane: Lane) -> list[tuple[float, float]]:
    """Frames [first, last] between the clips of a lane that belong to none."""
    spans = sorted(shot.span_of(clip) for clip in lane.clips)
    found, reached = [], spans[0][1] if spans else 0.0
    for first, last in spans[1:]:
        if first - reached >= _LEAST_GAP_FRAMES:
            found.append((reached + 1.0, first - 1.0))
        reached = max(reached, last)
    return found


def _addresses(shot: Shot) -> Iterator[str]:
    yield from (f"variant:{each.id}" for each in shot.variants)
    yield from (f"cue:{cue.id}" for cue in shot.cues)
    yield from (f"dial:{dial.name}" for dial in shot.dials)
    yield from (f"plate:{plate.id}" for plate in shot.plates)
    yield from (f"mount:{mount.id}" for mount in shot.mounts)
    yield from (f"lane:{lane.id}" for lane in shot.lanes)
    yield from (f"clip:{clip.id}" for clip in shot.clips())
    yield from (f"layer:{layer.id}" for _, layer in shot.layers())

"""A lane: clips along time. Lanes add up."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.numbers.envelope import RampShape
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer

__all__ = ["Lane", "lanes_with"]


class Lane(Doc):
    """Clips in the order of their placement; their spans are their active ranges.

    fade: the kind of cross-fade of overlapping clips.
    """

    id: Id
    name: Label
    clips: Annotated[tuple[Clip, ...], Field(max_length=500)] = ()
    fade: RampShape = "equal-power"

    @classmethod
    def of(cls, clip: Clip) -> Lane:
        """Return a lane with one clip, with the same name."""
        return cls(id=clip.id, name=clip.name, clips=(clip,))


def lanes_with(lanes: tuple[Lane, ...], change: Callable[[Layer], Layer]) -> tuple[Lane, ...]:
    """Lanes with every layer changed; what stays the same is shared."""

    def clip_with(clip: Clip) -> Clip:
        layers = tuple(map(change, clip.layers))
        same = all(new is old for new, old in zip(layers, clip.layers, strict=True))
        return clip if same else clip.replace(layers=layers)

    def lane_with(lane: Lane) -> Lane:
        clips = tuple(map(clip_with, lane.clips))
        same = all(new is old for new, old in zip(clips, lane.clips, strict=True))
        return lane if same else lane.replace(clips=clips)

    return tuple(map(lane_with, lanes))

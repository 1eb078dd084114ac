"""Parts of a shot by their ids, and a shot with one of them changed."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from zittern.core.documents.doc import Doc
from zittern.core.errors import EditError
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.plates import Plate
from zittern.core.shot.shot import Shot

__all__ = [
    "change_layer",
    "find_clip",
    "find_lane",
    "find_layer",
    "find_mount",
    "find_plate",
    "index_of",
    "lane_of",
    "with_clip",
    "with_lane",
]


def find_layer(shot: Shot, layer_id: str) -> tuple[Clip, Layer]:
    """Return a layer and its clip. Raises EditError."""
    for clip, layer in shot.layers():
        if layer.id == layer_id:
            return clip, layer
    raise EditError(f"there is no layer {layer_id!r}; it may have been removed", "layer")


def find_clip(shot: Shot, clip_id: str) -> Clip:
    """Return a clip. Raises EditError."""
    for clip in shot.clips():
        if clip.id == clip_id:
            return clip
    raise EditError(f"there is no clip {clip_id!r}; it may have been removed", "clip")


def find_plate(shot: Shot, plate_id: str) -> Plate:
    """Return a plate. Raises EditError."""
    for plate in shot.plates:
        if plate.id == plate_id:
            return plate
    raise EditError(f"there is no plate {plate_id!r}; it may have been removed", "plate")


def find_lane(shot: Shot, lane_id: str) -> Lane:
    """Return a lane. Raises EditError."""
    for lane in shot.lanes:
        if lane.id == lane_id:
            return lane
    raise EditError(f"there is no lane {lane_id!r}; it may have been removed", "lane")


def change_layer(shot: Shot, layer_id: str, change: Callable[[Layer], Layer]) -> Shot:
    """Return the shot with one layer changed."""
    clip, layer = find_layer(shot, layer_id)
    layers = tuple(change(each) if each is layer else each for each in clip.layers)
    return with_clip(shot, clip, clip.replace(layers=layers))


def replace_layers(shot: Shot, instead: Mapping[str, tuple[Layer, ...]]) -> Shot:
    """Return the shot with other layers in the place of some, by id, in one pass."""

    def replaced(clip: Clip) -> Clip:
        if not any(layer.id in instead for layer in clip.layers):
            return clip
        return clip.replace(layers=tuple(new for each in clip.layers for new in instead.get(each.id, (each,))))

    lanes = ((lane, tuple(map(replaced, lane.clips))) for lane in shot.lanes)
    return shot.replace(
        lanes=tuple(lane if clips == lane.clips else lane.replace(clips=clips) for lane, clips in lanes)
    )


def with_mount(shot: Shot, mount: Doc, changed: Mount) -> Shot:
    """Return the shot with one mount changed."""
    return shot.replace(mounts=tuple(changed if each is mount else each for each in shot.mounts))


def with_lane(shot: Shot, lane: Lane, changed: Lane) -> Shot:
    """Return the shot with one lane changed."""
    return shot.replace(lanes=tuple(changed if each is lane else each for each in shot.lanes))


def lane_of(shot: Shot, clip: Clip) -> Lane:
    """Return the lane of a clip."""
    return next(lane for lane in shot.lanes if any(each is clip for each in lane.clips))


def with_clip(shot: Shot, clip: Clip, *instead: Clip) -> Shot:
    """Return the shot with a clip replaced by others: the changed clip, several, or none."""
    lane = lane_of(shot, clip)
    return with_lane(
        shot,
        lane,
        lane.replace(clips=tuple(part for each in lane.clips for part in (instead if each is clip else (each,)))),
    )


def find_mount(shot: Shot, mount: str) -> Mount:
    """Return a mount by id. Raises EditError."""
    return shot.mounts[index_of(shot, mount)]


def index_of(shot: Shot, mount: str) -> int:
    """Place of a mount in the chain. Raises EditError."""
    for i, each in enumerate(shot.mounts):
        if each.id == mount:
            return i
    raise EditError(f"there is no mount {mount!r}; it may have been removed", "mount")

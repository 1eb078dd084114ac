"""THE TABLE of values for every frame.

A row is an array, or one for each of several parts of a shot (`name:PART`); the motion packet, its description and the
page's streams follow from the table.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial

import numpy as np

from zittern.core.axes import AXES, no_offsets
from zittern.core.documents.doc import motion_text
from zittern.core.motion.aim import aiming, framing_of
from zittern.core.motion.blends import place
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.facts import scope_at
from zittern.core.motion.pose import PATH_COLUMNS, POSE_COLUMNS
from zittern.core.motion.sampled import Sampled
from zittern.core.motion.targets import followable
from zittern.core.optics.lens import vfov_deg
from zittern.core.plates.border import SIDES
from zittern.core.plates.coverage import A_LOOK, counting, uncovered_px
from zittern.core.readings.flow import flowing
from zittern.core.readings.framing import misses_px
from zittern.core.readings.motion_view import MotionView
from zittern.core.readings.movers import movers_px
from zittern.core.readings.tagged import Tagged, derived, tagged
from zittern.core.rig import rotations
from zittern.core.rig.rotations import quaternions
from zittern.core.shot.blends import Blend
from zittern.core.shot.clips import Clip
from zittern.core.shot.plates import Plate
from zittern.core.shot.shot import Shot
from zittern.core.units import Array, IntArray

__all__ = ["STREAMS", "Stream", "Streamed", "streamed"]

Parts = Mapping[str, Tagged]


@dataclass(frozen=True, slots=True)
class Stream:
    """name; its columns with their units; description.

    Its arrays by part, (F, C) each, under an empty name for one of the whole shot.
    """

    name: str
    columns: tuple[str, ...]
    tells: str
    parts: Callable[[MotionView], Parts]


_FIELD_OF_VIEW = len(PATH_COLUMNS)
_POSE = (*PATH_COLUMNS, "vertical_field_of_view_deg", *POSE_COLUMNS[_FIELD_OF_VIEW:])
_OFFSETS = tuple(AXES)


def _flow(seen: MotionView) -> Parts:
    parts = [seen.frames, seen.total, seen.pose, seen.bare, seen.away_m, seen.f_px, seen.shot.fps.value]
    return {"": derived("flow", parts, lambda: flowing(seen.shot, seen.motion))}


def _framing(seen: MotionView) -> Parts:
    if not followable(seen.shot, framing_of(seen.shot)):
        return {}
    parts = [seen.frames, seen.pose, seen.bare, seen.f_px, seen.apart_from_layers]
    return {"": derived("framing", parts, lambda: misses_px(seen.shot, seen.motion))}


def _rig(seen: MotionView) -> Parts:
    return {name: derived("rig", [pose], partial(_position_and_rotation, pose)) for name, pose in seen.rig.items()}


def _moves(seen: MotionView) -> Parts:
    return {name: Tagged(moved.tag, partial(_known, moved)) for name, moved in movers_px(seen).items()}


def _pose(seen: MotionView) -> Parts:
    return {"": _with_fov(seen, seen.pose)}


def _bare(seen: MotionView) -> Parts:
    return {"": _with_fov(seen, seen.bare)}


def _with_fov(seen: MotionView, pose: Tagged) -> Tagged:
    shot = seen.shot
    width_px, height_px = shot.picture.width_px, shot.picture.height_px

    def make() -> Array:
        columns = pose.values
        out = np.empty((len(columns), len(_POSE)))
        out[:, :_FIELD_OF_VIEW] = columns[:, :_FIELD_OF_VIEW]
        out[:, _FIELD_OF_VIEW] = vfov_deg(columns[:, _FIELD_OF_VIEW - 1], shot.sensor_mm, width_px, height_px)
        out[:, _FIELD_OF_VIEW + 1 :] = columns[:, _FIELD_OF_VIEW:]
        return out

    return derived("pose", [pose, shot.sensor_mm, width_px, height_px], make)


def _aimed(seen: MotionView) -> Parts:
    mount = aiming(seen.shot)
    if mount is None:
        return {}
    turned = tagged(seen.motion.locals_[mount.id])
    return {"": derived("aimed", [turned], partial(_angles, turned))}


def _sum_stream(seen: MotionView) -> Parts:
    return {"": seen.total}


def _layers(seen: MotionView) -> Parts:
    return seen.layers


def _weights(seen: MotionView) -> Parts:
    return {name: _column(values) for name, values in seen.motion.weights.items()}


def _clips(seen: MotionView) -> Parts:
    # A clip over the whole shot that is alone on its lane is shown by its layers.
    return {
        clip.id: derived("clip", _layers_of(seen, clip), partial(_sum_of, _layers_of(seen, clip), seen.motion))
        for clip in _bars(seen.shot)
    }


def _hulls(seen: MotionView) -> Parts:
    return {clip.id: _column(seen.motion.clip_weights[clip.id]) for clip in _bars(seen.shot)}


def _plates(seen: MotionView) -> Parts:
    scope = seen.shot.scope(seen.motion.frames)

    def posed(plate: Plate) -> Array:
        turned = quaternions(rotations.matrices(plate.angles_deg(scope)))
        size = np.broadcast_to([plate.width_m, plate.height_m], (len(turned), 2))
        return np.concatenate([plate.position_m(scope), turned, size], axis=1)

    return {
        plate.id: derived("plate", [seen.frames, motion_text(plate), seen.apart_from_layers], partial(posed, plate))
        for plate in seen.shot.plates
    }


def _blends(seen: MotionView) -> Parts:
    shot = seen.shot
    mixed = [(clip, clip.blend) for clip in shot.clips() if clip.blend is not None]
    if not mixed:
        return {}
    scope = scope_at(shot, seen.motion.frames)

    def placed(clip: Clip, blend: Blend) -> Array:
        return 100.0 * place(blend, clip.clocked(scope))

    return {
        clip.id: derived(
            "blend",
            [seen.frames, blend.motion_key, clip.extent_in(shot.span), seen.apart_from_layers],
            partial(placed, clip, blend),
        )
        for clip, blend in mixed
    }


def _coverage(seen: MotionView) -> Parts:
    if not counting(seen.shot):
        return {}
    parts = [seen.frames, seen.pose, seen.f_px, seen.apart_from_layers]
    return {"": derived("coverage", parts, lambda: uncovered_px(seen.shot, seen.motion, A_LOOK, fine=False))}


STREAMS: tuple[Stream, ...] = (
    Stream(
        "flow",
        ("streak px", "distance of the subject m", "height of the lens m", "speed m/s"),
        "readings during playback; NaN where unknown",
        _flow,
    ),
    Stream(
        "framing",
        ("right px", "above px", "on screen 0 or 1"),
        "framing error of the subject",
        _framing,
    ),
    Stream(
        "plate",
        ("x m", "y m", "z m", "qx", "qy", "qz", "qw", "width m", "height m"),
        "pose and size of a plate",
        _plates,
    ),
    Stream("coverage", tuple(f"{side} px" for side in SIDES), "width of the gap at the edges of plates", _coverage),
    Stream("rig", ("x m", "y m", "z m", "qx", "qy", "qz", "qw"), "pose of the rig after a mount", _rig),
    Stream(
        "moves",
        ("px",),
        "picture movement by a mount or layer alone since the previous frame, 0 where unknown",
        _moves,
    ),
    Stream("pose", _POSE, "the lens with everything", _pose),
    Stream("bare", _POSE, "the lens with the move alone", _bare),
    Stream("aimed", ("pan deg", "tilt deg"), "the mount that the operator aims, in its parent", _aimed),
    Stream("sum", _OFFSETS, "all layers that count together", _sum_stream),
    Stream("layer", _OFFSETS, "offsets of a layer, also when muted", _layers),
    Stream("weight", ("share",), "weight of a layer with its ramps and its clip's", _weights),
    Stream("clip", _OFFSETS, "sum of the layers of a clip, also when muted", _clips),
    Stream("blend", ("across %", "up %"), "the position of a blend on its pad, with limited speed", _blends),
    Stream("hull", ("share",), "amount of a clip with its ramps and cross-fades", _hulls),
)


@dataclass(frozen=True, slots=True)
class Streamed:
    """An array of a stream, by name. values are computed on first access. (F, columns)."""

    name: str
    columns: int
    array: Tagged


def streamed(shot: Shot, sampled: Sampled) -> Iterator[Streamed]:
    """Yield all arrays of a shot in a view, rows in the order of `sampled.frames`."""
    pieces = [MotionView(shot, motion) for motion in sampled.pieces]
    order = sampled.order
    for stream in STREAMS:
        parts = [stream.parts(piece) for piece in pieces]
        for name, first in parts[0].items():
            array = first
            if order is not None:
                together = [each[name] for each in parts]
                array = derived("pieces", [tagged(sampled.frames), *together], partial(_joined_rows, together, order))
            yield Streamed(f"{stream.name}:{name}" if name else stream.name, len(stream.columns), array)


def _column(values: Array) -> Tagged:
    return Tagged(tagged(values).tag, lambda: values[:, None])


def _bars(shot: Shot) -> list[Clip]:
    return [clip for lane in shot.lanes for clip in lane.clips if clip.span_frames is not None or len(lane.clips) > 1]


def _layers_of(seen: MotionView, clip: Clip) -> list[Tagged]:
    return [seen.layers[layer.id] for layer in clip.layers]


def _sum_of(layers: list[Tagged], motion: Motion) -> Array:
    out: Array = no_offsets(motion.frames)
    for layer in layers:
        out += layer.values
    return out


def _joined_rows(parts: list[Tagged], order: IntArray) -> Array:
    """Rows of several arrays, one after another, in an order."""
    return np.asarray(np.concatenate([each.values for each in parts])[order])


def _known(moved: Tagged) -> Array:
    """(F,), NaN where it is not known -> (F, 1), 0 there."""
    return np.asarray(np.nan_to_num(moved.values)[:, None])


def _angles(turned: Tagged) -> Array:
    """Pan and tilt without jumps. (F, 4, 4) -> (F, 2) degrees."""
    return rotations.continuous(turned.values[:, :3, :3])[:, :2]


def _position_and_rotation(tagged: Tagged) -> Array:
    """Position (m) and quaternion (x, y, z, w). (F, 7)."""
    pose = tagged.values
    return np.concatenate([pose[:, :3, 3], quaternions(pose[:, :3, :3])], axis=1)

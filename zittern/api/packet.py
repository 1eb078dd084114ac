"""Motion as bytes: `ZTM1`, header length (uint32), header (JSON, padded with spaces to 4 bytes), float32 arrays; little endian."""

from __future__ import annotations

import hashlib
import struct
import weakref
from collections.abc import Mapping

import numpy as np
import numpy.typing as npt

from zittern.api.models.motion import ArrayHead, MotionHead
from zittern.core.axes import AXES
from zittern.core.framing import misses_px
from zittern.core.lens import vfov_deg
from zittern.core.motion.evaluate import Motion, Pose
from zittern.core.movers import movers_px
from zittern.core.readings import Readings, flowing
from zittern.core.rig.rotations import quaternions
from zittern.core.sampled import CLOSE_FRAMES, Sampled
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["MAGIC", "pack_motion"]

MAGIC = b"ZTM1"
Floats = npt.NDArray[np.float32]


def pack_motion(shot: Shot, sampled: Sampled, revision: int, readings: Readings, have: Mapping[str, str], more: Mapping[str, Array] | None = None) -> bytes:
    """A packet with the arrays whose tag differs from what the page has; `more` are further arrays, (F, C) each."""
    heads: list[ArrayHead] = []
    body: list[bytes] = []
    offset = 0
    pieces = [_arrays(shot, motion) for motion in sampled.pieces]
    arrays = {name: [piece[name] for piece in pieces] for name in pieces[0]}
    grid = "" if sampled.order is None else _tags.of(sampled.frames[:, None])
    for name, parts in arrays.items():
        tag = _tags.of(parts[0]) if sampled.order is None else _hash("".join([grid, *map(_tags.of, parts)]).encode())
        known = have.get(name) == tag
        heads.append(ArrayHead(name=name, tag=tag, columns=parts[0].shape[1], offset=None if known else offset))
        if not known:
            body.append(_bytes(parts[0] if sampled.order is None else np.concatenate(parts)[sampled.order]))
            offset += len(body[-1])
    for name, array in {**({} if sampled.order is None else {"frames": sampled.frames[:, None]}), **(more or {})}.items():
        data = _bytes(array)
        tag = _hash(data)
        known = have.get(name) == tag
        heads.append(ArrayHead(name=name, tag=tag, columns=array.shape[1], offset=None if known else offset))
        if not known:
            body.append(data)
            offset += len(data)
    head = MotionHead(
        revision=revision, first_frame=shot.first_frame, last_frame=shot.last_frame, rows=len(sampled.frames), exact=list(sampled.exact),
        close_frames=CLOSE_FRAMES, arrays=heads, readings=readings,
    )  # fmt: skip
    text = head.model_dump_json().encode()
    text += b" " * (-len(text) % 4)
    return b"".join([MAGIC, struct.pack("<I", len(text)), text, *body])


class _Tags:
    """Tags of arrays by content. Those of read-only arrays, which evaluation keeps, are remembered while the arrays live."""

    def __init__(self) -> None:
        self._known: dict[int, tuple[weakref.ref[Array], str]] = {}

    def of(self, array: Array) -> str:
        """Hash of the samples as they are sent."""
        at = id(array)
        found = self._known.get(at)
        if found is not None and found[0]() is array:
            return found[1]
        tag = _hash(_bytes(array))
        if not array.flags.writeable:
            self._known[at] = weakref.ref(array, lambda gone: self._forget(at, gone)), tag
        return tag

    def _forget(self, at: int, gone: weakref.ref[Array]) -> None:
        found = self._known.get(at)
        if found is not None and found[0] is gone:
            self._known.pop(at, None)


_tags = _Tags()


def _hash(data: bytes) -> str:
    return hashlib.blake2b(data, digest_size=8).hexdigest()


def _bytes(array: Array) -> bytes:
    return np.ascontiguousarray(array, dtype="<f4").tobytes()


def _arrays(shot: Shot, motion: Motion) -> dict[str, Array]:
    layers = {f"layer:{name}": values for name, values in {**motion.layers, **motion.silent}.items()}
    weights = {f"weight:{name}": values[:, None] for name, values in motion.weights.items()}
    # A clip over the whole shot that is alone on its lane is shown by its layers.
    bars = [clip for lane in shot.lanes for clip in lane.clips if clip.span_frames is not None or len(lane.clips) > 1]
    clips = {f"clip:{clip.id}": _sum_of(motion, clip) for clip in bars}
    hulls = {f"hull:{clip.id}": motion.clip_weights[clip.id][:, None] for clip in bars}
    rig = {f"rig:{name}": _placed(pose) for name, pose in motion.rig.items()}
    moves = {f"moves:{name}": np.nan_to_num(values)[:, None] for name, values in movers_px(shot, motion).items()}
    return {
        "flow": flowing(shot, motion),
        **({"framing": misses_px(shot, motion)} if shot.subject else {}),
        **rig,
        **moves,
        "pose": _pose_columns(shot, motion.pose),
        "bare": _pose_columns(shot, motion.bare),
        "sum": motion.total,
        **layers,
        **weights,
        **clips,
        **hulls,
    }


def _sum_of(motion: Motion, clip: Clip) -> Array:
    """What the layers of a clip give together, whether they count or not. (F, 7)."""
    out: Array = np.zeros((len(motion.frames), len(AXES)))
    for layer in clip.layers:
        out += motion.layers[layer.id] if layer.id in motion.layers else motion.silent[layer.id]
    return out


def _placed(pose: Array) -> Array:
    """Position (m) and quaternion (x, y, z, w). (F, 7)."""
    return np.concatenate([pose[:, :3, 3], quaternions(pose[:, :3, :3])], axis=1)


def _pose_columns(shot: Shot, pose: Pose) -> Array:
    vfov = vfov_deg(pose.focal_mm, shot.sensor_mm, shot.picture.width_px, shot.picture.height_px)
    return np.column_stack([pose.position_m, pose.angles_deg, pose.focal_mm, vfov])

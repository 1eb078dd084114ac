"""Motion as bytes: `ZTM1`, header length (uint32), header (JSON, padded with spaces to 4 bytes), float32 arrays; little endian."""

from __future__ import annotations

import hashlib
import struct
import weakref
from collections.abc import Mapping

import numpy as np
import numpy.typing as npt

from zittern.api.models import ArrayHead, MotionHead
from zittern.core.evaluate import Motion, Pose
from zittern.core.lens import vfov_deg
from zittern.core.readings import Readings
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["MAGIC", "pack_motion"]

MAGIC = b"ZTM1"
Floats = npt.NDArray[np.float32]


def pack_motion(shot: Shot, motion: Motion, revision: int, readings: Readings, have: Mapping[str, str], more: Mapping[str, Array] | None = None) -> bytes:
    """A packet with the arrays whose tag differs from what the page has; `more` are further arrays, (F, C) each."""
    heads: list[ArrayHead] = []
    body: list[bytes] = []
    offset = 0
    for name, array in {**_arrays(shot, motion), **(more or {})}.items():
        tag = _tags.of(array)
        known = have.get(name) == tag
        heads.append(ArrayHead(name=name, tag=tag, columns=array.shape[1], offset=None if known else offset))
        if not known:
            data = _bytes(array)
            body.append(data)
            offset += len(data)
    head = MotionHead(revision=revision, first_frame=shot.first_frame, frames=len(motion.frames), arrays=heads, readings=readings)
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
        tag = hashlib.blake2b(_bytes(array), digest_size=8).hexdigest()
        if not array.flags.writeable:
            self._known[at] = weakref.ref(array, lambda _: self._known.pop(at, None)), tag
        return tag


_tags = _Tags()


def _bytes(array: Array) -> bytes:
    return np.ascontiguousarray(array, dtype="<f4").tobytes()


def _arrays(shot: Shot, motion: Motion) -> dict[str, Array]:
    layers = {f"layer:{name}": values for name, values in {**motion.layers, **motion.silent}.items()}
    weights = {f"weight:{name}": values[:, None] for name, values in motion.weights.items()}
    return {"pose": _pose_columns(shot, motion.pose), "bare": _pose_columns(shot, motion.bare), "sum": motion.total, **layers, **weights}


def _pose_columns(shot: Shot, pose: Pose) -> Array:
    vfov = vfov_deg(pose.focal_mm, shot.sensor_mm, shot.picture.width_px, shot.picture.height_px)
    return np.column_stack([pose.position_m, pose.angles_deg, pose.focal_mm, vfov])

"""Motion as bytes: `ZTM1`, header length (uint32), header (JSON, padded with spaces to 4 bytes), float32 arrays.

Little endian.
"""

from __future__ import annotations

import struct
from collections.abc import Iterable, Iterator, Mapping
from typing import Any

import numpy as np
import orjson
from pydantic import BaseModel

from zittern.api.models.motion import ArrayHead, LayerTag, MotionHead, MotionIn
from zittern.core.motion.sampled import CLOSE_FRAMES, Sampled
from zittern.core.readings.layers import LayerReading
from zittern.core.readings.streams import Streamed, streamed
from zittern.core.readings.tagged import Remembered, tagged
from zittern.core.shot.changes import changes
from zittern.core.shot.shot import Shot
from zittern.core.units import Array
from zittern.store.revisions import State

__all__ = ["MAGIC", "framed", "pack_motion"]

MAGIC = b"ZTM1"
# Readings of layers that did not change are the same objects.
_READINGS: Remembered[LayerReading] = Remembered(orjson.dumps)


def pack_motion(
    shot: Shot, sampled: Sampled, kept: State, readings: Any, asked: MotionIn, more: Mapping[str, Array] | None = None
) -> bytes:
    """Return a packet with what the page does not have yet, by its tags; `more` are further arrays, (F, C) each.

    kept: the state that the shot is tried on.
    """
    have = asked.have
    heads: list[ArrayHead] = []
    body: list[bytes] = []
    offset = 0
    for each in _packed_streams(shot, sampled, more or {}):
        tag = each.array.tag
        known = have.get(each.name) == tag
        heads.append(ArrayHead(each.name, tag, each.columns, None if known else offset))
        if not known:
            body.append(np.ascontiguousarray(each.array.values, dtype="<f4").tobytes())
            offset += len(body[-1])
    tags = [LayerTag(each.layer, _READINGS.tag(each)) for each in readings.layers]
    unknown = [
        each for each, tag in zip(readings.layers, tags, strict=True) if asked.have_layers.get(tag.layer) != tag.tag
    ]
    head = MotionHead.model_construct(
        revision=kept.revision, first_frame=shot.first_frame, last_frame=shot.last_frame, rows=len(sampled.frames),
        exact=list(sampled.exact),
        close_frames=CLOSE_FRAMES, arrays=heads, readings=readings.model_copy(update={"layers": tuple(unknown)}),
        layers=tags, tried=changes(kept.document, shot) if asked.told else None,
    )  # fmt: skip
    return framed(head, body, 4)


def framed(head: BaseModel, body: Iterable[bytes], align: int) -> bytes:
    """Return a header and the data behind it, which starts at a multiple of `align` bytes."""
    text = head.model_dump_json().encode()
    text += b" " * (-len(text) % align)
    return b"".join([MAGIC, struct.pack("<I", len(text)), text, *body])


def _packed_streams(shot: Shot, sampled: Sampled, more: Mapping[str, Array]) -> Iterator[Streamed]:
    yield from streamed(shot, sampled)
    if sampled.order is not None:
        yield Streamed("frames", 1, tagged(sampled.frames[:, None]))
    for name, array in more.items():
        yield Streamed(name, array.shape[1], tagged(array))

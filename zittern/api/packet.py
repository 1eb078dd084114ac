"""Motion as bytes: `ZTM1`, header length (uint32), header (JSON, padded with spaces to 4 bytes), float32 arrays; little endian."""

from __future__ import annotations

import struct
from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np

from zittern.api.models.motion import ArrayHead, MotionHead
from zittern.core.readings.streams import Streamed, streamed
from zittern.core.readings.tagged import given
from zittern.core.sampled import CLOSE_FRAMES, Sampled
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["MAGIC", "pack_motion"]

MAGIC = b"ZTM1"


def pack_motion(shot: Shot, sampled: Sampled, revision: int, readings: Any, have: Mapping[str, str], more: Mapping[str, Array] | None = None) -> bytes:
    """A packet with the arrays whose tag differs from what the page has; `more` are further arrays, (F, C) each."""
    heads: list[ArrayHead] = []
    body: list[bytes] = []
    offset = 0
    for each in _told(shot, sampled, more or {}):
        tag = each.array.tag
        known = have.get(each.name) == tag
        heads.append(ArrayHead.model_construct(name=each.name, tag=tag, columns=each.columns, offset=None if known else offset))
        if not known:
            body.append(np.ascontiguousarray(each.array.values, dtype="<f4").tobytes())
            offset += len(body[-1])
    head = MotionHead.model_construct(
        revision=revision, first_frame=shot.first_frame, last_frame=shot.last_frame, rows=len(sampled.frames), exact=list(sampled.exact),
        close_frames=CLOSE_FRAMES, arrays=heads, readings=readings,
    )  # fmt: skip
    text = head.model_dump_json().encode()
    text += b" " * (-len(text) % 4)
    return b"".join([MAGIC, struct.pack("<I", len(text)), text, *body])


def _told(shot: Shot, sampled: Sampled, more: Mapping[str, Array]) -> Iterator[Streamed]:
    yield from streamed(shot, sampled)
    if sampled.order is not None:
        yield Streamed("frames", 1, given(sampled.frames[:, None]))
    for name, array in more.items():
        yield Streamed(name, array.shape[1], given(array))

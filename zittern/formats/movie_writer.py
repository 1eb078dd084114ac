"""Encode frames, in a separate process.

One line of JSON on standard input, then frames as raw RGBA from the lowest row up, then end of file. Answers with a
line of JSON: {"done": frames}, or {"fault": text}.
"""

from __future__ import annotations

import io
import json
import sys
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from fractions import Fraction
from typing import IO, Any, Protocol, cast

import av
import numpy as np
from av.error import FFmpegError
from av.video.reformatter import ColorPrimaries, ColorRange, Colorspace, ColorTrc, VideoReformatter
from av.video.stream import VideoStream
from numpy.typing import NDArray
from PIL import Image

from zittern.core.errors import FULL_DISK

__all__ = ["QUALITIES", "main"]

# Constant quality of each encoder, from the smallest file to the best picture.
QUALITIES = {"mp4": {"draft": 28, "good": 19, "best": 6}, "webm": {"draft": 40, "good": 28, "best": 6}}
_CODECS = {"mp4": "libx264", "webm": "libvpx-vp9"}
_CHANNELS = 4
Pixels = NDArray[np.uint8]


class _Sink(Protocol):
    def __call__(self, pixels: Pixels) -> None: ...


@contextmanager
def _video(head: dict[str, Any]) -> Iterator[_Sink]:
    """H.264 in MP4 with its index in front, VP9 in WebM: 4:2:0, limited range, BT.709, tagged so."""
    format_, width, height = head["format"], head["width"], head["height"]
    rate = Fraction(head["fps_num"], head["fps_den"])
    options = {"movflags": "+faststart"} if format_ == "mp4" else {}
    with av.open(head["path"], "w", format=format_, options=options) as container:
        stream = cast(VideoStream, container.add_stream(_CODECS[format_], rate=rate, options=_options(head)))
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        context = stream.codec_context
        context.time_base = 1 / rate
        context.colorspace = Colorspace.ITU709
        context.color_primaries = ColorPrimaries.BT709
        context.color_trc = ColorTrc.BT709
        context.color_range = ColorRange.MPEG
        reformatter = VideoReformatter()
        count = 0

        def put(pixels: Pixels) -> None:
            nonlocal count
            picture = av.VideoFrame.from_ndarray(np.ascontiguousarray(pixels[:, :, :3]), format="rgb24")
            frame = reformatter.reformat(
                picture, format="yuv420p", dst_colorspace=Colorspace.ITU709,
                src_color_range=ColorRange.JPEG, dst_color_range=ColorRange.MPEG,
            )  # fmt: skip
            frame.pts, frame.time_base = count, 1 / rate
            frame.color_primaries, frame.color_trc = ColorPrimaries.BT709, ColorTrc.BT709
            count += 1
            container.mux(stream.encode(frame))

        yield put
        container.mux(stream.encode(None))


def _options(head: dict[str, Any]) -> dict[str, str]:
    crf = str(QUALITIES[head["format"]][head["quality"]])
    if head["format"] == "mp4":
        return {"crf": crf, "preset": "veryfast" if head["quality"] == "draft" else "medium"}
    return {"crf": crf, "b:v": "0", "deadline": "realtime", "cpu-used": "6", "row-mt": "1"}


@contextmanager
def _pictures(head: dict[str, Any]) -> Iterator[_Sink]:
    """PNGs in a zip, each with the number of its frame."""
    with zipfile.ZipFile(head["path"], "w", zipfile.ZIP_STORED) as archive:
        number = head["first_frame"]

        def put(pixels: Pixels) -> None:
            nonlocal number
            out = io.BytesIO()
            Image.fromarray(np.ascontiguousarray(pixels[:, :, :3])).save(out, "PNG", compress_level=3)
            archive.writestr(f"{head['stem']}-{number:06d}.png", out.getvalue())
            number += 1

        yield put


def _encode(source: IO[bytes], head: dict[str, Any]) -> int:
    shape = (head["height"], head["width"], _CHANNELS)
    size = shape[0] * shape[1] * shape[2]
    count = 0
    with (_pictures if head["format"] == "png" else _video)(head) as put:
        while frame := source.read(size):
            if len(frame) < size:
                raise ValueError("the last frame is cut short")
            put(np.frombuffer(frame, np.uint8).reshape(shape)[::-1])
            count += 1
    return count


def main() -> int:
    """0 when all was written."""
    head = json.loads(sys.stdin.buffer.readline())
    try:
        answer: dict[str, Any] = {"done": _encode(sys.stdin.buffer, head)}
    except (OSError, FFmpegError, ValueError, MemoryError) as error:
        full = getattr(error, "errno", None) in FULL_DISK
        answer = {"full": True} if full else {"fault": " ".join(str(error).split())[:200] or type(error).__name__}
    print(json.dumps(answer))
    return 0 if "done" in answer else 1


if __name__ == "__main__":
    sys.exit(main())

"""Pictures for tests, as files."""

from __future__ import annotations

import io
import struct
import zlib

import numpy as np
from PIL import Image

__all__ = ["clear_half", "encoded", "huge_header", "plain"]


def encoded(image: Image.Image, format_: str = "PNG", **options: object) -> bytes:
    """Bytes of a file."""
    out = io.BytesIO()
    image.save(out, format_, **options)
    return out.getvalue()


def plain(
    width: int = 320, height: int = 180, colour: tuple[int, ...] = (40, 120, 160), mode: str = "RGB"
) -> Image.Image:
    """Of one colour."""
    return Image.new(mode, (width, height), colour)


def clear_half() -> Image.Image:
    """Opaque on its right half only."""
    pixels = np.zeros((180, 320, 4), dtype=np.uint8)
    pixels[:, 160:] = (200, 180, 90, 255)
    return Image.fromarray(pixels)


def huge_header(width: int, height: int) -> bytes:
    """A PNG that says it is large, with hardly anything in it."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", zlib.compress(b"\0" * 64)) + chunk(b"IEND", b"")

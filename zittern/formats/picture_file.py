"""Pictures (PNG, JPEG, WebP) for plates: decoded in a child process with limits."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from zittern.core.errors import FormatError, StoreFull
from zittern.formats.picture_reader import MOST_S
from zittern.formats.reader_process import ask_reader

__all__ = ["MOST_PICTURE_BYTES", "PictureFacts", "read_picture"]

MOST_PICTURE_BYTES = 64 * 2**20


@dataclass(frozen=True, slots=True)
class PictureFacts:
    """Size and coverage of a picture, as plates store them."""

    width_px: int
    height_px: int
    opaque: str | None


def read_picture(data: bytes, name: str, shown: Path, thumb: Path, tiles: Path) -> PictureFacts:
    """Return the properties of a picture.

    The display image is written to one file, a thumbnail to another, tiles of a large one to a third. Raises
    FormatError with the name and why, and StoreFull.
    """
    if not data:
        raise FormatError("there is nothing in this file", name)
    if len(data) > MOST_PICTURE_BYTES:
        raise FormatError(f"a picture has up to {MOST_PICTURE_BYTES // 2**20} MB", name)
    answer = ask_reader("zittern.formats.picture_reader", data, MOST_S, str(shown), str(thumb), str(tiles))
    if answer is None:
        raise FormatError(
            f"this picture cannot be read within {MOST_S} s; save it again as PNG, with fewer pixels", name
        )
    if "full" in answer:
        raise StoreFull(f"the disk of {shown.parent} is full; nothing was changed. Make room there and try again", name)
    if "fault" in answer:
        raise FormatError(f"this picture cannot be used: {answer['fault']}", name)
    return PictureFacts(answer["width_px"], answer["height_px"], answer["opaque"])

"""Pictures (PNG, JPEG, WebP) for plates: decoded in a child process with limits."""

from __future__ import annotations

import json
import subprocess
import sys
from dataclasses import dataclass
from pathlib import Path

from zittern.core.errors import FormatError
from zittern.formats.picture_reader import MOST_S

__all__ = ["MOST_PICTURE_BYTES", "PictureFacts", "read_picture"]

MOST_PICTURE_BYTES = 64 * 2**20
_GRACE_S = 10.0


@dataclass(frozen=True, slots=True)
class PictureFacts:
    """Its size, and what it covers as plates keep it."""

    width_px: int
    height_px: int
    opaque: str | None


def read_picture(data: bytes, name: str, shown: Path, thumb: Path) -> PictureFacts:
    """What a picture is; what is drawn of it goes to one file, a small one to another. Raises FormatError with the name
    and why.
    """
    if not data:
        raise FormatError("there is nothing in this file", name)
    if len(data) > MOST_PICTURE_BYTES:
        raise FormatError(f"a picture has at most {MOST_PICTURE_BYTES // 2**20} MB", name)
    command = [sys.executable, "-m", "zittern.formats.picture_reader", str(shown), str(thumb)]
    try:
        done = subprocess.run(command, input=data, capture_output=True, timeout=MOST_S + _GRACE_S, check=False)
        answer = json.loads(done.stdout)
    except (subprocess.TimeoutExpired, ValueError) as error:
        raise FormatError("this picture cannot be read; save it as PNG once more", name) from error
    if "fault" in answer:
        raise FormatError(f"this picture cannot be hung: {answer['fault']}", name)
    return PictureFacts(answer["width_px"], answer["height_px"], answer["opaque"])

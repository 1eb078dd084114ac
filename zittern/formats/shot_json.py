"""The shot's own JSON."""

from __future__ import annotations

from collections.abc import Iterable
from typing import IO

import orjson

from zittern.core.errors import FormatError
from zittern.core.motion.evaluate import Motion
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot
from zittern.formats.delivery import Delivery

__all__ = ["MOST_BYTES", "read", "write"]

# Larger documents take too long to be read while others wait.
MOST_BYTES = 32 * 2**20


def read(data: bytes) -> Shot:
    """Return the shot, older versions too. Raises FormatError, or DocumentError with the place of the fault."""
    if len(data) > MOST_BYTES:
        raise FormatError(f"the document has {len(data) / 2**20:.0f} MB; up to {MOST_BYTES // 2**20} MB can be read")
    return read_shot(data)


def write(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Write the document, indented. The motion is not asked for: this file stays editable."""
    file.write(orjson.dumps(shot.model_dump(mode="json"), option=orjson.OPT_INDENT_2 | orjson.OPT_APPEND_NEWLINE))

"""The shot's own JSON."""

from __future__ import annotations

from collections.abc import Iterable
from typing import IO

import orjson

from zittern.core.motion.evaluate import Motion
from zittern.core.shot.shot import Shot
from zittern.core.units import Array

__all__ = ["write"]


def write(shot: Shot, frames: Array, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """The document, indented. The motion is not asked for: this file stays editable."""
    file.write(orjson.dumps(shot.model_dump(mode="json"), option=orjson.OPT_INDENT_2 | orjson.OPT_APPEND_NEWLINE))

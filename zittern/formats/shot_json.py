"""The shot's own JSON."""

from __future__ import annotations

import orjson

from zittern.core.evaluate import Motion
from zittern.core.shot.shot import Shot

__all__ = ["write"]


def write(shot: Shot, motion: Motion) -> bytes:
    """The document, indented. `motion` is not used: this file stays editable."""
    return orjson.dumps(shot.model_dump(mode="json"), option=orjson.OPT_INDENT_2 | orjson.OPT_APPEND_NEWLINE)

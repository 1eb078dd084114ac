"""Presets that come with the application: read once, with the reader of a user's files."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from types import MappingProxyType

from zittern.core import presets
from zittern.core.presets.files import ENDING, read_preset
from zittern.core.presets.preset import Preset

__all__ = ["FOLDER", "INDEX", "shipped_presets"]

FOLDER = Path(presets.__file__).parent / "shipped"
# Keys of all of them, in the order in which they are shown.
INDEX = FOLDER / "index.json"


@cache
def shipped_presets() -> MappingProxyType[str, Preset]:
    """Return the presets by key: `small-boat`."""
    keys = json.loads(INDEX.read_bytes())
    return MappingProxyType({key: read_preset((FOLDER / f"{key}{ENDING}").read_bytes()) for key in keys})

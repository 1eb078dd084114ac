"""Presets and rigs that come with the application: read once, with the readers of what users send."""

from __future__ import annotations

import json
from functools import cache
from pathlib import Path
from types import MappingProxyType

from pydantic import TypeAdapter

from zittern.core import presets
from zittern.core.presets.files import ENDING, read_preset
from zittern.core.presets.preset import Preset
from zittern.core.presets.rigs import Rig

__all__ = ["FOLDER", "INDEX", "RIGS_DATA", "RIG_FILE", "shipped_presets", "shipped_rigs"]

FOLDER = Path(presets.__file__).parent / "shipped"
# Keys of all of them, in the order in which they are shown.
INDEX = FOLDER / "index.json"
RIG_FILE = FOLDER / "rigs.json"
RIGS_DATA: TypeAdapter[tuple[Rig, ...]] = TypeAdapter(tuple[Rig, ...])


@cache
def shipped_presets() -> MappingProxyType[str, Preset]:
    """Return the presets by key: `small-boat`."""
    keys = json.loads(INDEX.read_bytes())
    return MappingProxyType({key: read_preset((FOLDER / f"{key}{ENDING}").read_bytes()) for key in keys})


@cache
def shipped_rigs() -> MappingProxyType[str, Rig]:
    """Return the rigs by name: `shoulder`."""
    return MappingProxyType({rig.name: rig for rig in RIGS_DATA.validate_json(RIG_FILE.read_bytes())})

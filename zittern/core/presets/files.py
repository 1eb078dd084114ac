"""Presets as text, older versions included. A change of shape adds one step to STEPS and one old file to tests/data."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from zittern.core.errors import DocumentError, faults_as
from zittern.core.presets.preset import PRESET_VERSION, Preset

__all__ = ["ENDING", "STEPS", "read_preset", "write_preset"]

ENDING = ".preset.json"


def with_dials(data: dict[str, Any]) -> dict[str, Any]:
    """1 to 2: presets may bring dials, and have frames of their own; there were none before."""
    return data | {"schema_version": 2}


# STEPS[n] takes a document of version n to version n + 1.
STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: with_dials}


def read_preset(text: str | bytes) -> Preset:
    """A preset from JSON text. Raises DocumentError with the place of the first fault."""
    try:
        data = json.loads(text)
    except (ValueError, RecursionError) as error:
        raise DocumentError(f"this is not JSON: {error}") from error
    if not isinstance(data, dict) or data.get("schema_name") != "zittern.preset":
        raise DocumentError('this is not a preset: "schema_name" should be "zittern.preset"', "schema_name")
    version = data.get("schema_version")
    if not isinstance(version, int) or isinstance(version, bool) or not 1 <= version <= PRESET_VERSION:
        raise DocumentError(f"schema_version 1 to {PRESET_VERSION} can be read, got {version!r}; a newer Zittern wrote this", "schema_version")
    while version < PRESET_VERSION:
        data = STEPS[version](data)
        version += 1
    with faults_as(DocumentError):
        return Preset.model_validate(data)


def write_preset(preset: Preset) -> str:
    """JSON text for people too; reading it gives an equal preset."""
    return preset.model_dump_json(indent=1)

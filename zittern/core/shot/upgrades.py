"""Reading a shot from JSON, older versions included. A change of shape adds one step to STEPS and one old file to tests/data."""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from zittern.core.errors import DocumentError, faults_as
from zittern.core.shot.shot import SCHEMA_VERSION, Shot, new_shot

__all__ = ["STEPS", "read_shot", "shot_from", "started", "write_shot"]

# STEPS[n] takes a document of version n to version n + 1.
STEPS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {}


def read_shot(text: str | bytes) -> Shot:
    """A shot from JSON text. Raises DocumentError with the place of the first fault."""
    try:
        data = json.loads(text)
    except (json.JSONDecodeError, UnicodeDecodeError, RecursionError) as error:
        raise DocumentError(f"this is not JSON: {error}") from error
    return shot_from(data)


def shot_from(data: Any) -> Shot:
    """A shot from parsed JSON. Raises DocumentError."""
    if not isinstance(data, dict) or data.get("schema_name") != "zittern.shot":
        raise DocumentError('this is not a shot: "schema_name" should be "zittern.shot"', "schema_name")
    version = data.get("schema_version")
    if not isinstance(version, int) or not 1 <= version <= SCHEMA_VERSION:
        raise DocumentError(f"schema_version 1 to {SCHEMA_VERSION} can be read, got {version!r}; a newer Zittern wrote this", "schema_version")
    while version < SCHEMA_VERSION:
        data = STEPS[version](data)
        version += 1
    with faults_as(DocumentError):
        return Shot.model_validate(data)


def started(name: str, fields: dict[str, Any]) -> Shot:
    """A fresh shot from fields that people gave. Raises DocumentError."""
    with faults_as(DocumentError):
        return new_shot(name, **fields)


def write_shot(shot: Shot) -> str:
    """JSON text of a shot; reading it gives an equal shot."""
    return shot.model_dump_json(exclude_defaults=False)

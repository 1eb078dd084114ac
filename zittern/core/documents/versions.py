"""Documents of older versions brought to the present one, step by step."""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from typing import Any

from zittern.core.errors import DocumentError

__all__ = ["Step", "only_more", "parsed", "upgraded"]

Step = Callable[[dict[str, Any]], dict[str, Any]]


def only_more(version: int) -> Step:
    """Return a step to a version that has fields more, which say nothing where they are left out."""
    return lambda data: {**data, "schema_version": version}


def parsed(text: str | bytes) -> Any:
    """Return parsed JSON. Raises DocumentError for what is none."""
    try:
        return json.loads(text)
    except (ValueError, RecursionError) as error:
        raise DocumentError(f"this is not JSON: {error}") from error


def upgraded(data: Any, what: str, newest: int, steps: Mapping[int, Step]) -> dict[str, Any]:
    """Return a parsed `zittern.WHAT` of any version in the newest one; steps[n] upgrades version n to n + 1.

    Raises DocumentError for anything else.
    """
    name = f"zittern.{what}"
    if not isinstance(data, dict) or data.get("schema_name") != name:
        raise DocumentError(f'this is not a {what}: "schema_name" should be "{name}"', "schema_name")
    version = data.get("schema_version")
    if not isinstance(version, int) or isinstance(version, bool) or not 1 <= version <= newest:
        raise DocumentError(
            f"schema_version 1 to {newest} can be read, got {version!r}; a newer Zittern wrote this", "schema_version"
        )
    document: dict[str, Any] = data
    for step in range(version, newest):
        document = steps[step](document)
    return document

"""Checks of many shots at once, as lines of JSON."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor

from zittern.core.checks.finding import Finding
from zittern.core.checks.table import CHECKS, check, named
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot

__all__ = ["checked", "line_of"]


def checked(shots: Sequence[tuple[str, Shot]], names: tuple[str, ...] | None = None) -> Iterator[tuple[str, bool]]:
    """A line for each finding, and whether it has weight, shot by shot; several shots in several processes. Raises
    BadInput for a check that does not exist.
    """
    if names is not None:
        named(names)
    if len(shots) == 1:
        yield from _lines(shots[0][0], shots[0][1], names)
        return
    with ProcessPoolExecutor(max_workers=min(len(shots), os.cpu_count() or 1)) as pool:
        texts = ((key, write_shot(shot), names) for key, shot in shots)
        for lines in pool.map(_lines_of_text, texts):
            yield from lines


def line_of(shot: str, found: Finding) -> str:
    """One JSON object."""
    return json.dumps({"shot": shot, **found.model_dump(mode="json")}, ensure_ascii=False)


def _lines_of_text(given: tuple[str, str, tuple[str, ...] | None]) -> list[tuple[str, bool]]:
    key, text, names = given
    return _lines(key, read_shot(text), names)


def _lines(key: str, shot: Shot, names: tuple[str, ...] | None) -> list[tuple[str, bool]]:
    checks = CHECKS if names is None else named(names)
    return [(line_of(key, found), found.weight) for found in check(shot, checks).findings]

"""Checks of many shots, as lines of JSON."""

from __future__ import annotations

import json
import os
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from functools import lru_cache
from pathlib import Path

import numpy as np

from zittern.core.checks.finding import Finding
from zittern.core.checks.table import CHECKS, check, named
from zittern.core.errors import FormatError, NotFound
from zittern.core.plates.set_pieces import SetPieces
from zittern.core.shot.shot import Shot
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.formats.set_meshes import pieces_of
from zittern.store.sets import set_file

__all__ = ["checked", "line_of", "pieces_for"]


def pieces_for(data_dir: Path, shot: Shot) -> SetPieces | None:
    """Return the objects of a shot's set; nothing without a set, and the error if it cannot be read."""
    if shot.set_id is None:
        return None
    try:
        path = set_file(data_dir, shot.set_id)
        return _pieces(path, path.stat().st_mtime_ns)
    except NotFound:
        # A shot that came alone has its set elsewhere.
        return None
    except FormatError as error:
        return SetPieces(fault=error.message)
    except (OSError, np.linalg.LinAlgError) as error:
        return SetPieces(fault=f"{shot.set_id}: {error}")


@lru_cache(maxsize=4)
def _pieces(path: Path, written: int) -> SetPieces:
    """Return the objects of a set file, cached by its time stamp."""
    return pieces_of(path.read_bytes())


def checked(
    shots: Sequence[tuple[str, Shot]], data_dir: Path, names: tuple[str, ...] | None = None
) -> Iterator[tuple[str, bool]]:
    """Return a line for each finding, and whether it has weight, shot by shot; several shots in several processes.

    data_dir: where sets are. Raises BadInput for a check that does not exist.
    """
    if names is not None:
        named(names)
    if len(shots) == 1:
        yield from _lines(shots[0][0], shots[0][1], data_dir, names)
        return
    with ProcessPoolExecutor(max_workers=min(len(shots), os.cpu_count() or 1)) as pool:
        texts = ((key, write_shot(shot), data_dir, names) for key, shot in shots)
        for lines in pool.map(_lines_of_text, texts):
            yield from lines


def line_of(shot: str, found: Finding) -> str:
    """One JSON object."""
    return json.dumps({"shot": shot, **found.model_dump(mode="json")}, ensure_ascii=False)


def _lines_of_text(given: tuple[str, str, Path, tuple[str, ...] | None]) -> list[tuple[str, bool]]:
    key, text, data_dir, names = given
    return _lines(key, read_shot(text), data_dir, names)


def _lines(key: str, shot: Shot, data_dir: Path, names: tuple[str, ...] | None) -> list[tuple[str, bool]]:
    checks = CHECKS if names is None else named(names)
    found = check(shot, checks, pieces=pieces_for(data_dir, shot)).findings
    return [(line_of(key, each), each.weight) for each in found]

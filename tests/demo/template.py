"""A data folder with the demo and the swaying shot in it, made once a process and copied for each test."""

from __future__ import annotations

import shutil
import tempfile
from functools import cache
from pathlib import Path

from tests.demo.swaying import add_swaying
from zittern.demo.build import ensure_demo
from zittern.store.library import Library

__all__ = ["demo_data"]


def demo_data(into: Path) -> None:
    """Makes a data folder that nobody else has."""
    shutil.copytree(_made().name, into, dirs_exist_ok=True, ignore=shutil.ignore_patterns("reserve", "work"))


@cache
def _made() -> tempfile.TemporaryDirectory[str]:
    folder = tempfile.TemporaryDirectory()
    library = Library(Path(folder.name))
    ensure_demo(library)
    add_swaying(library)
    library.close()
    return folder

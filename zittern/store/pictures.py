"""Pictures that plates show, by the digest of their content.

What is drawn of them, a small one for lists, and tiles of large ones.
"""

from __future__ import annotations

import hashlib
import re
import time
import zipfile
from collections.abc import Container
from pathlib import Path

from zittern.core.errors import NotFound
from zittern.store.faults import faults_of

__all__ = ["SHIPPED", "digest_of_picture", "keep_picture", "picture_file", "picture_tile", "pictures_in", "sweep"]

# Pictures of the demo project.
SHIPPED = Path(__file__).parent.parent / "demo" / "plates"
_DIGEST = re.compile(r"^[0-9a-f]{64}$")
_NAMED = re.compile(rb'"picture":"([0-9a-f]{64})"')
# Pictures without a reference are removed when they are older than this: a new one may not be used yet.
_FRESH_S = 24 * 3600.0


def keep_picture(data_dir: Path, digest: str, shown: Path, thumb: Path, tiles: Path) -> None:
    """Store the display image of a picture, its thumbnail and its tiles by the digest of its content.

    Raises StoreError.
    """
    with faults_of(data_dir):
        folder = data_dir / "pictures"
        folder.mkdir(exist_ok=True)
        if tiles.is_file():
            tiles.replace(folder / f"{digest}.zip")
        thumb.replace(folder / f"{digest}.small.webp")
        shown.replace(folder / f"{digest}.webp")


def pictures_in(document: bytes) -> set[str]:
    """Return the digests of the pictures that a shot document, as JSON, names."""
    return {found.decode() for found in _NAMED.findall(document)}


def digest_of_picture(data: bytes) -> str:
    """Return the name of a picture with some content."""
    return hashlib.sha256(data).hexdigest()


def picture_file(data_dir: Path, digest: str, small: bool = False) -> Path:
    """Return the display image of a picture. Raises NotFound."""
    if _DIGEST.match(digest):
        for folder in (data_dir / "pictures", SHIPPED):
            path = folder / f"{digest}{'.small' if small else ''}.webp"
            if path.is_file():
                return path
    raise NotFound("this picture is not here; hang its file again on the same plate")


def picture_tile(data_dir: Path, digest: str, name: str) -> bytes | None:
    """Return a stored part of a large picture by name (`index.json`, `LEVEL/COLUMN/ROW`); None if it is missing."""
    path = data_dir / "pictures" / f"{digest}.zip"
    if not _DIGEST.match(digest):
        return None
    try:
        with zipfile.ZipFile(path) as kept:
            return kept.read(name)
    except (FileNotFoundError, KeyError, zipfile.BadZipFile):
        return None


def sweep(data_dir: Path, named: Container[str]) -> int:
    """Remove pictures without a reference, unless they are new. How many files went."""
    gone = 0
    with faults_of(data_dir):
        for path in sorted((data_dir / "pictures").glob("*.*")):
            if path.name.partition(".")[0] in named or time.time() - path.stat().st_mtime < _FRESH_S:
                continue
            path.unlink(missing_ok=True)
            gone += 1
    return gone

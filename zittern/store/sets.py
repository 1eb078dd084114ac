"""Sets that shots play in: GLB files shipped with the package, and those in the data folder.

The id of an added set ends in a digest of its content, so that an id always identifies the same bytes, for any order of
the same time.
"""

from __future__ import annotations

import hashlib
import os
import re
from pathlib import Path

from zittern.core.errors import NotFound
from zittern.store.faults import faults_of
from zittern.store.workspace import Workspace

__all__ = ["SHIPPED", "add_set", "set_file", "set_ids", "set_title"]

SHIPPED = Path(__file__).parent.parent / "demo" / "sets"
_ID = re.compile(r"^[a-z0-9][a-z0-9-]{0,63}$")
_DIGEST_BYTES = 6
_ADDED = re.compile(r"-[0-9a-f]{12}$")
_NAME_LENGTH = 48


def set_ids(data_dir: Path) -> list[str]:
    """Ids of all sets."""
    added = (path for path in (data_dir / "sets").glob("*.glb") if not path.is_symlink())
    return sorted({path.stem for path in (*SHIPPED.glob("*.glb"), *added)})


def set_title(set_id: str) -> str:
    """Return the title of a set: its id without the digest."""
    return _ADDED.sub("", set_id).replace("-", " ")


def set_file(data_dir: Path, set_id: str) -> Path:
    """Return the GLB of a set. Raises NotFound."""
    if _ID.match(set_id):
        added, shipped = (folder / f"{set_id}.glb" for folder in (data_dir / "sets", SHIPPED))
        # A link could lead to any file of this machine.
        if added.is_file() and not added.is_symlink():
            return added
        if shipped.is_file():
            return shipped
    raise NotFound(f"there is no set {set_id!r}")


def add_set(data_dir: Path, workspace: Workspace, wanted: str, data: bytes) -> str:
    """Store a GLB as a set; return its id, from a name and a digest of the content.

    The file is whole or not there. Raises StoreError.
    """
    set_id = (
        f"{wanted[:_NAME_LENGTH].strip('-') or 'set'}-{hashlib.blake2b(data, digest_size=_DIGEST_BYTES).hexdigest()}"
    )
    part = workspace.new_path(".part")
    with faults_of(data_dir):
        folder = data_dir / "sets"
        folder.mkdir(exist_ok=True)
        try:
            with part.open("wb") as file:
                file.write(data)
                file.flush()
                os.fsync(file.fileno())
            part.replace(folder / f"{set_id}.glb")
        finally:
            part.unlink(missing_ok=True)
    return set_id

"""Sets that shots play in: GLB files shipped with the package, and those in the data folder."""

from __future__ import annotations

import re
from pathlib import Path

from zittern.core.errors import NotFound

__all__ = ["SHIPPED", "set_file", "set_ids"]

SHIPPED = Path(__file__).parent.parent / "demo" / "sets"
_ID = re.compile(r"^[a-z0-9][a-z0-9-]{0,63}$")


def set_ids(data_dir: Path) -> list[str]:
    """Ids of all sets."""
    return sorted({path.stem for folder in (SHIPPED, data_dir / "sets") if folder.is_dir() for path in folder.glob("*.glb")})


def set_file(data_dir: Path, set_id: str) -> Path:
    """The GLB of a set. Raises NotFound."""
    if _ID.match(set_id):
        for folder in (data_dir / "sets", SHIPPED):
            path = folder / f"{set_id}.glb"
            if path.is_file():
                return path
    raise NotFound(f"there is no set {set_id!r}")

"""Sets that shots play in: GLB files shipped with the package, and those in the data folder."""

from __future__ import annotations

import re
from pathlib import Path

from zittern.core.errors import NotFound

__all__ = ["SHIPPED", "add_set", "set_file", "set_ids"]

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


def add_set(data_dir: Path, wanted: str, data: bytes) -> str:
    """Keeps a GLB as a set; its id, made of a wanted one that is not taken. The file is whole or not there."""
    folder = data_dir / "sets"
    folder.mkdir(exist_ok=True)
    taken = set(set_ids(data_dir))
    set_id = next(name for name in (wanted, *(f"{wanted}-{n}" for n in range(2, len(taken) + 3))) if name not in taken)
    part = folder / f"{set_id}.part"
    part.write_bytes(data)
    part.replace(folder / f"{set_id}.glb")
    return set_id

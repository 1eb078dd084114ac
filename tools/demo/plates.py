"""Paints the plates of the demo project. Run by `make plates`; a test compares the files with its result."""

from __future__ import annotations

import hashlib
import io
import json
import tempfile
from dataclasses import asdict
from pathlib import Path

from PIL import Image

from tools.demo.paintings import PAINTINGS
from zittern.formats.picture_file import read_picture
from zittern.store.pictures import SHIPPED

__all__ = ["FOLDER", "INDEX", "main"]

FOLDER = SHIPPED
# Metadata of each plate image: digest, size, coverage; by name.
INDEX = FOLDER / "index.json"
_QUALITY = 82


def main() -> None:
    """Write what is drawn of each painting, a small one, and the index."""
    for path in FOLDER.glob("*.webp"):
        path.unlink()
    index = {}
    for name, (paint, _, _) in PAINTINGS.items():
        data = _encoded(paint())
        digest = hashlib.sha256(data).hexdigest()
        (FOLDER / f"{digest}.webp").write_bytes(data)
        with tempfile.TemporaryDirectory() as folder:
            facts = read_picture(
                data, name, Path(folder) / "shown.webp", FOLDER / f"{digest}.small.webp", Path(folder) / "tiles.zip"
            )
        index[name] = {"picture": digest, **asdict(facts)}
    INDEX.write_text(json.dumps(index, indent=1) + "\n")


def _encoded(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "WEBP", quality=_QUALITY, method=6)
    return out.getvalue()


if __name__ == "__main__":
    main()

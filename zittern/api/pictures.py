"""A picture from somebody's file, kept and ready to be hung."""

from __future__ import annotations

from pathlib import PurePath

from fastapi import UploadFile

from zittern.core.edits.plates import Hung
from zittern.formats.picture_file import read_picture
from zittern.store.library import Library
from zittern.store.pictures import keep_picture

__all__ = ["kept"]

_MOST_NAME = 60


def kept(library: Library, file: UploadFile) -> Hung:
    """Decodes and keeps it. Raises FormatError with the file's name, StoreError."""
    data, name = file.file.read(), _name(file)
    made = [library.workspace.new_path(kind) for kind in (".webp", ".webp", ".zip")]
    shown, thumb, tiles = made
    try:
        facts = read_picture(data, name, shown, thumb, tiles)
        digest = keep_picture(library.data_dir, data, shown, thumb, tiles)
    finally:
        for path in made:
            path.unlink(missing_ok=True)
    return Hung(name=name, picture=digest, width_px=facts.width_px, height_px=facts.height_px, opaque=facts.opaque)


def _name(file: UploadFile) -> str:
    """What a plate is called: as its file, in words."""
    stem = PurePath((file.filename or "").replace("\\", "/")).stem.replace("_", " ").replace("-", " ")
    words = " ".join("".join(each for each in stem if each.isprintable()).split())
    return words[:_MOST_NAME].strip() or "plate"

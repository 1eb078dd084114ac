"""Pictures of an upload, decoded and stored before their request waits to write.

Decoding takes seconds of processor time in a child process: up to two run in parallel, and edits do not wait for them.
"""

from __future__ import annotations

import asyncio
from collections.abc import Sequence
from pathlib import PurePath
from typing import Annotated

from fastapi import Depends, Request, UploadFile
from fastapi.concurrency import run_in_threadpool

from zittern.api.context import Ctx
from zittern.api.write_queue import place_in
from zittern.core.edits.plates import Hung
from zittern.core.errors import BadInput
from zittern.formats.table import read_as
from zittern.store.library import Library
from zittern.store.pictures import digest_of_picture, keep_picture

__all__ = ["AT_ONCE", "Pictures", "ShownPicture", "pictures_of"]

# Pictures that are decoded at the same time, and how long others wait for that.
AT_ONCE, _PATIENCE_S = 2, 60.0
# More are hung in several goes.
_MOST_FILES = 24
_MOST_NAME = 60
_BUSY = f"other pictures are being read for more than {_PATIENCE_S:g} s; nothing was changed. Try again in a moment"


async def pictures_of(files: list[UploadFile], request: Request, ctx: Ctx) -> list[Hung]:
    """Decode and keep the pictures of a request. Raises BadInput."""
    if len(files) > _MOST_FILES:
        raise BadInput(f"expected up to {_MOST_FILES} pictures, got {len(files)}", "files")
    await run_in_threadpool(_check_target, ctx.library, request.path_params)
    return await _decoded(files, request, ctx)


async def _picture(file: UploadFile, request: Request, ctx: Ctx) -> Hung:
    await run_in_threadpool(_check_target, ctx.library, request.path_params)
    return (await _decoded([file], request, ctx))[0]


Pictures = Annotated[list[Hung], Depends(pictures_of)]
ShownPicture = Annotated[Hung, Depends(_picture)]


def _check_target(library: Library, target: dict[str, str]) -> None:
    """Raise NotFound for a missing shot or project, before anything is decoded for it."""
    if "shot" in target:
        library.newest_revision(target["shot"])
    else:
        library.project(target["slug"])


async def _decoded(files: Sequence[UploadFile], request: Request, ctx: Ctx) -> list[Hung]:
    decoders: asyncio.Semaphore = request.app.state.decoders
    made = []
    for file in files:
        async with place_in(decoders, _PATIENCE_S, _BUSY):
            made.append(await run_in_threadpool(_stored, ctx.library, file))
    return made


def _stored(library: Library, file: UploadFile) -> Hung:
    """Decode one picture and keep it. Raises FormatError with the file's name, StoreError."""
    data, name = file.file.read(), _name(file)
    made = [library.workspace.new_path(kind) for kind in (".webp", ".webp", ".zip")]
    shown, thumb, tiles = made
    try:
        facts = read_as("picture.png", data, name, shown, thumb, tiles)
        digest = digest_of_picture(data)
        keep_picture(library.data_dir, digest, shown, thumb, tiles)
    finally:
        for path in made:
            path.unlink(missing_ok=True)
    return Hung(name=name, picture=digest, width_px=facts.width_px, height_px=facts.height_px, opaque=facts.opaque)


def _name(file: UploadFile) -> str:
    """Return the name of a plate from that of its file."""
    stem = PurePath((file.filename or "").replace("\\", "/")).stem.replace("_", " ").replace("-", " ")
    words = " ".join("".join(each for each in stem if each.isprintable()).split())
    return words[:_MOST_NAME].strip() or "plate"

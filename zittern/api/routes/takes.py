"""Recorded takes as layers: one that ships, or a file."""

from __future__ import annotations

from pathlib import PurePath
from typing import Annotated

from fastapi import APIRouter, Form, UploadFile

from zittern.api.context import JsonRoute
from zittern.api.models.shots import StateOut
from zittern.api.variant_shot import Seen
from zittern.api.write_queue import WRITES
from zittern.core.edits.takes import PlayTake
from zittern.formats.table import read_as
from zittern.store.takes import take_file

router = APIRouter(prefix="/api/shots/{shot}/takes", tags=["takes"], route_class=JsonRoute)
_Revision = Annotated[int, Form(ge=0, le=2**53 - 1)]
_Id = Annotated[str | None, Form(max_length=100)]


@router.post("/shipped", response_model=StateOut, dependencies=[WRITES])
def play_shipped(
    shot: str,
    seen: Seen,
    base_revision: _Revision,
    name: Annotated[str, Form(max_length=100)],
    layer: _Id = None,
    clip: _Id = None,
) -> object:
    """Play a shipped take on a layer, by default on a new one; one revision."""
    recording = read_as("take", take_file(name).read_bytes(), name.replace("-", " "))
    return seen.edit(shot, base_revision, PlayTake(recording=recording, layer=layer, clip=clip))


@router.post("", response_model=StateOut, dependencies=[WRITES])
def play_file(
    shot: str, file: UploadFile, seen: Seen, base_revision: _Revision, layer: _Id = None, clip: _Id = None
) -> object:
    """Add a layer that plays a CSV or JSON file of samples."""
    recording = read_as("take", file.file.read(), PurePath(file.filename or "take").stem)
    return seen.edit(shot, base_revision, PlayTake(recording=recording, layer=layer, clip=clip))

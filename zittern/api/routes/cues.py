"""Cues from files and as files; all else about them are edits."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Form, UploadFile
from fastapi.responses import Response

from zittern.api.models.shots import StateOut
from zittern.api.variant_shot import Seen
from zittern.api.write_queue import WRITES
from zittern.core.edits.cues import AddCues
from zittern.formats.table import read_as, write_as

router = APIRouter(prefix="/api/shots/{shot}/cues", tags=["cues"])


@router.get("", response_class=Response)
def export_cues(shot: str, seen: Seen) -> Response:
    """All cues as CSV."""
    state = seen.state(shot)
    headers = {"Content-Disposition": f'attachment; filename="{state.slug}-cues.csv"'}
    return Response(write_as("cues", state.document), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("", response_model=StateOut, dependencies=[WRITES])
def import_cues(
    shot: str, file: UploadFile, seen: Seen, base_revision: Annotated[int, Form(ge=0, le=2**53 - 1)]
) -> object:
    """Add the cues of a CSV; one revision."""
    cues = read_as("cues", file.file.read(), seen.document(shot))
    return seen.edit(shot, base_revision, AddCues(cues=cues))

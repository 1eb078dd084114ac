"""Projects as files: saved and opened."""

from __future__ import annotations

from fastapi import APIRouter, UploadFile
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask

from zittern.api.context import Ctx
from zittern.api.models.projects import UnpackedOut
from zittern.api.write_queue import WRITES
from zittern.project_file import ENDING, pack, unpack
from zittern.store.faults import faults_of

router = APIRouter(prefix="/api/projects", tags=["projects"])


@router.get("/{slug}/file", response_class=FileResponse)
def get_project_file(slug: str, ctx: Ctx) -> FileResponse:
    """Return a project as one file: its shots, and the presets, sets and pictures that they use."""
    path = ctx.library.workspace.new_path(ENDING)
    try:
        with faults_of(ctx.library.data_dir), path.open("wb") as file:
            pack(ctx.library, slug, file)
    except BaseException:
        path.unlink(missing_ok=True)
        raise
    sent = BackgroundTask(path.unlink, missing_ok=True)
    return FileResponse(path, media_type="application/zip", filename=f"{slug}{ENDING}", background=sent)


@router.post("/unpack", status_code=201, dependencies=[WRITES])
def unpack_project(file: UploadFile, ctx: Ctx) -> UnpackedOut:
    """Store the project of a file as a new one; nothing is overwritten."""
    made = unpack(ctx.library, file.file)
    return UnpackedOut(project=made.project, name=ctx.library.project(made.project).name, shots=list(made.shots))

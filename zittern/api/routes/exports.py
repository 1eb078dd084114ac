"""Exports: started, watched, cancelled, fetched."""

from __future__ import annotations

from urllib.parse import quote

from fastapi import APIRouter
from fastapi.responses import Response

from zittern.api.context import Ctx
from zittern.api.jobs import ExportJob
from zittern.api.models import ExportIn, JobOut
from zittern.core.errors import NotFound
from zittern.formats.table import format_named

router = APIRouter(prefix="/api", tags=["exports"])


def _out(job: ExportJob) -> JobOut:
    return JobOut(id=job.id, status=job.status, progress=job.progress, filename=job.filename, problem=job.problem)


@router.post("/shots/{shot}/exports", status_code=202)
def start_export(shot: str, body: ExportIn, ctx: Ctx) -> JobOut:
    """Begins; `step` is in frames."""
    state = ctx.library.state(shot)
    chosen = format_named(body.format)
    return _out(ctx.jobs.start(state.document, f"{state.slug}{chosen.ending}", chosen, body.step))


@router.get("/exports/{job}")
def get_export(job: str, ctx: Ctx) -> JobOut:
    """How far it is."""
    return _out(ctx.jobs.get(job))


@router.delete("/exports/{job}")
def cancel_export(job: str, ctx: Ctx) -> JobOut:
    """Stops at the next part."""
    found = ctx.jobs.get(job)
    found.cancelled.set()
    return _out(found)


@router.get("/exports/{job}/file", response_class=Response)
def get_export_file(job: str, ctx: Ctx) -> Response:
    """The finished file."""
    found = ctx.jobs.get(job)
    if found.status != "done":
        raise NotFound(f"the export is {found.status}, not done")
    disposition = f"attachment; filename*=UTF-8''{quote(found.filename)}"
    return Response(found.result, media_type=found.format.media_type, headers={"Content-Disposition": disposition})

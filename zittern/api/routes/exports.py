"""Exports: started, watched, cancelled, fetched."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Header
from fastapi.responses import FileResponse
from starlette.background import BackgroundTask, BackgroundTasks

from zittern.api.context import Ctx, JsonRoute
from zittern.api.jobs import ExportJob
from zittern.api.models.transfer import ExportIn, JobOut
from zittern.api.variant_shot import Seen
from zittern.core.shot.through_variant import variant_of
from zittern.formats.delivery import Delivery
from zittern.formats.reduced import tolerance_from
from zittern.formats.table import format_named
from zittern.store.naming import slug_of

router = APIRouter(prefix="/api", tags=["exports"], route_class=JsonRoute)


def _out(job: ExportJob) -> JobOut:
    return JobOut(
        id=job.id,
        status=job.status,
        progress=job.progress,
        filename=job.filename,
        problem=job.problem,
        says=job.says,
    )


@router.post("/shots/{shot}/exports", status_code=202)
def start_export(shot: str, body: ExportIn, ctx: Ctx, seen: Seen) -> JobOut:
    """Start an export; `step` is in frames. Where the shot has several variants, the file name includes the variant."""
    state = seen.state(shot)
    tolerance = tolerance_from(body.reduce, "reduce")
    delivery = Delivery(body.step, tolerance, body.one_camera, body.first_frame, body.last_frame, body.first_number)
    name = state.slug
    if len(state.document.variants) > 1:
        name += f"-{slug_of(variant_of(state.document, state.variant).name)}"
    return _out(ctx.jobs.start(state.document, name, format_named(body.format), delivery))


@router.get("/exports/{job}")
def get_export(job: str, ctx: Ctx) -> JobOut:
    """Return its progress."""
    return _out(ctx.jobs.get(job))


@router.delete("/exports/{job}")
def cancel_export(job: str, ctx: Ctx) -> JobOut:
    """Stop at the next part."""
    found = ctx.jobs.get(job)
    found.cancelled.set()
    return _out(found)


@router.get("/exports/{job}/file", response_class=FileResponse)
def get_export_file(
    job: str, ctx: Ctx, range: Annotated[str | None, Header(include_in_schema=False)] = None
) -> FileResponse:
    """Return the finished file. Once all of it has arrived it is gone from here."""
    found = ctx.jobs.get(job)
    path = ctx.jobs.fetched(found)
    sent = BackgroundTasks([BackgroundTask(path.unlink, missing_ok=True)])
    if range is None:
        sent.add_task(ctx.jobs.drop, found)
    return FileResponse(path, media_type=found.format.media_type, filename=found.filename, background=sent)

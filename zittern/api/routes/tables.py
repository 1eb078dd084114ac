"""What the page needs to know once, and the sets that shots play in."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter
from fastapi.responses import FileResponse

from zittern import __version__
from zittern.api.context import Ctx
from zittern.api.models import AxisOut, FormatOut, SourceOut, TablesOut
from zittern.core.axes import AXIS_INFO
from zittern.core.sources.table import SOURCES
from zittern.formats.table import FORMATS
from zittern.store.sets import set_file, set_ids

router = APIRouter(prefix="/api", tags=["tables"])


@router.get("/tables")
def get_tables(ctx: Ctx) -> TablesOut:
    """Axes, sources, formats and sets."""
    return TablesOut(
        version=__version__,
        axes=[AxisOut(**asdict(info)) for info in AXIS_INFO],
        sources=[SourceOut(kind=row.kind, title=row.title, imitates=row.imitates) for row in SOURCES],
        formats=[FormatOut(name=each.name, ending=each.ending, title=each.title, reads=each.read is not None) for each in FORMATS],
        sets=set_ids(ctx.library.data_dir),
    )


@router.get("/sets/{set_id}", response_class=FileResponse)
def get_set(set_id: str, ctx: Ctx) -> FileResponse:
    """The GLB of a set."""
    return FileResponse(set_file(ctx.library.data_dir, set_id), media_type="model/gltf-binary")

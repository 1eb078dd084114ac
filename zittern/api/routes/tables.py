"""Tables that the page loads once, and the sets of shots."""

from __future__ import annotations

from pathlib import PurePath
from typing import get_args

from fastapi import APIRouter, UploadFile
from fastapi.responses import FileResponse

from zittern import __version__
from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.tables import (
    AxisOut,
    CheckOut,
    FormatOut,
    FormsOut,
    FramingOut,
    MovieKindOut,
    PlaceOut,
    SetChoice,
    SetOut,
    SourceOut,
    TablesOut,
)
from zittern.api.write_queue import WRITES
from zittern.core.axes import AXIS_INFO
from zittern.core.checks.table import CHECKS
from zittern.core.edits.table import limits
from zittern.core.numbers.curves import Extend
from zittern.core.numbers.envelope import RampShape
from zittern.core.presets.feel import HANDHELD
from zittern.core.shot import forms
from zittern.core.shot.shot import new_shot
from zittern.core.sources.table import SOURCES
from zittern.formats.table import FORMATS, MOVIES, read_as
from zittern.store.naming import slug_of
from zittern.store.sets import add_set, set_file, set_ids, set_title
from zittern.store.shipped import shipped_rigs
from zittern.store.takes import take_names

router = APIRouter(prefix="/api", tags=["tables"], route_class=JsonRoute)


_FORMS = FormsOut(
    layer=list(forms.LAYER),
    clip=list(forms.CLIP),
    blend=list(forms.BLEND),
    move=list(forms.MOVE),
    mount=list(forms.MOUNT),
    springs=list(forms.SPRINGS),
    operator=list(forms.OPERATOR),
    ride=list(forms.RIDE),
    hold=list(forms.HOLD),
    glass=list(forms.GLASS),
    plate=list(forms.PLATE),
    places=[
        PlaceOut(title=title, across_percent=across, up_percent=up) for title, (across, up) in forms.PLACES.items()
    ],
    pads={count: list(places) for count, places in forms.PADS.items()},
    rigs=list(shipped_rigs().values()),
    interps=list(forms.RUNS_ON),
    extends=list(get_args(Extend)),
    ramps=list(get_args(RampShape)),
    pictures=list(forms.PICTURES),
    fresh=new_shot("Shot"),
    lenses_mm=list(forms.LENSES_MM),
    framings=[FramingOut(title=title, fill=fill) for title, fill in forms.FRAMINGS.items()],
    handheld=list(HANDHELD),
    limits=limits(),
)


@router.get("/tables")
def get_tables(ctx: Ctx) -> TablesOut:
    """Return axes, sources, forms, formats and sets."""
    return TablesOut(
        version=__version__,
        axes=[AxisOut.model_validate(info) for info in AXIS_INFO],
        sources=[
            SourceOut(
                kind=row.kind,
                title=row.title,
                imitates=row.imitates,
                absolute=row.make.absolute,
                fields=list(row.fields),
            )
            for row in SOURCES
        ],
        forms=_FORMS,
        formats=[
            FormatOut(
                name=each.name,
                ending=each.ending,
                kind=each.kind,
                title=each.title,
                carries=each.carries,
                reads=each.kind == "path" and each.read is not None,
                writes=each.exports,
                has_nodes=each.has_nodes,
                has_curves=each.has_curves,
                has_frame_numbers=each.has_frame_numbers,
            )
            for each in FORMATS
        ],
        movies=[MovieKindOut(name=each.name, title=each.title, ending=each.ending) for each in MOVIES.values()],
        takes=take_names(),
        checks=[CheckOut(name=each.name, title=each.title, told=each.told) for each in CHECKS],
        sets=[SetChoice(set_id=each, title=set_title(each)) for each in set_ids(ctx.library.data_dir)],
    )


@router.get("/sets/{set_id}", response_class=FileResponse)
def get_set(set_id: str, ctx: Ctx) -> FileResponse:
    """Return the GLB of a set."""
    return FileResponse(set_file(ctx.library.data_dir, set_id), media_type="model/gltf-binary")


@router.post("/sets", status_code=201, dependencies=[WRITES])
def add_set_file(file: UploadFile, ctx: Ctx) -> SetOut:
    """Store a GLB as a set that shots can play in."""
    data = file.file.read()
    found = read_as("set", data)
    set_id = add_set(ctx.library.data_dir, ctx.library.workspace, slug_of(PurePath(file.filename or "set").stem), data)
    return SetOut(set_id=set_id, objects=list(found))


@router.get("/sets/{set_id}/objects")
def get_set_objects(set_id: str, ctx: Ctx) -> SetOut:
    """Return the objects of a set."""
    return SetOut(set_id=set_id, objects=list(read_as("set", set_file(ctx.library.data_dir, set_id).read_bytes())))

"""Pictures hung in a shot."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Form, Path, UploadFile
from fastapi.responses import FileResponse, Response

from zittern.api.context import Ctx, JsonRoute, json_response
from zittern.api.models.plates import NeedOut, NeedsOut, TilesOut
from zittern.api.models.shots import StateOut
from zittern.api.pictures import kept
from zittern.api.seen import Seen
from zittern.api.turns import WRITES
from zittern.core.edits.plates import HangPlates, ShowPicture
from zittern.core.errors import BadInput, NotFound, faults_as
from zittern.core.plates.needs import filling
from zittern.core.shot.upgrades import started
from zittern.store.pictures import picture_file, picture_tile
from zittern.store.seeds import newly_seeded

router = APIRouter(tags=["plates"], route_class=JsonRoute)
_Revision = Annotated[int, Form(ge=0, le=2**53 - 1)]
# More are hung in several goes.
_MOST_FILES = 24
# How long a shot is that is made of pictures.
_LENGTH_S = 10.0


_Place = Annotated[int, Path(ge=0, le=1000)]
_FOR_EVER = {"Cache-Control": "public, max-age=31536000, immutable"}
# What a JPEG begins with.
_JPEG = b"\xff\xd8"
_Distance = Annotated[float, Form(ge=0.02, le=1e5)]
_Overscan = Annotated[float, Form(ge=0.0, le=500.0)]


@router.post("/api/shots/{shot}/plates", response_model=StateOut, dependencies=[WRITES])
def hang(
    shot: str,
    files: list[UploadFile],
    ctx: Ctx,
    seen: Seen,
    base_revision: _Revision,
    distance_m: _Distance = 4.0,
    overscan_percent: _Overscan = 10.0,
) -> object:
    """Hangs pictures in front of the lens, the first one nearest; one revision."""
    seen.state(shot)
    command = _hanging(ctx, files, distance_m, overscan_percent)
    return seen.edit(shot, base_revision, command)


@router.post("/api/projects/{slug}/plates", status_code=201, response_model=StateOut, dependencies=[WRITES])
def shot_from_pictures(
    slug: str, files: list[UploadFile], ctx: Ctx, distance_m: _Distance = 4.0, overscan_percent: _Overscan = 10.0
) -> object:
    """A new shot with pictures hung in it, called as the first of them. Where one cannot be read there is none."""
    ctx.library.project(slug)
    command = _hanging(ctx, files, distance_m, overscan_percent)
    made = command.apply(started(command.plates[0].name, {}, seconds=_LENGTH_S))
    return json_response(StateOut.of(ctx.library.add_shot(slug, newly_seeded(made), command.label(made))), 201)


def _hanging(ctx: Ctx, files: list[UploadFile], distance_m: float, overscan_percent: float) -> HangPlates:
    """Reads and keeps pictures. Raises BadInput."""
    if len(files) > _MOST_FILES:
        raise BadInput(f"at most {_MOST_FILES} pictures at once, got {len(files)}", "files")
    hung = [kept(ctx.library, each) for each in files]
    with faults_as(BadInput):
        return HangPlates(plates=tuple(hung), distance_m=distance_m, overscan_percent=overscan_percent)


@router.post("/api/shots/{shot}/plates/{plate}", response_model=StateOut, dependencies=[WRITES])
def show(shot: str, plate: str, file: UploadFile, ctx: Ctx, seen: Seen, base_revision: _Revision) -> object:
    """Shows another picture on a plate, or the one that is missing; one revision."""
    seen.state(shot)
    hung = kept(ctx.library, file)
    return seen.edit(shot, base_revision, ShowPicture(plate=plate, shows=hung))


@router.post("/api/shots/{shot}/coverage")
def coverage(shot: str, ctx: Ctx, seen: Seen) -> NeedsOut:
    """How far in edges of plates show, and the least that would mend it. Nothing is changed."""
    full = filling(seen.document(shot), cache=ctx.cache)
    found = [NeedOut(**asdict(need)) for need in full.needs]
    return NeedsOut(uncovered_px=full.uncovered_px, at_frame=full.at_frame, needs=found)


@router.get("/api/pictures/{digest}", response_class=FileResponse)
def get_picture(digest: str, ctx: Ctx, small: bool = False) -> FileResponse:
    """What is drawn of a picture; it never changes."""
    path = picture_file(ctx.library.data_dir, digest, small)
    return FileResponse(path, media_type="image/webp", headers=_FOR_EVER)


@router.get("/api/pictures/{digest}/tiles")
def get_tiles(digest: str, ctx: Ctx) -> TilesOut:
    """In which tiles a picture is here; without levels where it has none."""
    index = picture_tile(ctx.library.data_dir, digest, "index.json")
    return TilesOut() if index is None else TilesOut.model_validate_json(index)


@router.get("/api/pictures/{digest}/tiles/{level}/{column}/{row}", response_class=Response)
def get_tile(digest: str, level: _Place, column: _Place, row: _Place, ctx: Ctx) -> Response:
    """One tile; it never changes."""
    tile = picture_tile(ctx.library.data_dir, digest, f"{level}/{column}/{row}")
    if tile is None:
        raise NotFound("this tile of the picture is not here; hang its file again on the same plate")
    media_type = "image/jpeg" if tile.startswith(_JPEG) else "image/webp"
    return Response(tile, media_type=media_type, headers=_FOR_EVER)

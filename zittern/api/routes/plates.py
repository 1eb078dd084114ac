"""Pictures hung in a shot."""

from __future__ import annotations

from dataclasses import asdict
from typing import Annotated

from fastapi import APIRouter, Form, Path
from fastapi.responses import FileResponse, Response

from zittern.api.context import Ctx, JsonRoute, json_response
from zittern.api.models.plates import NeedOut, NeedsOut, TilesOut
from zittern.api.models.shots import StateOut
from zittern.api.pictures import Pictures, ShownPicture
from zittern.api.variant_shot import Seen
from zittern.api.write_queue import Turn
from zittern.core.edits.plates import HangPlates, Hung, ShowPicture
from zittern.core.errors import BadInput, NotFound, faults_as
from zittern.core.plates.needs import filling
from zittern.core.shot.upgrades import started
from zittern.store.pictures import picture_file, picture_tile
from zittern.store.seeds import newly_seeded

router = APIRouter(tags=["plates"], route_class=JsonRoute)
_Revision = Annotated[int, Form(ge=0, le=2**53 - 1)]
# Length of a new shot that is created from images.
_LENGTH_S = 10.0


_Place = Annotated[int, Path(ge=0, le=1000)]
_FOR_EVER = {"Cache-Control": "public, max-age=31536000, immutable"}
# First bytes of a JPEG file.
_JPEG = b"\xff\xd8"
_Distance = Annotated[float, Form(ge=0.02, le=1e5)]
_Overscan = Annotated[float, Form(ge=0.0, le=500.0)]


# Pictures are decoded first: dependencies run in the order of the parameters.
@router.post("/api/shots/{shot}/plates", response_model=StateOut)
def hang(
    shot: str,
    seen: Seen,
    base_revision: _Revision,
    pictures: Pictures,
    turn: Turn,
    distance_m: _Distance = 4.0,
    overscan_percent: _Overscan = 10.0,
) -> object:
    """Add image plates in front of the lens, the first one nearest; one revision."""
    return seen.edit(shot, base_revision, _hanging(pictures, distance_m, overscan_percent))


@router.post("/api/projects/{slug}/plates", status_code=201, response_model=StateOut)
def shot_from_pictures(
    slug: str,
    ctx: Ctx,
    pictures: Pictures,
    turn: Turn,
    distance_m: _Distance = 4.0,
    overscan_percent: _Overscan = 10.0,
) -> object:
    """Return a new shot with pictures hung in it, called as the first of them.

    Where one cannot be read there is none.
    """
    command = _hanging(pictures, distance_m, overscan_percent)
    made = command.apply(started(command.plates[0].name, {}, seconds=_LENGTH_S))
    return json_response(StateOut.of(ctx.library.add_shot(slug, newly_seeded(made), command.label(made))), 201)


def _hanging(pictures: list[Hung], distance_m: float, overscan_percent: float) -> HangPlates:
    """Return the command that hangs pictures. Raises BadInput."""
    with faults_as(BadInput):
        return HangPlates(plates=tuple(pictures), distance_m=distance_m, overscan_percent=overscan_percent)


@router.post("/api/shots/{shot}/plates/{plate}", response_model=StateOut)
def show(shot: str, plate: str, seen: Seen, base_revision: _Revision, picture: ShownPicture, turn: Turn) -> object:
    """Show another picture on a plate, or the one that is missing; one revision."""
    return seen.edit(shot, base_revision, ShowPicture(plate=plate, shows=picture))


@router.post("/api/shots/{shot}/coverage")
def coverage(shot: str, ctx: Ctx, seen: Seen) -> NeedsOut:
    """Return the gaps at the edges of plates, and the smallest repair. Nothing is changed."""
    full = filling(seen.document(shot), cache=ctx.cache)
    found = [NeedOut(**asdict(need)) for need in full.needs]
    return NeedsOut(uncovered_px=full.uncovered_px, at_frame=full.at_frame, needs=found)


@router.get("/api/pictures/{digest}", response_class=FileResponse)
def get_picture(digest: str, ctx: Ctx, small: bool = False) -> FileResponse:
    """Return the image of a plate; it never changes."""
    path = picture_file(ctx.library.data_dir, digest, small)
    return FileResponse(path, media_type="image/webp", headers=_FOR_EVER)


@router.get("/api/pictures/{digest}/tiles")
def get_tiles(digest: str, ctx: Ctx) -> TilesOut:
    """Return the tiles of a picture; without levels if it has none."""
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

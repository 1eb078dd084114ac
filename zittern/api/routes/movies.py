"""Movies: start, moments of each frame, upload of frames, progress, cancel, download."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Path, Query, Request
from fastapi.concurrency import run_in_threadpool
from fastapi.responses import FileResponse, Response

from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.movies import LeanOut, MomentArray, MomentsHead, MomentsIn, MovieOut, StillIn, TakenOut
from zittern.api.movies import Movie
from zittern.api.packet import framed
from zittern.api.variant_shot import Seen
from zittern.core.errors import BadInput, NotFound
from zittern.core.motion.sampled import MOST_WHOLE_FRAMES
from zittern.core.movie.exposure import draws_of
from zittern.core.movie.lean import lean_px
from zittern.core.movie.moments import moments, wave_px
from zittern.core.movie.settings import MovieSettings
from zittern.core.timebase import frame_grid
from zittern.core.units import Array

router = APIRouter(prefix="/api", tags=["movies"], route_class=JsonRoute)
# Maximum number of drawings in one packet.
_MOST_ROWS = 4_096


@router.post("/shots/{shot}/movies", status_code=201)
def start_movie(shot: str, body: MovieSettings, ctx: Ctx, seen: Seen) -> MovieOut:
    """Start a movie of the shot's present revision; a picture without a variant uses that of the request."""
    state = seen.state(shot)
    return MovieOut.of(ctx.movies.start(state.document, state.slug, body))


@router.get("/movies/{movie}")
def get_movie(movie: str, ctx: Ctx) -> MovieOut:
    """Return its progress."""
    return MovieOut.of(ctx.movies.get(movie))


@router.post("/movies/{movie}/moments", response_class=Response)
def get_moments(movie: str, body: MomentsIn, ctx: Ctx) -> Response:
    """Return the drawings of some frames and their times."""
    found = ctx.movies.get(movie)
    if body.first + body.count > found.count:
        raise BadInput(f"the movie has {found.count} frames", "first")
    with ctx.busy:
        return Response(_packed(_arrays(found, body)), media_type="application/octet-stream")


def _arrays(movie: Movie, body: MomentsIn) -> dict[str, Array]:
    arrays: dict[str, Array] = {}
    first = movie.first + body.first
    drawings = body.count * len(draws_of(movie.settings, movie.parts[0].shot.fps.value))
    if drawings > _MOST_ROWS and body.count > 1:
        raise BadInput(f"{drawings} drawings are too many for one request; ask for fewer frames", "count")
    for number, part in enumerate(movie.parts):
        at, made = moments(part.shot, movie.settings, frame_grid(first, first + body.count - 1), movie.cache)
        arrays.setdefault("at", at[:, None])
        pose = made.pop("pose")
        bare = made.pop("bare")
        arrays[f"pose:{number}"] = bare if part.pane.bare else pose
        arrays.update({name: array for name, array in made.items() if name not in arrays})
    if body.first == 0:
        arrays["wave"] = wave_px(movie.parts[0].shot, movie.first, movie.first + movie.count - 1, movie.cache)
    return arrays


@router.post("/shots/{shot}/still", response_class=Response)
def get_still(shot: str, body: StillIn, ctx: Ctx, seen: Seen) -> Response:
    """Return the drawings of one frame while the shutter is open, for a still picture."""
    settings = MovieSettings(shutter_deg=body.shutter_deg, subframes=body.subframes)
    with ctx.busy:
        at, made = moments(seen.document(shot), settings, np.array([body.frame]), ctx.cache)
    made["pose:0"] = made.pop("pose")
    return Response(_packed({"at": at[:, None], **made}), media_type="application/octet-stream")


@router.get("/shots/{shot}/lean")
def get_lean(
    shot: str, ctx: Ctx, seen: Seen, readout_ms: Annotated[float, Query(ge=0.0, le=100.0, allow_inf_nan=False)]
) -> LeanOut:
    """Return the maximum skew of the picture by the rolling shutter, over the whole shot."""
    document = seen.document(shot)
    if document.frame_count > MOST_WHOLE_FRAMES:
        raise BadInput(f"the skew is computed for shots of up to {MOST_WHOLE_FRAMES} frames", "shot")
    with ctx.busy:
        return LeanOut(px=lean_px(document, readout_ms, document.first_frame, document.last_frame, ctx.cache))


def _packed(arrays: dict[str, Array]) -> bytes:
    heads, parts, offset = [], [], 0
    for name, array in arrays.items():
        data = np.ascontiguousarray(array, dtype="<f8" if name == "at" else "<f4").tobytes()
        data += b"\0" * (-len(data) % 8)
        heads.append(MomentArray(name=name, columns=array.shape[1], rows=len(array), offset=offset))
        parts.append(data)
        offset += len(data)
    return framed(MomentsHead(rows=len(arrays["at"]), arrays=heads), parts, 8)


@router.put(
    "/movies/{movie}/frames/{number}", openapi_extra={"requestBody": {"content": {"application/octet-stream": {}}}}
)
async def put_frame(
    movie: str, number: Annotated[int, Path(ge=0, lt=10_000_000)], request: Request, ctx: Ctx
) -> TakenOut:
    """Return a frame as raw RGBA, 8 bits each, from the lowest row up; answered when the encoder has taken it.

    One that was there before is ignored.
    """
    found = ctx.movies.get(movie)
    frame = await request.body()
    await run_in_threadpool(found.take, number, frame)
    return TakenOut(next=found.next, status=found.status)


@router.post("/movies/{movie}/heartbeat", status_code=204)
def heartbeat(movie: str, ctx: Ctx) -> None:
    """Report that the page that draws a movie is alive, while a frame takes long."""
    ctx.movies.get(movie).touch()


@router.delete("/movies/{movie}")
def cancel_movie(movie: str, ctx: Ctx) -> MovieOut:
    """End it and remove its files."""
    found = ctx.movies.get(movie)
    found.cancel()
    return MovieOut.of(found)


@router.get("/movies/{movie}/file", response_class=FileResponse)
def get_movie_file(movie: str, ctx: Ctx) -> FileResponse:
    """Return the finished file; it stays for a while."""
    found = ctx.movies.get(movie)
    if found.status != "done":
        raise NotFound(f"the movie is not done: frame {found.next} of {found.count}")
    return FileResponse(found.path, media_type=found.kind.media_type, filename=found.filename)

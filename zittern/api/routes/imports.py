"""Camera paths and shots from files."""

from __future__ import annotations

from contextlib import suppress
from pathlib import PurePath
from typing import Annotated, Literal

from fastapi import APIRouter, Form, UploadFile

from zittern.api.context import Ctx, json_response
from zittern.api.models.shots import StateOut
from zittern.api.models.transfer import CameraFileOut, CutOut, ImportedOut, ReadingOut
from zittern.api.variant_shot import Seen
from zittern.api.write_queue import WRITES
from zittern.core.edits.moves import AddMove, ReplaceMove
from zittern.core.errors import FormatError
from zittern.core.timebase import Fps
from zittern.formats.files import no_sidecars
from zittern.formats.opening import fps_from, open_shot
from zittern.formats.paths import PathFile, PathSamples, move_of
from zittern.formats.table import format_of, read_as, reader_of
from zittern.formats.world_axes import Reading, converted, places, readings
from zittern.store.seeds import newly_seeded

router = APIRouter(prefix="/api", tags=["imports"])

_How = Literal["replace", "add"]
_COMMANDS: dict[_How, type[ReplaceMove | AddMove]] = {"replace": ReplaceMove, "add": AddMove}
# Maximum number of cameras per file whose readings are checked.
_MOST_LOOKED = 12
_Camera = Annotated[str | None, Form(max_length=400)]


def _open(file: UploadFile) -> PathFile:
    data = file.file.read()
    return reader_of(_filename(file), data)(data, no_sidecars)


def _filename(file: UploadFile) -> str:
    return PurePath(file.filename or "file").name[:120]


@router.post("/imports/inspect")
def inspect_file(file: UploadFile) -> CameraFileOut:
    """Return the cameras in a file; none for a shot document, which opens as a shot."""
    data = file.file.read()
    if format_of(_filename(file), data).kind == "shot":
        return CameraFileOut(cameras=[], notices=[], shot=read_as("shot", data).name)
    found = reader_of(_filename(file), data)(data, no_sidecars)
    fps = None if found.fps is None else str(found.fps)
    return CameraFileOut(
        cameras=list(found.cameras), notices=list(found.notices), shot=None, fps=fps, readings=_readings(found)
    )


def _readings(found: PathFile) -> dict[str, list[ReadingOut]]:
    """List the readings of each camera that has several. Cameras that cannot be read are reported when chosen."""
    out: dict[str, list[ReadingOut]] = {}
    rate = found.fps or Fps(num=24)
    for camera in found.cameras[:_MOST_LOOKED]:
        with suppress(FormatError):
            samples = found.read(camera, rate).samples
            offered = readings(samples, rate.value)
            if len(offered) > 1:
                out[camera] = [_reading_out(samples, each) for each in offered]
    return out


def _reading_out(samples: PathSamples, reading: Reading) -> ReadingOut:
    at, ahead = places(converted(samples, reading))
    return ReadingOut(
        z_up=reading.z_up, centimeters=reading.centimeters, says=reading.says,
        places_m=at.round(4).tolist(), ahead=ahead.round(4).tolist(),
    )  # fmt: skip


@router.post("/projects/{slug}/imports", status_code=201, response_model=ImportedOut, dependencies=[WRITES])
def import_shot(
    slug: str,
    file: UploadFile,
    ctx: Ctx,
    camera: _Camera = None,
    fps: Annotated[str | None, Form(max_length=40, description="the file's own without it, else 24")] = None,
    set_of: Annotated[str | None, Form(max_length=120, description="a shot whose set a camera path gets")] = None,
    z_up: Annotated[bool, Form()] = False,
    centimeters: Annotated[bool, Form()] = False,
) -> object:
    """Return a new shot from a file."""
    data = file.file.read()
    reading = Reading(z_up, centimeters)
    opened = open_shot(_filename(file), data, no_sidecars, camera, fps_from(fps, "fps"), reading=reading)
    made = opened.shot
    if set_of is not None and format_of(_filename(file), data).kind != "shot":
        made = made.replace(set_id=ctx.library.state(set_of).document.set_id)
    state = ctx.library.add_shot(slug, newly_seeded(made), opened.label)
    return json_response(ImportedOut.model_construct(state=StateOut.of(state), notices=list(opened.notices)), 201)


@router.post("/shots/{shot}/imports", response_model=ImportedOut, dependencies=[WRITES])
def import_move(
    shot: str,
    file: UploadFile,
    ctx: Ctx,
    seen: Seen,
    base_revision: Annotated[int, Form(ge=0, le=2**53 - 1)],
    camera: _Camera = None,
    how: Annotated[_How, Form()] = "replace",
    z_up: Annotated[bool, Form()] = False,
    centimeters: Annotated[bool, Form()] = False,
) -> object:
    """Replace the shot's move with a file's path, or add the path to it; one revision."""
    imported = _open(file).read(camera, seen.document(shot).fps)
    move = move_of(converted(imported.samples, Reading(z_up, centimeters)))
    command = _COMMANDS[how](move=move, name=_filename(file))
    state = ctx.library.edit(shot, base_revision, command, seen.variant)
    return json_response(ImportedOut.model_construct(state=StateOut.of(state), notices=list(imported.notices)))


@router.post("/shots/{shot}/cut")
def read_cut(shot: str, file: UploadFile, seen: Seen, handles: Annotated[int, Form(ge=0, le=10_000)] = 0) -> CutOut:
    """Return the ranges of a shot in an OpenTimelineIO file. Nothing is changed; the command is sent as an edit."""
    state = seen.state(shot)
    command = read_as("cut", file.file.read(), state.document, (state.slug, state.document.name), handles)
    return CutOut(command=command, says=list(command.says(state.document)))

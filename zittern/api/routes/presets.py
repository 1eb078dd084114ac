"""Presets: shipped and custom; their preview on a shot; clips compared with their presets."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Query, UploadFile
from fastapi.responses import Response

from zittern.api.context import Ctx, JsonRoute, json_response
from zittern.api.models.presets import (
    NearestOut,
    OriginOut,
    PresetAboutIn,
    PresetContentIn,
    PresetOut,
    PresetSaveIn,
    PresetShelfOut,
    SwatchesIn,
    SwatchOut,
)
from zittern.api.variant_shot import Seen
from zittern.api.write_queue import WRITES
from zittern.core.edits.parts import find_clip
from zittern.core.errors import BadInput, DocumentError, FormatError, NotFound
from zittern.core.presets.differences import differences
from zittern.core.presets.files import ENDING
from zittern.core.presets.preset import Preset
from zittern.core.presets.saved import of_clip, of_layers
from zittern.core.presets.search import nearest
from zittern.formats.table import read_as
from zittern.store.naming import slug_of
from zittern.store.presets import KeptPreset
from zittern.store.shipped import shipped_presets

router = APIRouter(prefix="/api", tags=["presets"], route_class=JsonRoute)
_Key = Annotated[str, Path(pattern=r"^[a-z0-9][a-z0-9-]{0,63}$")]
# A preset with as many layers and keys as it may have is smaller by far.
_MOST_FILE_BYTES = 4 * 2**20


@router.get("/presets", response_model=PresetShelfOut)
def get_presets(ctx: Ctx) -> object:
    """All presets."""
    shelf = ctx.library.presets.all()
    shipped = [
        PresetOut.of(KeptPreset(key, preset, preset.fingerprint), own=False)
        for key, preset in shipped_presets().items()
    ]
    presets = [*shipped, *map(PresetOut.of, shelf.presets)]
    return json_response(
        PresetShelfOut.model_construct(presets=presets, undo_label=shelf.undo_label, redo_label=shelf.redo_label)
    )


@router.get("/presets/nearest", response_model=NearestOut)
def get_nearest(words: Annotated[str, Query(max_length=200)], ctx: Ctx) -> object:
    """Return the nearest presets for words without a match."""
    own = {kept.key: kept.preset for kept in ctx.library.presets.all().presets if kept.preset is not None}
    return json_response(NearestOut.model_construct(keys=nearest(shipped_presets() | own, words)))


@router.post("/presets", status_code=201, response_model=PresetOut, dependencies=[WRITES])
def save_preset(body: PresetSaveIn, ctx: Ctx, seen: Seen) -> object:
    """Return a clip, or some of a shot's layers, as a preset of the user's own."""
    document = seen.document(body.shot)
    made = (
        of_layers(document, body.layers, body.name, body.rig)
        if body.clip is None
        else of_clip(document, body.clip, body.name, body.rig)
    )
    about = body.model_dump(include={"line", "tags", "keep_seeds"})
    return json_response(PresetOut.of(ctx.library.presets.add(made.replace(**about))), 201)


@router.post("/presets/file", status_code=201, response_model=PresetOut, dependencies=[WRITES])
def import_preset(file: UploadFile, ctx: Ctx) -> object:
    """Return a preset from a file; if its name is taken, a number is appended."""
    data = file.file.read(_MOST_FILE_BYTES + 1)
    if len(data) > _MOST_FILE_BYTES:
        raise FormatError(f"a preset file has up to {_MOST_FILE_BYTES // 2**20} MB; this is too large")
    return json_response(PresetOut.of(ctx.library.presets.add(read_as("preset", data), "Import", rename=True)), 201)


@router.post("/presets/undo", response_model=PresetShelfOut, dependencies=[WRITES])
def undo_presets(ctx: Ctx) -> object:
    """Undo the last change to the custom presets."""
    ctx.library.presets.undo()
    return get_presets(ctx)


@router.post("/presets/redo", response_model=PresetShelfOut, dependencies=[WRITES])
def redo_presets(ctx: Ctx) -> object:
    """Redo the last undone change."""
    ctx.library.presets.redo()
    return get_presets(ctx)


@router.get("/presets/{key}/file", response_class=Response)
def export_preset(key: _Key, ctx: Ctx) -> Response:
    """Return the preset as a file, even if it is unreadable."""
    kept = ctx.library.presets.get(key)
    name = slug_of(kept.preset.name) if kept.preset else key
    headers = {"Content-Disposition": f'attachment; filename="{name}{ENDING}"'}
    return Response(ctx.library.presets.raw(key), media_type="application/octet-stream", headers=headers)


@router.put("/presets/{key}", response_model=PresetOut, dependencies=[WRITES])
def change_preset(key: _Key, body: PresetAboutIn, ctx: Ctx) -> object:
    """Change its name, description, tags, length, and whether random phases are kept."""
    about = body.model_dump(exclude={"content"})
    return json_response(PresetOut.of(ctx.library.presets.change(key, body.content, _own(ctx, key).replace(**about))))


@router.put("/presets/{key}/content", response_model=PresetOut, dependencies=[WRITES])
def fill_preset(key: _Key, body: PresetContentIn, ctx: Ctx, seen: Seen) -> object:
    """Replace the content of a preset with that of a clip; its texts stay."""
    old = _own(ctx, key)
    made = of_clip(seen.document(body.shot), body.clip, old.name, rig=bool(old.rig))
    kept = {name: getattr(old, name) for name in ("line", "tags", "keep_seeds", "length_s")}
    return json_response(PresetOut.of(ctx.library.presets.change(key, body.content, made.replace(**kept))))


@router.delete("/presets/{key}", status_code=204, dependencies=[WRITES])
def remove_preset(key: _Key, ctx: Ctx, content: Annotated[str, Query(min_length=1, max_length=64)]) -> None:
    """Remove a custom preset."""
    _refuse_shipped(key)
    ctx.library.presets.remove(key, content)


@router.post("/shots/{shot}/swatches")
def get_swatches(shot: str, body: SwatchesIn, ctx: Ctx, seen: Seen) -> list[SwatchOut]:
    """Return previews of presets on a shot, with its lens and length; missing or unreadable ones are skipped."""
    draw = ctx.swatches_on(seen.document(shot))
    made = []
    for key in dict.fromkeys(body.presets):
        preset = _readable(ctx, key)
        if preset is not None:
            made.append(SwatchOut.of(key, draw(preset)))
    return made


@router.get("/shots/{shot}/clips/{clip}/corners")
def get_corners(shot: str, clip: str, ctx: Ctx, seen: Seen) -> list[SwatchOut]:
    """Return the motion of each corner of a blend alone, by the corner's id; empty ones are skipped."""
    document = seen.document(shot)
    found = ctx.corners(document, find_clip(document, clip))
    return [SwatchOut.of(corner, swatch) for corner, swatch in found.items()]


@router.get("/shots/{shot}/clips/{clip}/preset")
def compare_clip(shot: str, clip: str, ctx: Ctx, seen: Seen) -> OriginOut:
    """Return the differences between a clip and its preset, layer by layer."""
    document = seen.document(shot)
    found = find_clip(document, clip)
    origin = found.from_preset
    if origin is None:
        raise NotFound(f"the clip “{found.name}” was not placed from a preset")
    preset = _readable(ctx, origin.preset)
    if preset is None:
        problem = f"the preset “{origin.name}” is missing; import its file, or undo its deletion, to compare with it"
        return OriginOut(key=origin.preset, name=origin.name, preset=None, problem=problem, parts=[])
    return OriginOut(
        key=origin.preset,
        name=preset.name,
        preset=preset,
        problem=None,
        parts=list(differences(document, found, preset)),
    )


def _readable(ctx: Ctx, key: str) -> Preset | None:
    try:
        return ctx.library.presets.get(key).preset
    except NotFound:
        return None


def _own(ctx: Ctx, key: str) -> Preset:
    _refuse_shipped(key)
    kept = ctx.library.presets.get(key)
    if kept.preset is None:
        raise DocumentError(f"this preset cannot be read: {kept.problem}. Export it raw, or delete it")
    return kept.preset


def _refuse_shipped(key: str) -> None:
    if key in shipped_presets():
        name = shipped_presets()[key].name
        raise BadInput(
            f"“{name}” ships with Zittern and cannot be changed; place it and save the clip as a custom preset"
        )

"""Commands between formats: bake, import, schema."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Annotated, Literal

import typer

from zittern.cli.documents import document_of, tell, write_shot_to
from zittern.cli.options import Centimeters, Data, OneCamera, Reduce, ZUp, app, frames_in

__all__ = ["bake", "import_", "schema"]


@app.command()
def bake(
    shot: Annotated[str, typer.Argument(help="Slug, id, or a path to a .shot.json.")],
    output: Annotated[Path, typer.Option("-o", help="File to write; its ending picks the format.")],
    data: Data = None,
    step: Annotated[float, typer.Option("--step", help="Frames between two samples.")] = 1.0,
    name: Annotated[
        str | None, typer.Option("--format", help="A format by its name, where an ending has several: csv-shift.")
    ] = None,
    variant: Annotated[str | None, typer.Option("--variant", help="Name or id; the main one without it.")] = None,
    frames: Annotated[
        str | None, typer.Option("--range", help="First and last frame, A-B; also beyond the shot, for handles.")
    ] = None,
    first_number: Annotated[
        int | None, typer.Option("--first-number", help="Number of the first written frame.")
    ] = None,
    reduce: Reduce = None,
    one_camera: OneCamera = False,
) -> None:
    """Write a shot's motion to a file."""
    from zittern.core.errors import BadInput
    from zittern.formats.delivery import Delivery
    from zittern.formats.reduced import tolerance_from
    from zittern.formats.table import format_named, format_of

    if not 0.001 <= step <= 1000:
        raise BadInput(f"expected a step of 0.001 to 1000 frames, got {step:g}", "--step")
    chosen = format_of(output.name) if name is None else format_named(name)
    if not chosen.exports or not output.name.lower().endswith(chosen.ending):
        raise BadInput(f"the format {chosen.name!r} is written to files that end in {chosen.ending}", "--format")
    first, last = frames_in(frames)
    delivery = Delivery(step, tolerance_from(reduce, "--reduce"), one_camera, first, last, first_number)
    delivery.check(chosen)
    write_shot_to(output, chosen, document_of(shot, data, variant), delivery)


@app.command(name="import")
def import_(
    file: Annotated[Path, typer.Argument(help="GLB, glTF, OpenUSD or CSV with a camera path.")],
    output: Annotated[Path, typer.Option("-o", help="The .shot.json to write.")],
    fps: Annotated[
        str | None,
        typer.Option("--fps", help="Frame rate, as 24 or 24000/1001; the file's own when left out, else 24."),
    ] = None,
    camera: Annotated[str | None, typer.Option("--camera", help="Which camera, when there are several.")] = None,
    z_up: ZUp = False,
    centimeters: Centimeters = False,
) -> None:
    """Create a shot from a camera path."""
    from zittern.core.errors import BadInput
    from zittern.formats.opening import fps_from, open_path
    from zittern.formats.table import format_of
    from zittern.formats.world_axes import Reading
    from zittern.store.seeds import newly_seeded

    if format_of(output.name).name != "shot":
        raise BadInput(f"the output ends in .shot.json, got {output.name}", "-o")
    rate = fps_from(fps, "--fps")
    opened = open_path(file, camera, rate, reading=Reading(z_up, centimeters))
    write_shot_to(output, format_of(output.name), newly_seeded(opened.shot))
    tell(opened.notices)


@app.command()
def schema(of: Annotated[Literal["shot", "preset"], typer.Option(help="Which document.")] = "shot") -> None:
    """Print the JSON Schema of a document."""
    from zittern.core.presets.preset import Preset
    from zittern.core.shot.shot import Shot

    document = Preset if of == "preset" else Shot
    print(
        json.dumps(
            {"$schema": "https://json-schema.org/draft/2020-12/schema", **document.model_json_schema()}, indent=2
        )
    )

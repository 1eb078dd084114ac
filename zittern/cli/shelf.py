"""Commands on the data folder: demo, serve, shots, add, repeat, tidy."""

from __future__ import annotations

import json
from contextlib import closing
from pathlib import Path
from typing import Annotated

import typer

from zittern.cli.documents import existing_data, output_mode, settings_of, tell, warn_of_open_folder
from zittern.cli.options import MAX_COUNT, Centimeters, Data, NoBrowser, Port, ZUp, app
from zittern.cli.serving import run_server

__all__ = ["add", "demo", "pack", "repeat", "serve", "shots", "tidy", "unpack"]


@app.command()
def demo(
    port: Port = None,
    data: Data = None,
    no_browser: NoBrowser = False,
    setup_only: Annotated[bool, typer.Option("--setup-only", help="Make the demo data and stop.")] = False,
) -> None:
    """Create the demo project if it is missing, then serve it."""
    from zittern.demo.build import ensure_demo
    from zittern.store.library import Library

    settings = settings_of(port, data)
    warn_of_open_folder(settings)
    library = Library(settings.data_dir)
    try:
        made = ensure_demo(library)
    finally:
        library.close()
    print(f"demo project {'made' if made else 'is there'} in {settings.data_dir}", flush=True)
    if not setup_only:
        run_server(settings, no_browser)


@app.command()
def serve(port: Port = None, data: Data = None, no_browser: NoBrowser = False) -> None:
    """Serve the application on this machine."""
    settings = settings_of(port, data)
    warn_of_open_folder(settings)
    run_server(settings, no_browser)


@app.command()
def shots(data: Data = None) -> None:
    """List the shots, one JSON object a line; one that cannot be read has a problem."""
    from zittern.store.listing import listed_in

    for entry in listed_in(existing_data(data)):
        row = {"id": entry.id, "slug": entry.slug, "name": entry.card.name, "project": entry.project}
        wrong = {"problem": entry.card.problem} if entry.card.problem else {}
        print(json.dumps({**row, "frames": entry.card.frames, "fps": entry.card.fps, **wrong}))


@app.command()
def add(
    file: Annotated[Path, typer.Argument(help="GLB, glTF, OpenUSD or CSV with a camera path, or a .shot.json.")],
    project: Annotated[str, typer.Option("--project", help="Slug of the project it goes into.")],
    name: Annotated[str | None, typer.Option("--name", help="Name of the new shot.")] = None,
    fps: Annotated[
        str | None, typer.Option("--fps", help="Frame rate of a camera path; its own when left out, else 24.")
    ] = None,
    camera: Annotated[str | None, typer.Option("--camera", help="Which camera, when there are several.")] = None,
    z_up: ZUp = False,
    centimeters: Centimeters = False,
    data: Data = None,
) -> None:
    """Import a file as a new shot; print its slug."""
    from zittern.core.errors import BadInput
    from zittern.formats.opening import fps_from, open_path
    from zittern.formats.world_axes import Reading
    from zittern.store.library import Library
    from zittern.store.seeds import newly_seeded

    if name is not None and not name.strip():
        raise BadInput("expected a name, got an empty text; leave it out to take the name of the file", "--name")
    rate = fps_from(fps, "--fps")
    opened = open_path(file, camera, rate, name, Reading(z_up, centimeters))
    with closing(Library(existing_data(data))) as library:
        print(library.add_shot(project, newly_seeded(opened.shot), opened.label).slug)
    tell(opened.notices)


@app.command()
def pack(
    project: Annotated[str, typer.Argument(help="Slug of the project.")],
    output: Annotated[Path, typer.Option("-o", help="The .zittern file to write.")],
    data: Data = None,
) -> None:
    """Write a project to one file: its shots, and the presets, sets and pictures that they use."""
    from zittern import project_file
    from zittern.core.errors import BadInput
    from zittern.formats.files import write_whole
    from zittern.store.library import Library

    if not output.name.endswith(project_file.ENDING):
        raise BadInput(f"a project file ends in {project_file.ENDING}, got {output.name}", "-o")
    with closing(Library(existing_data(data))) as library:
        notices: list[str] = []
        write_whole(output, lambda file: notices.extend(project_file.pack(library, project, file)), output_mode())
    tell(notices)


@app.command()
def unpack(
    file: Annotated[Path, typer.Argument(help="The .zittern file.")],
    name: Annotated[str | None, typer.Option("--name", help="Name of the new project.")] = None,
    data: Data = None,
) -> None:
    """Store the project of a file as a new one; print its slug and those of its shots."""
    from zittern import project_file
    from zittern.core.errors import BadInput
    from zittern.store.library import Library

    if name is not None and not name.strip():
        raise BadInput("expected a name, got an empty text; leave it out to take that of the file", "--name")
    try:
        packed = file.open("rb")
    except OSError as error:
        raise BadInput(f"cannot read {file}: {error.strerror}") from error
    with packed, closing(Library(settings_of(None, data).data_dir)) as library:
        made = project_file.unpack(library, packed, name)
    print("\n".join([made.project, *made.shots]))


@app.command()
def repeat(
    shot: Annotated[str, typer.Argument(help="Slug or id of the shot that was edited.")],
    on: Annotated[list[str], typer.Option("--on", help="Slug or id of a shot to do the same on; several at once.")],
    revision: Annotated[
        int | None,
        typer.Option(
            "--revision", min=0, max=MAX_COUNT, help="The revision that the edit made; the present one when left out."
        ),
    ] = None,
    data: Data = None,
) -> None:
    """Repeat the last edit of a shot on others; each can be undone there."""
    from zittern.store.library import Library

    with closing(Library(existing_data(data))) as library:
        for other in on:
            state = library.repeat(shot, revision, other)
            print(f"{state.slug}: {state.label} (revision {state.revision})", flush=True)


@app.command()
def tidy(
    shot: Annotated[str | None, typer.Argument(help="Slug or id; all shots when left out.")] = None,
    keep: Annotated[
        int,
        typer.Option(
            "--keep", min=1, max=MAX_COUNT, help="How many of the newest revisions stay; named ones always do."
        ),
    ] = 100,
    data: Data = None,
    dry_run: Annotated[bool, typer.Option("--dry-run", help="Only say how much.")] = False,
) -> None:
    """Remove old unnamed revisions permanently and release the space; show the amount first."""
    from zittern.store.library import Library

    with closing(Library(existing_data(data))) as library:
        keys = [entry.id for entry in library.shots()] if shot is None else [shot]
        plans = [library.tidying(key, keep) for key in keys]
        for plan in plans:
            print(f"{plan.slug}: {plan.revisions} of {plan.of} revisions go, {plan.bytes / 2**20:.1f} MB", flush=True)
        if not dry_run:
            before = library.size_bytes()
            gone = sum(library.tidy(key, keep).revisions for key in keys)
            pictures = library.sweep_pictures()
            print(
                f"{gone} revisions removed; the database went from {before / 2**20:.1f} to "
                f"{library.size_bytes() / 2**20:.1f} MB"
            )
            if pictures:
                print(f"{pictures} unused picture files removed")

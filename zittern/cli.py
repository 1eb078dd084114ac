"""The command line. Exit 0 on success, 2 with one line on stderr for bad input."""

from __future__ import annotations

import json
import sys
import threading
import webbrowser
from pathlib import Path
from typing import Annotated

import typer

from zittern.core.errors import ZitternError
from zittern.settings import Settings

__all__ = ["main"]

app = typer.Typer(add_completion=False, no_args_is_help=True, help="Handheld and operator-style motion for virtual cameras.", pretty_exceptions_enable=False)

Data = Annotated[Path | None, typer.Option("--data", help="Folder of the database and of sets.")]
Port = Annotated[int | None, typer.Option("--port", help="Port to listen on; 0 takes a free one.")]
NoBrowser = Annotated[bool, typer.Option("--no-browser", help="Do not open the page.")]


def main() -> None:
    """Entry point."""
    try:
        code = app(standalone_mode=False)
    except ZitternError as error:
        _complain(str(error))
    except typer.TyperException as error:
        _complain(error.format_message())
    except typer.Abort:
        sys.exit(130)
    sys.exit(code if isinstance(code, int) else 0)


@app.command()
def demo(
    port: Port = None,
    data: Data = None,
    no_browser: NoBrowser = False,
    setup_only: Annotated[bool, typer.Option("--setup-only", help="Make the demo data and stop.")] = False,
) -> None:
    """Makes the demo project when missing, then serves it."""
    from zittern.demo.build import ensure_demo
    from zittern.store.library import Library

    settings = _settings(port, data)
    library = Library(settings.data_dir)
    made = ensure_demo(library)
    library.close()
    print(f"demo project {'made' if made else 'is there'} in {settings.data_dir}", flush=True)
    if not setup_only:
        _serve(settings, no_browser)


@app.command()
def serve(port: Port = None, data: Data = None, no_browser: NoBrowser = False) -> None:
    """Serves the application on this machine."""
    _serve(_settings(port, data), no_browser)


@app.command()
def shots(data: Data = None) -> None:
    """Lists the shots, one JSON object a line."""
    from zittern.store.library import Library

    for entry in Library(_settings(None, data).data_dir).shots():
        row = {"id": entry.id, "slug": entry.slug, "name": entry.document.name, "project": entry.project}
        print(json.dumps({**row, "frames": entry.document.frame_count, "fps": str(entry.document.fps)}))


@app.command()
def bake(
    shot: Annotated[str, typer.Argument(help="Slug, id, or a path to a .shot.json.")],
    output: Annotated[Path, typer.Option("-o", help="File to write; its ending picks the format.")],
    data: Data = None,
    step: Annotated[float, typer.Option("--step", help="Frames between two samples.")] = 1.0,
) -> None:
    """Writes a shot's motion to a file."""
    from zittern.core.errors import BadInput
    from zittern.core.evaluate import evaluate
    from zittern.core.timebase import frame_grid
    from zittern.formats.table import format_of

    if not 0.001 <= step <= 1000:
        raise BadInput(f"a step lies between 0.001 and 1000 frames, got {step:g}", "--step")
    write = format_of(output.name).write
    if write is None:
        raise BadInput(f"{output.name}: this format is only read", "-o")
    document = _document(shot, data)
    _write(output, write(document, evaluate(document, frame_grid(document.first_frame, document.last_frame, step))))


@app.command(name="import")
def import_(
    file: Annotated[Path, typer.Argument(help="GLB, glTF or CSV with a camera path.")],
    output: Annotated[Path, typer.Option("-o", help="The .shot.json to write.")],
    fps: Annotated[str, typer.Option("--fps", help="Frame rate, for example 24 or 24000/1001.")] = "24",
    camera: Annotated[str | None, typer.Option("--camera", help="Which camera, when there are several.")] = None,
) -> None:
    """Makes a shot from a camera path."""
    from zittern.core.edits.moves import ReplaceMove
    from zittern.core.errors import BadInput, faults_as
    from zittern.core.evaluate import evaluate
    from zittern.core.shot.shot import new_shot
    from zittern.core.timebase import Fps
    from zittern.formats import shot_json
    from zittern.formats.files import read_bytes, sidecars_of
    from zittern.formats.table import format_of, reader_of

    if format_of(output.name).name != "shot":
        raise BadInput(f"the output ends in .shot.json, got {output.name}", "-o")
    with faults_as(BadInput, "--fps"):
        rate = Fps.model_validate(fps)
    imported = reader_of(file.name)(read_bytes(file), sidecars_of(file)).read(camera, rate)
    document = ReplaceMove(move=imported.move, name=file.name[:120]).apply(new_shot(file.stem[:120] or "Imported", fps=rate))
    _write(output, shot_json.write(document, evaluate(document, None)))
    for notice in imported.notices:
        print(f"note: {notice}", file=sys.stderr)


@app.command()
def schema() -> None:
    """Prints the JSON Schema of the shot document."""
    from zittern.core.shot.shot import Shot

    print(json.dumps({"$schema": "https://json-schema.org/draft/2020-12/schema", **Shot.model_json_schema()}, indent=2))


@app.command()
def bench(browser: Annotated[bool, typer.Option("--browser", help="Measure the page in a headless browser instead.")] = False) -> None:
    """Prints timings as JSON."""
    if browser:
        from zittern.bench_browser import run as run_browser

        print(json.dumps(run_browser(), indent=2))
        return
    from zittern.bench import run

    print(json.dumps(run(), indent=2))


def _settings(port: int | None, data: Path | None) -> Settings:
    from pydantic import ValidationError

    from zittern.core.errors import BadInput, DocumentError

    given = {name: value for name, value in (("port", port), ("data", data)) if value is not None}
    try:
        return Settings(**given)  # type: ignore[arg-type]
    except ValidationError as error:
        fault = DocumentError.of(error)
        raise BadInput(fault.message, f"--{fault.where}") from error


def _document(key: str, data: Path | None):  # type: ignore[no-untyped-def]
    from zittern.core.shot.upgrades import read_shot
    from zittern.formats.files import read_bytes
    from zittern.store.library import Library

    path = Path(key)
    if key.endswith(".json") or path.is_file():
        return read_shot(read_bytes(path))
    return Library(_settings(None, data).data_dir).state(key).document


def _serve(settings: Settings, no_browser: bool) -> None:
    import socket

    import uvicorn

    from zittern.api.app import make_app
    from zittern.core.errors import BadInput

    listener = socket.socket(socket.AF_INET6 if ":" in settings.host else socket.AF_INET)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((settings.host, settings.port))
    except OSError as error:
        raise BadInput(f"cannot listen on {settings.host}:{settings.port}: {error.strerror}; choose another with --port") from error
    listener.listen(128)  # whoever reads the address below may connect at once
    address = f"http://{settings.host}:{listener.getsockname()[1]}/"
    server = uvicorn.Server(uvicorn.Config(make_app(settings), log_level="warning"))
    print(f"Zittern is at {address}", flush=True)
    if not no_browser:
        threading.Timer(0.5, webbrowser.open, [address]).start()
    server.run(sockets=[listener])


def _write(path: Path, content: bytes) -> None:
    from zittern.core.errors import BadInput

    try:
        path.write_bytes(content)
    except OSError as error:
        raise BadInput(f"cannot write {path}: {error.strerror}") from error


def _complain(message: str) -> None:
    print("error: " + " ".join(message.split()), file=sys.stderr)
    sys.exit(2)


if __name__ == "__main__":
    main()

"""Movies of shots: drawn by an installed Chromium on a private server."""

from __future__ import annotations

import shutil
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager, suppress
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, Any

import typer

from zittern.cli.documents import (
    check_writable,
    document_of,
    existing_data,
    folder_of_sets,
    output_mode,
    tell,
)
from zittern.cli.options import Data, app, frames_in, pair_in

if TYPE_CHECKING:
    from zittern.api.context import Context
    from zittern.core.movie.settings import MovieSettings
    from zittern.core.shot.shot import Shot

__all__ = ["movie"]

_LOOKS_S = 0.2
_STARTS_S = 30.0
# A page without a drawing for this long has failed.
_PATIENCE_S = 300.0


@app.command()
def movie(
    shot: Annotated[str, typer.Argument(help="Slug, id, or a path to a .shot.json.")],
    output: Annotated[Path, typer.Option("-o", help="File to write: .mp4, .webm, or .zip for PNGs.")],
    data: Data = None,
    frames: Annotated[str | None, typer.Option("--range", help="First and last frame, A-B.")] = None,
    size: Annotated[str, typer.Option("--size", help="Of each picture, WxH px.")] = "1280x720",
    shutter: Annotated[float, typer.Option("--shutter", help="Degrees; 0 draws no blur.")] = 180.0,
    subframes: Annotated[int, typer.Option("--subframes", help="Moments that are summed, 1 to 64.")] = 8,
    readout: Annotated[float, typer.Option("--readout", help="Rolling shutter: ms from first row to last.")] = 0,
    quality: Annotated[str, typer.Option("--quality", help="draft, good or best.")] = "good",
    variant: Annotated[
        list[str] | None, typer.Option("--variant", help="Name or id; several stand beside each other.")
    ] = None,
    bare: Annotated[bool, typer.Option("--bare", help="The move without its layers stands beside it.")] = False,
    wipe: Annotated[bool, typer.Option("--wipe", help="Two pictures in one, parted by a line.")] = False,
    guides: Annotated[bool, typer.Option("--guides", help="Thirds and safe area.")] = False,
    strip: Annotated[bool, typer.Option("--strip", help="Frame, time, lens and waveform at the foot.")] = False,
    browser: Annotated[str | None, typer.Option("--browser", help="Program of a Chromium.")] = None,
) -> None:
    """Render a shot as a movie."""
    from zittern.browser import drawing, find_browser
    from zittern.core.errors import BadInput, DocumentError, faults_as
    from zittern.core.movie.settings import MovieSettings
    from zittern.formats.files import write_whole
    from zittern.formats.table import MOVIES

    kind = next((each for each in MOVIES.values() if output.name.lower().endswith(each.ending)), None)
    if kind is None:
        raise BadInput(f"a movie ends in {', '.join(each.ending for each in MOVIES.values())}, got {output.name}", "-o")
    check_writable(output)
    program = find_browser(browser)
    first, last = frames_in(frames)
    width, height = pair_in(size, r"(\d+)x(\d+)", "--size", "WxH, as 1280x720")
    panes: list[dict[str, Any]] = [{"variant": each} for each in variant or ()] or [{}]
    if bare:
        panes.insert(0, {**panes[0], "bare": True})
    with faults_as(DocumentError):
        asked = MovieSettings(
            format=kind.name, width_px=width, height_px=height, first_frame=first, last_frame=last, quality=quality,
            shutter_deg=shutter, subframes=subframes, readout_ms=readout, guides=guides, strip=strip,
            panes=panes, layout="wipe" if wipe else "beside",
        )  # fmt: skip
    with ExitStack() as stack:
        folder, slug = _where(shot, data, stack)
        context, address = stack.enter_context(_serving(folder))
        made = _start(context, slug, asked)
        tell(made.layout.says)
        with drawing(program, f"{address}shot/{slug}?movie={made.id}") as process:
            _watch(made, process)
        with made.path.open("rb") as drawn:
            write_whole(output, lambda file: shutil.copyfileobj(drawn, file), output_mode())
    print(f"{output}: {made.count} frames, {made.layout.width}×{made.layout.height} px", flush=True)


def _where(shot: str, data: Path | None, stack: ExitStack) -> tuple[Path, str]:
    """Return the data folder and the slug of a shot; a file is added to a temporary folder."""
    from zittern.store.library import Library

    if not shot.endswith(".json") and not Path(shot).is_file():
        return existing_data(data), shot
    document = document_of(shot, data)
    folder = Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="zittern-")))
    library = Library(folder)
    try:
        _copy_media(document, folder_of_sets(data), folder)
        project = library.add_project("Movie")
        return folder, library.add_shot(project.slug, document).slug
    finally:
        library.close()


def _copy_media(document: Shot, source: Path, folder: Path) -> None:
    """Copy the pictures and the set that a shot from a file shows, as far as the data folder has them."""
    from zittern.core.errors import NotFound
    from zittern.store.pictures import SHIPPED, picture_file
    from zittern.store.sets import set_file

    (folder / "pictures").mkdir(exist_ok=True)
    for plate in document.plates:
        try:
            found = picture_file(source, plate.picture)
        except NotFound:
            tell([f"the picture of “{plate.name}” is not in {source} and is not drawn; --data names another folder"])
            continue
        if found.parent != SHIPPED:
            for path in found.parent.glob(f"{plate.picture}.*"):
                shutil.copy(path, folder / "pictures" / path.name)
    if document.set_id is not None:
        with suppress(NotFound):
            path = set_file(source, document.set_id)
            if path.parent == source / "sets":
                (folder / "sets").mkdir(exist_ok=True)
                shutil.copy(path, folder / "sets" / path.name)


def _start(context: Context, slug: str, asked: MovieSettings) -> Any:
    state = context.library.state(slug)
    return context.movies.start(state.document, state.slug, asked)


@contextmanager
def _serving(folder: Path) -> Iterator[tuple[Context, str]]:
    """Run a private server on this machine."""
    import socket

    import uvicorn

    from zittern.api.app import make_app
    from zittern.settings import Settings

    listener = socket.create_server(("127.0.0.1", 0))
    application = make_app(Settings(data=folder, most_upload_mb=256))
    server = uvicorn.Server(uvicorn.Config(application, log_level="error", access_log=False))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]}, daemon=True)
    thread.start()
    try:
        yield application.state.context, f"http://127.0.0.1:{listener.getsockname()[1]}/"
    finally:
        server.should_exit = True
        thread.join(_STARTS_S)


def _watch(made: Any, process: Any) -> None:
    """Wait until it is done; show progress on a terminal."""
    from zittern.core.errors import BadInput

    told, moved = -1, time.monotonic()
    while made.status == "drawing":
        time.sleep(_LOOKS_S)
        if made.next != told:
            told, moved = made.next, time.monotonic()
            if sys.stderr.isatty():
                left = "" if made.left_s is None else f", {made.left_s:.0f} s left"
                print(f"\rframe {told} of {made.count}{left}   ", end="", file=sys.stderr, flush=True)
        if process.poll() is not None and made.status == "drawing":
            raise BadInput(f"the browser ended at frame {made.next} of {made.count}; nothing was kept", "--browser")
        if time.monotonic() - moved > _PATIENCE_S:
            raise BadInput(
                f"the browser has drawn nothing for {_PATIENCE_S / 60:.0f} minutes, at frame {made.next} of "
                f"{made.count}; nothing was kept",
                "--browser",
            )
    if sys.stderr.isatty():
        print(file=sys.stderr)
    if made.status != "done":
        raise BadInput(made.problem or f"the movie is {made.status}")

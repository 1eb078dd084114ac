"""The command line. Exit 0 on success, 2 with one line on stderr for bad input."""

from __future__ import annotations

import errno
import json
import os
import sys
import threading
import webbrowser
from collections.abc import Iterable
from contextlib import closing
from pathlib import Path
from types import FrameType
from typing import TYPE_CHECKING, Annotated, Literal

import typer

from zittern.core.errors import ZitternError
from zittern.settings import Settings

if TYPE_CHECKING:
    from zittern.core.shot.shot import Shot
    from zittern.formats.table import Format

__all__ = ["main"]

_SWITCH_S = 0.002
# What is under way when the server is told to end may still be answered within this.
_GRACE_S = 2.5
# Options of mallopt(3).
_M_MMAP_THRESHOLD, _M_ARENA_MAX = -3, -8

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    help="Handheld and operator-style motion for virtual cameras.",
    pretty_exceptions_enable=False,
)

Data = Annotated[Path | None, typer.Option("--data", help="Folder of the database and of sets.")]
Port = Annotated[int | None, typer.Option("--port", help="Port to listen on; 0 takes a free one.")]
NoBrowser = Annotated[bool, typer.Option("--no-browser", help="Do not open the page.")]


def main() -> None:
    """Entry point."""
    try:
        code = app(standalone_mode=False)
    except ZitternError as error:
        _complain(str(error))
    except UnicodeEncodeError as error:
        _complain(f"{ascii(error.object)[:120]} is no text; it holds bytes that are no UTF-8")
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
    try:
        made = ensure_demo(library)
    finally:
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
    """Lists the shots, one JSON object a line; one that cannot be read has a problem."""
    from zittern.store.library import Library

    with closing(Library(_settings(None, data).data_dir)) as library:
        for entry in library.shots():
            row = {"id": entry.id, "slug": entry.slug, "name": entry.card.name, "project": entry.project}
            wrong = {"problem": entry.card.problem} if entry.card.problem else {}
            print(json.dumps({**row, "frames": entry.card.frames, "fps": entry.card.fps, **wrong}))


@app.command()
def bake(
    shot: Annotated[str, typer.Argument(help="Slug, id, or a path to a .shot.json.")],
    output: Annotated[Path, typer.Option("-o", help="File to write; its ending picks the format.")],
    data: Data = None,
    step: Annotated[float, typer.Option("--step", help="Frames between two samples.")] = 1.0,
) -> None:
    """Writes a shot's motion to a file."""
    from zittern.core.errors import BadInput
    from zittern.formats.table import format_of

    if not 0.001 <= step <= 1000:
        raise BadInput(f"a step lies between 0.001 and 1000 frames, got {step:g}", "--step")
    _write(output, format_of(output.name), _document(shot, data), step)


@app.command(name="import")
def import_(
    file: Annotated[Path, typer.Argument(help="GLB, glTF or CSV with a camera path.")],
    output: Annotated[Path, typer.Option("-o", help="The .shot.json to write.")],
    fps: Annotated[str, typer.Option("--fps", help="Frame rate, for example 24 or 24000/1001.")] = "24",
    camera: Annotated[str | None, typer.Option("--camera", help="Which camera, when there are several.")] = None,
) -> None:
    """Makes a shot from a camera path."""
    from zittern.core.errors import BadInput
    from zittern.formats.files import read_bytes, sidecars_of
    from zittern.formats.opening import fps_from, open_shot
    from zittern.formats.table import format_of
    from zittern.store.seeds import newly_seeded

    if format_of(output.name).name != "shot":
        raise BadInput(f"the output ends in .shot.json, got {output.name}", "-o")
    rate = fps_from(fps, "--fps")
    opened = open_shot(file.name, read_bytes(file), sidecars_of(file), camera, rate)
    _write(output, format_of(output.name), newly_seeded(opened.shot))
    _notes(opened.notices)


@app.command()
def retime(
    shot: Annotated[str, typer.Argument(help="Slug, id, or a path to a .shot.json.")],
    output: Annotated[Path, typer.Option("-o", help="The .shot.json to write.")],
    insert: Annotated[list[str], typer.Option("--insert", help="Frames put in: 24@96.")] = [],  # noqa: B006
    take_out: Annotated[list[str], typer.Option("--take-out", help="Frames taken out: 96-119.")] = [],  # noqa: B006
    stretch: Annotated[list[str], typer.Option("--stretch", help="A range and its new length: 96-119=48.")] = [],  # noqa: B006
    shift: Annotated[list[str], typer.Option("--shift", help="All from a frame on: +12@96.")] = [],  # noqa: B006
    reverse: Annotated[str | None, typer.Option("--reverse", help="A range run backwards: 96-119.")] = None,
    cut: Annotated[Path | None, typer.Option("--cut", help="An .otio whose clip of the shot gives the range.")] = None,
    handles: Annotated[int, typer.Option("--handles", min=0, max=10_000, help="More frames beside the cut.")] = 0,
    keep: Annotated[
        bool, typer.Option("--keep", help="Shakes after a cut stay as they were; else they run on.")
    ] = False,
    through: Annotated[
        bool, typer.Option("--through", help="Keys run through inserted frames; else they hold.")
    ] = False,
    data: Data = None,
) -> None:
    """Edits the time of a shot; several edits at once count in the frames that the shot has now."""
    from zittern.core.edits.made import said
    from zittern.core.edits.time_texts import all_at_once, edits_of, reversing
    from zittern.core.errors import BadInput
    from zittern.formats.cut_list import conforming
    from zittern.formats.files import read_bytes
    from zittern.formats.table import format_of

    if format_of(output.name).name != "shot":
        raise BadInput(f"the output ends in .shot.json, got {output.name}", "-o")
    runs: Literal["on", "keep"] = "keep" if keep else "on"
    edits = [
        *edits_of("--insert", insert, runs=runs, gap="through" if through else "hold"),
        *edits_of("--take-out", take_out, runs=runs),
        *edits_of("--stretch", stretch, runs=runs),
        *edits_of("--shift", shift, runs=runs),
    ]
    if not edits and cut is None and reverse is None:
        raise BadInput("nothing to do; give --insert, --take-out, --stretch, --shift, --reverse or --cut", "")
    if (bool(edits), cut is not None, reverse is not None).count(True) > 1:
        alone = "--cut" if cut is not None else "--reverse"
        raise BadInput("this is done by itself; edit the time otherwise before or after", alone)
    before = _document(shot, data)
    if reverse is not None:
        turned = reversing(reverse)
        after, told = turned.apply(before), [turned.label(before)]
    elif cut is None:
        after, told = all_at_once(before, edits), [edit.label(before) for edit in edits]
    else:
        conform = conforming(read_bytes(cut), before, (before.name, Path(shot).name.partition(".")[0]), handles)
        after, told = conform.apply(before), list(conform.says(before))
    _write(output, format_of(output.name), after)
    _notes([*told, *filter(None, [said(before, after)])])


@app.command()
def check(
    shots: Annotated[list[str], typer.Argument(help="Slugs, ids, or paths to .shot.json files.")],
    only: Annotated[str | None, typer.Option("--only", help="Names of checks, with commas between.")] = None,
    fix: Annotated[str | None, typer.Option("--fix", help="Checks whose findings are mended.")] = None,
    output: Annotated[Path | None, typer.Option("-o", help="Where a mended .shot.json goes.")] = None,
    data: Data = None,
) -> int:
    """Prints what is wrong with shots, one JSON object a line; exit code 1 when a finding has weight."""
    from zittern.checking import checked

    if fix is not None:
        for shot in shots:
            _mend(shot, tuple(fix.split(",")), output if len(shots) == 1 else None, data)
        if output is not None:
            return 0
    names = tuple(only.split(",")) if only is not None else None
    weighty = False
    for line, weight in checked([(key, _document(key, data)) for key in shots], names):
        print(line, flush=True)
        weighty = weighty or weight
    return 1 if weighty else 0


@app.command()
def add(
    file: Annotated[Path, typer.Argument(help="GLB, glTF or CSV with a camera path, or a .shot.json.")],
    project: Annotated[str, typer.Option("--project", help="Slug of the project it goes into.")],
    name: Annotated[str | None, typer.Option("--name", help="Name of the new shot.")] = None,
    fps: Annotated[str, typer.Option("--fps", help="Frame rate of a camera path.")] = "24",
    camera: Annotated[str | None, typer.Option("--camera", help="Which camera, when there are several.")] = None,
    data: Data = None,
) -> None:
    """Adds a file that can be imported as a new shot; prints its slug."""
    from zittern.formats.files import read_bytes, sidecars_of
    from zittern.formats.opening import fps_from, open_shot
    from zittern.store.library import Library
    from zittern.store.seeds import newly_seeded

    rate = fps_from(fps, "--fps")
    opened = open_shot(file.name, read_bytes(file), sidecars_of(file), camera, rate, name)
    with closing(Library(_settings(None, data).data_dir)) as library:
        print(library.add_shot(project, newly_seeded(opened.shot), opened.label).slug)
    _notes(opened.notices)


@app.command()
def repeat(
    shot: Annotated[str, typer.Argument(help="Slug or id of the shot that was edited.")],
    on: Annotated[list[str], typer.Option("--on", help="Slug or id of a shot to do the same on; several at once.")],
    revision: Annotated[
        int | None,
        typer.Option("--revision", min=0, help="The revision that the edit made; the present one when left out."),
    ] = None,
    data: Data = None,
) -> None:
    """Does the last edit of one shot once more on others; each can be undone there."""
    from zittern.store.library import Library

    with closing(Library(_settings(None, data).data_dir)) as library:
        for other in on:
            state = library.repeat(shot, revision, other)
            print(f"{state.slug}: {state.label} (revision {state.revision})", flush=True)


@app.command()
def tidy(
    shot: Annotated[str | None, typer.Argument(help="Slug or id; all shots when left out.")] = None,
    keep: Annotated[
        int, typer.Option("--keep", min=1, help="How many of the newest revisions stay; named ones always do.")
    ] = 100,
    data: Data = None,
    dry_run: Annotated[bool, typer.Option("--dry-run", help="Only say how much.")] = False,
) -> None:
    """Removes old unnamed revisions for good and gives the space back; says how much before it does."""
    from zittern.store.library import Library

    with closing(Library(_settings(None, data).data_dir)) as library:
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
                print(f"{pictures} files of pictures removed that no shot shows any more")


@app.command()
def schema(of: Annotated[Literal["shot", "preset"], typer.Option(help="Which document.")] = "shot") -> None:
    """Prints the JSON Schema of a document."""
    from zittern.core.presets.preset import Preset
    from zittern.core.shot.shot import Shot

    document = Preset if of == "preset" else Shot
    print(
        json.dumps(
            {"$schema": "https://json-schema.org/draft/2020-12/schema", **document.model_json_schema()}, indent=2
        )
    )


@app.command()
def bench(
    browser: Annotated[bool, typer.Option("--browser", help="Measure the page in a headless browser instead.")] = False,
    rounds: Annotated[
        int, typer.Option("--rounds", min=1, max=100, help="How often each is timed; the best counts.")
    ] = 9,
) -> None:
    """Prints timings as JSON."""
    if browser:
        from zittern.bench_browser import run as run_browser

        print(json.dumps(run_browser(), indent=2))
        return
    from zittern.bench import run

    print(json.dumps(run(rounds), indent=2))


def _mend(key: str, names: tuple[str, ...], output: Path | None, data: Path | None) -> None:
    """Takes the fixes of some checks: a revision each of a stored shot; of a file into another."""
    from zittern.core.checks.mending import mended
    from zittern.core.checks.table import named
    from zittern.core.errors import BadInput
    from zittern.formats.table import format_of
    from zittern.store.library import Library

    checks = named(names)
    stored = not key.endswith(".json")
    if not stored and output is None:
        raise BadInput("a file is mended into another one; say which with -o, one shot at a time", "-o")
    after, done = mended(_document(key, data), checks)
    if output is not None:
        if format_of(output.name).name != "shot":
            raise BadInput(f"the output ends in .shot.json, got {output.name}", "-o")
        _write(output, format_of(output.name), after)
    else:
        with closing(Library(_settings(None, data).data_dir)) as library:
            for found in done:
                assert found.fix is not None, "what was done has a command"
                library.edit(key, library.state(key).revision, found.fix.command)
    _notes(f"{found.says}: {found.fix.says}" for found in done if found.fix is not None)


def _notes(notices: Iterable[str]) -> None:
    for notice in notices:
        print(f"note: {notice}", file=sys.stderr)


def _settings(port: int | None, data: Path | None) -> Settings:
    from pydantic import ValidationError

    from zittern.core.errors import BadInput, DocumentError

    given = {name: value for name, value in (("port", port), ("data", data)) if value is not None}
    try:
        return Settings(**given)  # type: ignore[arg-type]
    except ValidationError as error:
        fault = DocumentError.of(error)
        raise BadInput(
            fault.message, f"--{fault.where}" if fault.where in given else f"ZITTERN_{fault.where.upper()}"
        ) from error


def _document(key: str, data: Path | None) -> Shot:
    from zittern.core.shot.upgrades import read_shot
    from zittern.formats.files import read_bytes
    from zittern.store.library import Library

    path = Path(key)
    if key.endswith(".json") or path.is_file():
        return read_shot(read_bytes(path))
    with closing(Library(_settings(None, data).data_dir)) as library:
        return library.state(key).document


def _serve(settings: Settings, no_browser: bool) -> None:
    import socket

    import uvicorn

    from zittern.api.app import make_app
    from zittern.api.connection import Connection, raise_handles
    from zittern.core.errors import BadInput

    raise_handles()
    _give_memory_back()
    # Named as TCP, or the server would not know to send small answers at once (TCP_NODELAY).
    listener = socket.socket(
        socket.AF_INET6 if ":" in settings.host else socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP
    )
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((settings.host, settings.port))
    except OSError as error:
        raise BadInput(
            f"cannot listen on {settings.host}:{settings.port}: {error.strerror}; choose another with --port, or host "
            f"with ZITTERN_HOST"
        ) from error
    listener.listen(128)  # whoever reads the address below may connect at once
    name = f"[{settings.host}]" if ":" in settings.host else settings.host
    address = f"http://{name}:{listener.getsockname()[1]}/"

    class Leaving(uvicorn.Server):
        """Ends soon after it is told to, whatever is under way: threads cannot be given up, and all that was
        answered is on disk.
        """

        def handle_exit(self, sig: int, frame: FrameType | None) -> None:
            last = threading.Timer(_GRACE_S, os._exit, [128 + sig])
            last.daemon = True
            last.start()
            super().handle_exit(sig, frame)

    server = Leaving(
        uvicorn.Config(
            make_app(settings),
            log_level="warning",
            access_log=False,
            proxy_headers=False,
            server_header=False,
            http=Connection,
        )
    )
    # Threads change places often: who waits for a picture is not held up by who exports a long shot.
    sys.setswitchinterval(_SWITCH_S)
    print(f"Zittern is at {address}", flush=True)
    threading.Thread(target=_warm, daemon=True).start()
    if not no_browser:
        threading.Timer(0.5, webbrowser.open, [address]).start()
    server.run(sockets=[listener])


def _give_memory_back() -> None:
    """Tells the C library (glibc) to keep few pools of memory and to hand large arrays back at once: with forty threads
    it would otherwise hold on to several times what is in use. Elsewhere nothing happens.
    """
    import ctypes

    tune = getattr(ctypes.CDLL(None), "mallopt", None)
    if tune is not None:
        for option, value in ((_M_ARENA_MAX, 2), (_M_MMAP_THRESHOLD, 2**16)):
            tune(option, value)


def _warm() -> None:
    """Imports what the first edits need, while the page still loads: nobody waits for it later."""
    from zittern.core.motion.evaluate import evaluate
    from zittern.core.numbers.param import keyed
    from zittern.core.shot.shot import new_shot

    evaluate(new_shot("warm", last_frame=2, focal_mm=keyed((1, 35.0), (2, 50.0))))


def _write(path: Path, format_: Format, shot: Shot, step: float = 1.0) -> None:
    """Bakes a shot into a file, part by part; the file is whole or as it was."""
    from zittern.core.errors import BadInput
    from zittern.core.motion.evaluate import evaluate_in_parts
    from zittern.core.timebase import frame_grid

    if format_.write is None:
        raise BadInput(f"{path.name}: this format is only read", "-o")
    frames = frame_grid(shot.first_frame, shot.last_frame, step)
    part = path.with_name(f".{path.name}.{os.getpid()}.part")
    try:
        if path.is_dir():
            raise IsADirectoryError(errno.EISDIR, os.strerror(errno.EISDIR))
        if path.exists() and not path.is_file():
            with path.open("wb") as file:  # a pipe or a device takes what comes
                format_.write(shot, frames, evaluate_in_parts(shot, frames), file)
            return
        try:
            with part.open("wb") as file:
                format_.write(shot, frames, evaluate_in_parts(shot, frames), file)
            part.replace(path)
        finally:
            part.unlink(missing_ok=True)
    except OSError as error:
        raise BadInput(f"cannot write {path}: {error.strerror}") from error


def _complain(message: str) -> None:
    print("error: " + " ".join(message.split()), file=sys.stderr)
    sys.exit(2)


if __name__ == "__main__":
    main()

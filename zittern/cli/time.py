"""Edits of time and checks: retime, check."""

from __future__ import annotations

from contextlib import closing
from pathlib import Path
from typing import Annotated, Literal

import typer

from zittern.cli.documents import document_of, existing_data, folder_of_sets, tell, write_shot_to
from zittern.cli.options import Data, app

__all__ = ["check", "retime"]


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
    keep: Annotated[bool, typer.Option("--keep", help="Shakes after a cut stay unchanged; else they run on.")] = False,
    through: Annotated[
        bool, typer.Option("--through", help="Keys run through inserted frames; else they hold.")
    ] = False,
    data: Data = None,
) -> None:
    """Edit the time of a shot; several edits in one command use the frames of the present shot."""
    from zittern.core.edits.notices import notice
    from zittern.core.edits.time_texts import all_at_once, edits_of, reversing
    from zittern.core.errors import BadInput
    from zittern.formats.files import read_bytes
    from zittern.formats.table import format_of, read_as

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
        raise BadInput("this time edit must be the only one; run others before or after", alone)
    before = document_of(shot, data)
    if reverse is not None:
        turned = reversing(reverse)
        after, told = turned.apply(before), [turned.label(before)]
    elif cut is None:
        after, told = all_at_once(before, edits), [edit.label(before) for edit in edits]
    else:
        conform = read_as("cut", read_bytes(cut), before, (before.name, Path(shot).name.partition(".")[0]), handles)
        after, told = conform.apply(before), list(conform.says(before))
    write_shot_to(output, format_of(output.name), after)
    tell([*told, *filter(None, [notice(before, after)])])


@app.command()
def check(
    shots: Annotated[list[str], typer.Argument(help="Slugs, ids, or paths to .shot.json files.")],
    only: Annotated[str | None, typer.Option("--only", help="Names of checks, with commas between.")] = None,
    fix: Annotated[str | None, typer.Option("--fix", help="Checks whose findings are fixed.")] = None,
    output: Annotated[Path | None, typer.Option("-o", help="Path of the repaired .shot.json.")] = None,
    data: Data = None,
) -> int:
    """Print the findings of shots, one JSON object per line; exit code 1 for problems."""
    from zittern.checking import checked

    if fix is not None:
        for shot in shots:
            _mend(shot, tuple(fix.split(",")), output if len(shots) == 1 else None, data)
        if output is not None:
            return 0
    names = tuple(only.split(",")) if only is not None else None
    weighty, data_dir = False, folder_of_sets(data)
    for line, weight in checked([(key, document_of(key, data)) for key in shots], data_dir, names):
        print(line, flush=True)
        weighty = weighty or weight
    return 1 if weighty else 0


def _mend(key: str, names: tuple[str, ...], output: Path | None, data: Path | None) -> None:
    """Apply the fixes of some checks: to a stored shot as revisions, to a file as another file."""
    from zittern.checking import pieces_for
    from zittern.core.checks.repair import repaired
    from zittern.core.checks.table import named
    from zittern.core.errors import BadInput
    from zittern.formats.table import format_of
    from zittern.store.library import Library

    checks = named(names)
    stored = not key.endswith(".json")
    if not stored and output is None:
        raise BadInput("a repaired file is written to another one; name it with -o, one shot at a time", "-o")
    before = document_of(key, data)
    after, done = repaired(before, checks, pieces_for(folder_of_sets(data), before))
    if output is not None:
        if format_of(output.name).name != "shot":
            raise BadInput(f"the output ends in .shot.json, got {output.name}", "-o")
        write_shot_to(output, format_of(output.name), after)
    else:
        with closing(Library(existing_data(data))) as library:
            for found in done:
                assert found.fix is not None, "what was done has a command"
                library.edit(key, library.state(key).revision, found.fix.command)
    tell(f"{found.says}: {found.fix.says}" for found in done if found.fix is not None)

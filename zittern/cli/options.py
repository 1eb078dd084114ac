"""The application, and options that several commands share."""

from __future__ import annotations

import re
from pathlib import Path
from typing import Annotated

import typer

__all__ = [
    "MAX_COUNT", "Centimeters", "Data", "NoBrowser", "OneCamera", "Port", "Reduce", "ZUp",
    "app", "frames_in", "pair_in",
]  # fmt: skip

app = typer.Typer(
    add_completion=False,
    no_args_is_help=True,
    help="Handheld and operator-style motion for virtual cameras.",
    pretty_exceptions_enable=False,
)

# Largest whole number in options: what a database column holds.
MAX_COUNT = 2**53 - 1
Data = Annotated[Path | None, typer.Option("--data", help="Folder of the database and of sets.")]
Port = Annotated[int | None, typer.Option("--port", help="Port to listen on; 0 takes a free one.")]
NoBrowser = Annotated[bool, typer.Option("--no-browser", help="Do not open the page.")]
Reduce = Annotated[
    str | None,
    typer.Option(
        "--reduce",
        help="Few cubic keys within a tolerance of picture corners and, on request, of the lens: 0.5px,0.2mm.",
    ),
]
OneCamera = Annotated[
    bool, typer.Option("--one-camera", help="One node with all motion, instead of mounts and layers.")
]
ZUp = Annotated[bool, typer.Option("--z-up", help="The camera path has Z up.")]
Centimeters = Annotated[bool, typer.Option("--centimeters", help="The camera path is in centimeters.")]


def frames_in(text: str | None) -> tuple[int, int] | tuple[None, None]:
    """Return the frames of --range; none for none. Raises BadInput."""
    return (None, None) if text is None else pair_in(text, r"(-?\d+)-(-?\d+)", "--range", "A-B, as 1-96")


def pair_in(text: str, pattern: str, where: str, how: str) -> tuple[int, int]:
    """Return the two whole numbers of an option. how: `A-B, as 1-96`. Raises BadInput."""
    from zittern.core.errors import BadInput

    found = re.fullmatch(pattern, text.strip())
    if found is None or max(map(len, found.groups())) > 9:
        raise BadInput(f"this is {how}; got {text[:40]!r}", where)
    return int(found[1]), int(found[2])

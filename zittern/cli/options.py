"""The application, and options that several commands share."""

from __future__ import annotations

from pathlib import Path
from typing import Annotated

import typer

__all__ = ["MAX_COUNT", "Centimeters", "Data", "NoBrowser", "Port", "ZUp", "app"]

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
ZUp = Annotated[bool, typer.Option("--z-up", help="The camera path has Z up.")]
Centimeters = Annotated[bool, typer.Option("--centimeters", help="The camera path is in centimeters.")]

"""Timings: bench."""

from __future__ import annotations

import json
from typing import Annotated

import typer

from zittern.cli.options import app

__all__ = ["bench"]


@app.command()
def bench(
    browser: Annotated[bool, typer.Option("--browser", help="Measure the page in a headless browser instead.")] = False,
    rounds: Annotated[
        int, typer.Option("--rounds", min=1, max=100, help="How often each is timed; the best counts.")
    ] = 9,
) -> None:
    """Print timings as JSON."""
    if browser:
        from zittern.bench_browser import run as run_browser

        print(json.dumps(run_browser(), indent=2))
        return
    from zittern.bench import run

    print(json.dumps(run(rounds), indent=2))

"""The entry point: what a command refuses becomes one line and exit code 2."""

from __future__ import annotations

import sys

import typer

# Imported for their commands, in the order in which help lists them.
# isort: off
from zittern.cli import shelf, files, movie, time, figures  # noqa: F401

# isort: on
from zittern.cli.options import app
from zittern.core.errors import ZitternError

__all__ = ["main"]


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


def _complain(message: str) -> None:
    print("error: " + " ".join(message.split()), file=sys.stderr)
    sys.exit(2)

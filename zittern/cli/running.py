"""Run a command: an error becomes one line and exit code 2."""

from __future__ import annotations

import errno
import os
import sys

import typer

# Imported for their commands, in the order in which help lists them.
# isort: off
from zittern.cli import shelf, files, shake, movie, time, figures  # noqa: F401

# isort: on
from zittern.cli.documents import keep_private
from zittern.cli.options import app

__all__ = ["run"]


def run() -> int:
    """Run the command of this process, and return its exit code."""
    keep_private()
    try:
        code = app(standalone_mode=False)
        sys.stdout.flush()
    except _refusals() as error:
        return _complain(str(error))
    except UnicodeEncodeError as error:
        return _complain(f"{ascii(error.object)[:120]} is not UTF-8 text")
    except typer.TyperException as error:
        return _complain(error.format_message())
    except OSError as error:
        if error.errno not in (errno.EPIPE, errno.ENOSPC, errno.EIO):
            raise
        _drop_output()
        # A reader that has seen enough, as `head` has, is no fault.
        return 141 if error.errno == errno.EPIPE else _complain(f"cannot write the output: {error.strerror}")
    except typer.Abort:
        return 130
    return code if isinstance(code, int) else 0


def _refusals() -> type[Exception]:
    """Return the errors that are reported in one line; imported only after an error, since it takes a moment."""
    from zittern.core.errors import ZitternError

    return ZitternError


def _drop_output() -> None:
    """Discard output that could not be written, so that it is not retried at exit."""
    os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


def _complain(message: str) -> int:
    print("error: " + " ".join(message.split()), file=sys.stderr)
    return 2

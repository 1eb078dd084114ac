"""The command line. Exit 0 on success, 2 with one line on stderr for bad input.

In dependency order:

options    the application, and options that several commands share
documents  settings, shots by slug or file, files written whole
serving    the server, listening
shelf      demo, serve, shots, add, repeat, tidy
files      bake, import, schema
shake      shake
movie      movie
time       retime, check
figures    bench
running    the entry point
"""

import sys

__all__ = ["main"]


def main() -> None:
    """Entry point. Nothing else is imported before it can be interrupted."""
    try:
        from zittern.cli.running import run

        sys.exit(run())
    except KeyboardInterrupt:
        sys.exit(130)

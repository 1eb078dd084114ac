"""A server's process that has everything imported before it begins: forked from one that waits for that (a quarter of
what a test of the page costs is starting Python).
"""

from __future__ import annotations

import multiprocessing
import os
import signal
import sys
import tempfile
from pathlib import Path
from typing import IO

_CONTEXT = multiprocessing.get_context("forkserver")
_CONTEXT.set_forkserver_preload(["zittern.cli.serving", "zittern.demo.build", "zittern.api.app", "tests.web.forked"])


class Forked:
    """`zittern` with some arguments, with what of a `Popen` is used here. stdout: what it says, as text."""

    def __init__(self, arguments: list[str], log: Path | None) -> None:
        with tempfile.TemporaryDirectory() as folder:
            pipe = Path(folder) / "said"
            os.mkfifo(pipe)
            self._process = _CONTEXT.Process(target=_run, args=(arguments, pipe, log))
            self._process.start()
            self.stdout: IO[str] = pipe.open()

    @property
    def pid(self) -> int:
        """Of the process."""
        assert self._process.pid is not None
        return self._process.pid

    def poll(self) -> int | None:
        """How it ended; nothing while it has not."""
        return self._process.exitcode

    def wait(self, seconds: float | None = None) -> int:
        """The same once it has. Raises TimeoutError."""
        self._process.join(seconds)
        if self._process.exitcode is None:
            raise TimeoutError(f"the server did not end within {seconds} s")
        return self._process.exitcode

    def send_signal(self, number: int) -> None:
        """A signal, as from outside; nothing where it has ended."""
        if self.poll() is None:
            os.kill(self.pid, number)

    def terminate(self) -> None:
        """Asks it to end."""
        self.send_signal(signal.SIGTERM)


def _run(arguments: list[str], pipe: Path, log: Path | None) -> None:
    for path, number in ((pipe, 1), (log or Path(os.devnull), 2)):
        file = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND)
        os.dup2(file, number)
        os.close(file)
    sys.stdout, sys.stderr = (os.fdopen(number, "w", buffering=1, closefd=False) for number in (1, 2))
    sys.argv = ["zittern", *arguments]
    from zittern.cli import main

    main()

"""`zittern` in a process of its own that has everything imported before it begins: forked from one that waits for that.
Starting Python is a quarter of what a test of the page costs, and most of what a command does.
"""

from __future__ import annotations

import multiprocessing
import os
import signal
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import IO

_CONTEXT = multiprocessing.get_context("forkserver")
_CONTEXT.set_forkserver_preload(["tests.forked", "tests.warmed"])


def zittern(*arguments: str, folder: Path) -> subprocess.CompletedProcess[str]:
    """A command that has ended, run in a folder."""
    with tempfile.TemporaryDirectory() as holder:
        out, err = (Path(holder) / name for name in ("out", "err"))
        process = _CONTEXT.Process(target=_run, args=(arguments, out, err, folder))
        process.start()
        process.join()
        assert process.exitcode is not None
        return subprocess.CompletedProcess(arguments, process.exitcode, out.read_text(), err.read_text())


class Forked:
    """`zittern` with some arguments, with what of a `Popen` is used here. stdout: what it says, as text."""

    def __init__(self, arguments: list[str], log: Path | None) -> None:
        with tempfile.TemporaryDirectory() as folder:
            pipe = Path(folder) / "said"
            os.mkfifo(pipe)
            self._process = _CONTEXT.Process(target=_run, args=(arguments, pipe, log or Path(os.devnull)))
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


def _run(arguments: list[str], out: Path, err: Path, folder: Path | None = None) -> None:
    for path, number in ((out, 1), (err, 2)):
        file = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_APPEND)
        os.dup2(file, number)
        os.close(file)
    sys.stdout, sys.stderr = (os.fdopen(number, "w", buffering=1, closefd=False) for number in (1, 2))
    sys.argv = ["zittern", *arguments]
    if folder is not None:
        os.chdir(folder)
    from zittern.cli import main

    sys.exit(main())

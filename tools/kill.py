"""`make kill`: two servers on one data folder, writers on both, and SIGKILL now and then. Nothing acknowledged may be
lost or mixed up.

Each writer works on a shot of their own, through either server; after a kill the server is started again and everybody
looks for what they were promised. At the end the folder is looked through from outside.
"""

from __future__ import annotations

import argparse
import json
import random
import sqlite3
import sys
import tempfile
import threading
import time
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

from tests.web.harness import Server
from tools.traffic import Gone, Writer
from zittern.store.library import Library

__all__ = ["Report", "run"]

WRITERS = 4
# A server lives for so long, seconds.
LIVES_S = (0.2, 1.2)


@dataclass
class Report:
    """How often, how much, and what was wrong."""

    kills: int = 0
    acknowledged: int = 0
    steps: int = 0
    sets: int = 0
    faults: list[str] = field(default_factory=list)


class _Pair:
    """Two servers on one folder, at addresses that change with every life."""

    def __init__(self, data: Path) -> None:
        self.data = data
        first = Server(data)  # alone, so that the demo is there when the second one starts
        self.servers = [first, Server(data, "serve")]

    def url(self, which: int) -> str:
        return self.servers[which].url

    def kill(self, which: int) -> None:
        """Ends one without warning and starts another in its place."""
        old = self.servers[which]
        old.kill()
        if old.process.stdout is not None:
            old.process.stdout.close()
        self.servers[which] = Server(self.data, "serve")

    def stop(self) -> None:
        for server in self.servers:
            server.stop()


def run(kills: int, seed: int) -> Report:
    """As many kills as asked for, then a look at everything."""
    report = Report()
    with tempfile.TemporaryDirectory() as folder:
        pair = _Pair(Path(folder) / "data")
        try:
            writers = [Writer(f"writer {i}", seed * 100 + i) for i in range(WRITERS)]
            for writer in writers:
                writer.start(pair.url(0))
            _work(pair, writers, kills, random.Random(seed), report)
            for writer in writers:
                writer.catch_up(pair.url(0))
                writer.check_sets(pair.url(1))
        finally:
            pair.stop()
        _look_through(pair.data, writers, report)
    report.acknowledged = sum(writer.acknowledged for writer in writers)
    report.sets = sum(len(writer.sets) for writer in writers)
    return report


def _work(pair: _Pair, writers: list[Writer], kills: int, chance: random.Random, report: Report) -> None:
    done = threading.Event()

    def write(writer: Writer) -> None:
        try:
            while not done.is_set():
                which = writer.random.randrange(2)
                try:
                    writer.step(pair.url(which))
                    report.steps += 1
                except Gone:
                    _until_back(pair, writer, done)
        except Exception as error:  # noqa: BLE001 (whatever it is, it is what this tool looks for)
            report.faults.append(f"{writer.slug}: {type(error).__name__}: {error}"[:500])

    threads = [threading.Thread(target=write, args=(writer,)) for writer in writers]
    for thread in threads:
        thread.start()
    for _ in range(kills):
        time.sleep(chance.uniform(*LIVES_S))
        pair.kill(chance.randrange(2))
        report.kills += 1
    done.set()
    for thread in threads:
        thread.join()


def _until_back(pair: _Pair, writer: Writer, done: threading.Event) -> None:
    """Whichever server answers first tells what became of the step under way."""
    while not done.is_set():
        for which in (0, 1):
            try:
                writer.catch_up(pair.url(which))
                return
            except Gone:
                time.sleep(0.02)


def _look_through(data: Path, writers: list[Writer], report: Report) -> None:
    """The database from outside, once no server is left."""
    with closing(sqlite3.connect(data / "zittern.db")) as connection:
        for check in ("integrity_check", "foreign_key_check"):
            found = connection.execute(f"PRAGMA {check}").fetchall()
            if found not in ([("ok",)], []):
                report.faults.append(f"{check}: {found[:3]}")
    with closing(Library(data)) as library:
        for writer in writers:
            name = library.state(writer.slug).document.name
            if name != writer.promised:
                report.faults.append(f"{writer.slug}: {writer.promised!r} was acknowledged, {name!r} is there")
    left = [str(path) for path in (data / "work").glob("*")]
    if left:
        report.faults.append(f"half-made files are left: {left[:3]}")


def main() -> int:
    """0 when nothing was lost."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--kills", type=int, default=60)
    parser.add_argument("--seed", type=int, default=1)
    given = parser.parse_args()
    report = run(given.kills, given.seed)
    print(json.dumps(vars(report), indent=1))
    return 1 if report.faults else 0


if __name__ == "__main__":
    sys.exit(main())

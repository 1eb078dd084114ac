"""The queue of writers of one process. SQLite allows one writer at a time; writers wait here, with a timeout.

A writer holds the queue's lock only while it writes. Where another process keeps the database locked, the lock is let
released between two attempts, so that no thread of this process waits behind a waiting one.
"""

from __future__ import annotations

import sqlite3
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

from sqlalchemy import Connection, Engine, RootTransaction
from sqlalchemy.exc import OperationalError

from zittern.core.errors import StoreBusy
from zittern.store.engine import AT_ONCE

__all__ = ["PATIENCE_S", "Writers", "waiting_since"]

# Timeout of a writer, in the queue and for other processes together.
PATIENCE_S = 8.0
# Between two tries at a database that another process has locked.
_FIRST_PAUSE_S, _MOST_PAUSE_S = 0.001, 0.05
_LOCKED = (
    "another program, or a long line of changes, keeps the database busy; nothing was changed. Try again in a moment, "
    "or close the other program"
)
# Arrival time of the current writer (s, monotonic), if it waited elsewhere before.
_came_s: ContextVar[float | None] = ContextVar("came_s", default=None)


@contextmanager
def waiting_since(came_s: float) -> Iterator[None]:
    """Count the patience of writers in here from a moment on (`time.monotonic`)."""
    token = _came_s.set(came_s)
    try:
        yield
    finally:
        _came_s.reset(token)


class Writers:
    """Write transactions on an engine, one at a time."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._lock = threading.Lock()

    @contextmanager
    def transaction(self) -> Iterator[Connection]:
        """Return a transaction that has the database's lock. Raises StoreBusy after PATIENCE_S."""
        came_s = _came_s.get()
        until_s = (time.monotonic() if came_s is None else came_s) + PATIENCE_S
        pause_s = _FIRST_PAUSE_S
        while True:
            with self._alone(until_s), self._engine.connect().execution_options(**{AT_ONCE: True}) as connection:
                begun = _begun(connection)
                if begun is not None:
                    with begun:
                        yield connection
                    return
            if time.monotonic() + pause_s > until_s:
                raise StoreBusy(_LOCKED)
            time.sleep(pause_s)
            pause_s = min(2.0 * pause_s, _MOST_PAUSE_S)

    def at_once(self, write: Callable[[Connection], object]) -> None:
        """Run an optional write, unless another writer is active."""
        if not self._lock.acquire(blocking=False):
            return
        try:
            with self._engine.connect().execution_options(**{AT_ONCE: True}) as connection:
                begun = _begun(connection)
                if begun is not None:
                    with begun:
                        write(connection)
        finally:
            self._lock.release()

    @contextmanager
    def alone(self) -> Iterator[None]:
        """Block other writers of this process during work outside a transaction. Raises StoreBusy."""
        with self._alone(time.monotonic() + PATIENCE_S):
            yield

    @contextmanager
    def _alone(self, until_s: float) -> Iterator[None]:
        if not self._lock.acquire(timeout=max(until_s - time.monotonic(), 0.0)):
            raise StoreBusy(_LOCKED)
        try:
            yield
        finally:
            self._lock.release()


def _begun(connection: Connection) -> RootTransaction | None:
    """Return a transaction, or None while another process has the database's lock."""
    try:
        return connection.begin()
    except OperationalError as error:
        if getattr(error.orig, "sqlite_errorcode", 0) & 0xFF in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED):
            return None
        raise

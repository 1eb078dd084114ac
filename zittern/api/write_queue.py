"""The line of those who want to change something.

They wait on the asynchronous side: threads are few, and readers need them.
"""

from __future__ import annotations

import asyncio
import time
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from typing import Annotated

from fastapi import Depends, Request

from zittern.core.errors import StoreBusy
from zittern.store.writers import PATIENCE_S, waiting_since

__all__ = ["AT_ONCE", "WRITES", "Turn", "place_in"]

# Number of changes computed in parallel; the database applies them one at a time. A fifth of the threads that answer.
AT_ONCE = 8
_LONG_LINE = (
    f"{AT_ONCE} other changes are waiting and none finished within {PATIENCE_S:g} s; nothing was changed. "
    "Try again in a moment"
)


@asynccontextmanager
async def place_in(line: asyncio.Semaphore, patience_s: float, busy: str) -> AsyncIterator[None]:
    """Hold one of the places of a semaphore. Raises StoreBusy, with the text given, when none is free in time."""
    try:
        async with asyncio.timeout(patience_s):
            await line.acquire()
    except TimeoutError:
        raise StoreBusy(busy) from None
    try:
        yield
    finally:
        line.release()


async def _turn(request: Request) -> AsyncIterator[None]:
    came_s = time.monotonic()
    turns: asyncio.Semaphore = request.app.state.write_queue
    async with place_in(turns, PATIENCE_S, _LONG_LINE):
        with waiting_since(came_s):
            yield


# Dependency of routes that change something; a parameter where other dependencies must run first.
WRITES = Depends(_turn)
Turn = Annotated[None, WRITES]

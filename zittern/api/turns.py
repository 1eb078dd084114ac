"""The line of those who want to change something. They wait on the asynchronous side: threads are few, and readers
need them.
"""

from __future__ import annotations

import asyncio
import time
from collections.abc import AsyncIterator
from typing import Annotated

from fastapi import Depends, Request

from zittern.core.errors import StoreBusy
from zittern.store.writers import PATIENCE_S, waiting_since

__all__ = ["AT_ONCE", "WRITES", "Turn"]

# Changes that are worked out side by side; the database takes them one by one. A fifth of the threads that answer.
AT_ONCE = 8
_LONG_LINE = (
    f"{AT_ONCE} others are changing something and none came through within {PATIENCE_S:g} s; nothing was changed. Try "
    f"again in a moment"
)


async def _turn(request: Request) -> AsyncIterator[None]:
    came_s = time.monotonic()
    turns: asyncio.Semaphore = request.app.state.turns
    try:
        async with asyncio.timeout(PATIENCE_S):
            await turns.acquire()
    except TimeoutError:
        raise StoreBusy(_LONG_LINE) from None
    try:
        with waiting_since(came_s):
            yield
    finally:
        turns.release()


# What a route that changes something depends on; as a parameter where other dependencies come before it.
WRITES = Depends(_turn)
Turn = Annotated[None, WRITES]

"""Connections: the server's own protocol, which lets go of those that begin a request and do not end it, and of more
than there may be.
"""

from __future__ import annotations

import asyncio
import resource

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

__all__ = ["HEADER_S", "MOST_CONNECTIONS", "QUIET_S", "Connection", "raise_handles"]

# From the first byte of a request, or from connecting, until its headers are complete.
HEADER_S = 20.0
# Within a body, between two pieces of it.
QUIET_S = 20.0
# A browser opens six for a page. Each needs a handle, and files and the database need some besides.
MOST_CONNECTIONS = 256
_WANTED_HANDLES = 4096
_FULL = (
    b"HTTP/1.1 503 Service Unavailable\r\nContent-Type: application/problem+json\r\nConnection: "
    b"close\r\nContent-Length: %d\r\n\r\n%s"
)
_WHY = (
    b'{"type":"about:blank","title":"Busy","status":503,"where":"",'
    b'"detail":"too many connections are open; close some pages and try again"}'
)


def raise_handles() -> None:
    """Lets this process open as many files and connections as the system allows it, up to what it may need."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = _WANTED_HANDLES if hard == resource.RLIM_INFINITY else min(_WANTED_HANDLES, hard)
    if soft != resource.RLIM_INFINITY and soft < wanted:
        resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, hard))


class Connection(HttpToolsProtocol):
    """One connection. `patience` ends it unless what it waits for comes."""

    patience: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        super().connection_made(transport)
        if len(self.connections) > MOST_CONNECTIONS:
            transport.write(_FULL % (len(_WHY), _WHY))
            transport.close()
            return
        self._wait(HEADER_S)

    def connection_lost(self, exc: Exception | None) -> None:
        self._done()
        super().connection_lost(exc)

    def on_message_begin(self) -> None:
        self._wait(HEADER_S)
        super().on_message_begin()

    def on_headers_complete(self) -> None:
        self._wait(QUIET_S)
        super().on_headers_complete()

    def on_body(self, body: bytes) -> None:
        self._wait(QUIET_S)
        super().on_body(body)

    def on_message_complete(self) -> None:
        self._done()
        super().on_message_complete()

    def _wait(self, seconds: float) -> None:
        self._done()
        self.patience = self.loop.call_later(seconds, self._give_up)

    def _done(self) -> None:
        if self.patience is not None:
            self.patience.cancel()
            self.patience = None

    def _give_up(self) -> None:
        if self.transport is not None and not self.transport.is_closing():
            self.transport.abort()

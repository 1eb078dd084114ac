"""Connections.

The protocol of the server, which closes those with an incomplete request after a while, and those beyond a limit.
"""

from __future__ import annotations

import asyncio
import json
import resource

from uvicorn.protocols.http.httptools_impl import HttpToolsProtocol

__all__ = ["HEADER_S", "MOST_CONNECTIONS", "MOST_HEADER_BYTES", "QUIET_S", "Connection", "raise_handles"]

# From the first byte of a request, or from connecting, until its headers are complete.
HEADER_S = 20.0
# Within a body, between two pieces of it.
QUIET_S = 20.0
# A browser opens six for a page. Each needs a handle, and files and the database need some besides.
MOST_CONNECTIONS = 256
_WANTED_HANDLES = 4096
# Limit for the request line and headers together.
MOST_HEADER_BYTES = 64 * 2**10


def _refusal(status: int, reason: str, title: str, detail: str) -> bytes:
    body = json.dumps({"type": "about:blank", "title": title, "status": status, "where": "", "detail": detail})
    head = f"HTTP/1.1 {status} {reason}\r\nContent-Type: application/problem+json\r\nConnection: close"
    return f"{head}\r\nContent-Length: {len(body)}\r\n\r\n{body}".encode()


_FULL = _refusal(503, "Service Unavailable", "Busy", "too many connections are open; close some pages and try again")
_LONG_HEADER = _refusal(
    431,
    "Request Header Fields Too Large",
    "Headers too large",
    f"expected headers of up to {MOST_HEADER_BYTES // 2**10} KB, got more; delete the cookies of this address",
)


def raise_handles() -> None:
    """Raise the limit of open files and connections of this process, up to the maximum that it may need."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = _WANTED_HANDLES if hard == resource.RLIM_INFINITY else min(_WANTED_HANDLES, hard)
    if soft != resource.RLIM_INFINITY and soft < wanted:
        resource.setrlimit(resource.RLIMIT_NOFILE, (wanted, hard))


class Connection(HttpToolsProtocol):
    """One connection. `patience` ends the wait unless the expected event arrives."""

    patience: asyncio.TimerHandle | None = None
    # Bytes of headers of the present request, and whether it has more of them.
    header_bytes = 0
    in_header = True

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """Start to wait for the first request."""
        super().connection_made(transport)
        if len(self.connections) > MOST_CONNECTIONS:
            transport.write(_FULL)
            transport.close()
            return
        self._wait(HEADER_S)

    def connection_lost(self, exc: Exception | None) -> None:
        """Stop the timer and leave the count of connections."""
        self._done()
        super().connection_lost(exc)

    def data_received(self, data: bytes) -> None:
        """Pass on received bytes, and limit the time for incomplete headers."""
        complete_bytes = self.header_bytes
        super().data_received(data)
        # A line that does not end reaches no callback: then all that came is header.
        if self.in_header and self.header_bytes == complete_bytes:
            self._count_header(len(data))

    def on_message_begin(self) -> None:
        """Start to wait for the headers."""
        self._wait(HEADER_S)
        self.header_bytes, self.in_header = 0, True
        super().on_message_begin()

    def on_url(self, url: bytes) -> None:
        """Count the bytes of the address."""
        self._count_header(len(url))
        super().on_url(url)

    def on_header(self, name: bytes, value: bytes) -> None:
        """Count the bytes of a header."""
        self._count_header(len(name) + len(value))
        super().on_header(name, value)

    def on_headers_complete(self) -> None:
        """Start to wait for the body."""
        self._wait(QUIET_S)
        self.in_header = False
        if not self.transport.is_closing():
            super().on_headers_complete()

    def on_body(self, body: bytes) -> None:
        """Restart the wait for more of the body."""
        self._wait(QUIET_S)
        super().on_body(body)

    def on_message_complete(self) -> None:
        """Stop the timer."""
        self._done()
        super().on_message_complete()

    def _count_header(self, more_bytes: int) -> None:
        self.header_bytes += more_bytes
        if self.header_bytes > MOST_HEADER_BYTES and not self.transport.is_closing():
            self.transport.write(_LONG_HEADER)
            self.transport.close()

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

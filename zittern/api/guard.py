"""The door: only this machine's names as Host, only our own pages as Origin, uploads up to a limit. Pure ASGI."""

from __future__ import annotations

from starlette.datastructures import Headers
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from zittern.api.problems import problem

__all__ = ["Guard"]

_LOCAL = frozenset({"127.0.0.1", "localhost", "[::1]"})


class Guard:
    """Refuses foreign hosts and origins (DNS rebinding, cross-site posts) and bodies over `most_bytes`."""

    def __init__(self, app: ASGIApp, most_bytes: int, hosts: frozenset[str] = _LOCAL) -> None:
        self._app = app
        self._most_bytes = most_bytes
        self._hosts = hosts

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        host = headers.get("host", "")
        origin = headers.get("origin")
        size = headers.get("content-length", "0")
        if _name(host) not in self._hosts:
            refusal = problem(403, "Host not allowed", f"this server answers to {', '.join(sorted(self._hosts))}, not to {host[:80]!r}")
        elif origin is not None and origin not in (f"http://{host}", f"https://{host}"):
            refusal = problem(403, "Origin not allowed", f"requests from {origin[:80]!r} are refused")
        elif not size.isdigit() or int(size) > self._most_bytes:
            refusal = problem(413, "Too large", f"at most {self._most_bytes // 2**20} MB can be sent")
        else:
            await self._app(scope, _limited(receive, self._most_bytes), send)
            return
        await refusal(scope, receive, send)


def _name(host: str) -> str:
    return host.rsplit(":", 1)[0] if not host.endswith("]") and ":" in host else host


def _limited(receive: Receive, most_bytes: int) -> Receive:
    """Cuts off a body that grows past the limit without having announced it."""
    seen = 0

    async def wrapped() -> Message:
        nonlocal seen
        message = await receive()
        seen += len(message.get("body", b""))
        return {"type": "http.disconnect"} if seen > most_bytes else message

    return wrapped

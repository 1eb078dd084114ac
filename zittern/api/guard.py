"""Request validation: only our own pages as Origin, nothing cross-site but opening the page, bodies up to a limit.

Pure ASGI.

The allowed host names are checked by the framework's TrustedHostMiddleware; only its refusal is reworded in
our way.
"""

from __future__ import annotations

import socket

from starlette.datastructures import Headers, MutableHeaders
from starlette.middleware.trustedhost import TrustedHostMiddleware
from starlette.responses import Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from zittern.api.problems import problem

__all__ = ["Guard", "Hosts", "hosts_of"]

_READING = frozenset({"GET", "HEAD", "OPTIONS"})
# Addresses that mean every network this machine is in: then its own name is one of the server's.
_EVERYWHERE = frozenset({"0.0.0.0", "::", ""})
# Headers that decide access: with two lines of one header, the effective one would be ambiguous.
_ONCE = ("Host", "Origin", "Sec-Fetch-Site")
# Parsing a body of commands of this size takes a quarter of a second. Files come as forms, and frames of movies as
# bytes; only these may be larger, since frameworks read any other type as JSON.
MOST_JSON_BYTES = 4 * 2**20
_LARGE = frozenset({"multipart/form-data", "application/octet-stream"})
_MOST_DRAINED_BYTES = 256 * 2**20
# Everything comes from this server; inline styles are React's, blobs are textures inside GLB files.
_POLICY = (
    "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; connect-src 'self' blob: "
    "data:; worker-src 'self' blob:; "
    "object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
)
_HEADERS = {
    "X-Content-Type-Options": "nosniff",
    "Content-Security-Policy": _POLICY,
    "Cross-Origin-Resource-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
}


def hosts_of(host: str) -> list[str]:
    """Return the host names of a server on an address: those of this machine, and the address."""
    names = ["127.0.0.1", "localhost", "[::1]", "::1"]
    if host in _EVERYWHERE:
        own = socket.gethostname()
        names += [own, f"{own}.local", *_addresses(own)]
    else:
        names += [host, f"[{host}]"] if ":" in host else [host]
    return list(dict.fromkeys(names))


def _addresses(name: str) -> list[str]:
    try:
        found = {str(each[4][0]) for each in socket.getaddrinfo(name, None)}
    except OSError:
        return []
    return sorted(found | {f"[{each}]" for each in found if ":" in each})


class Hosts(TrustedHostMiddleware):
    """Check the Host header with the framework's middleware; a refusal lists the allowed names."""

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle a request, or refuse its host."""

        async def refuse(message: Message) -> None:
            if message["type"] == "http.response.start":
                known = ", ".join(name for name in self.allowed_hosts if name.startswith("[") or ":" not in name)
                host = _shown(Headers(scope=scope).get("host", ""))
                await problem(
                    403,
                    "Host not allowed",
                    f"this server answers to {known}, not to {host}; ZITTERN_HOST names another",
                )(scope, receive, send)

        inner = TrustedHostMiddleware(
            lambda _, receive, __: self.app(scope, receive, send), self.allowed_hosts, www_redirect=False
        )
        await inner(scope, receive, refuse)


class Guard:
    """Reject foreign origins, cross-site requests and bodies over the limit.

    Add headers that restrict what browsers do with each answer.
    """

    def __init__(self, app: ASGIApp, most_bytes: int) -> None:
        self._app = app
        self._most_bytes = most_bytes

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle a request, or refuse it."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        send = _marked(send)
        kind = headers.get("content-type", "").partition(";")[0].strip().lower()
        most = self._most_bytes if kind in _LARGE else min(MOST_JSON_BYTES, self._most_bytes)
        refusal = _refusal(scope, headers) or _size_refusal(headers, most)
        if refusal is not None:
            await _drained(receive)
            await refusal(scope, receive, send)
            return
        door = _Door(receive, send, most)
        try:
            await self._app(scope, door.receive, door.send)
        except Exception:
            if not door.over:
                raise
        if door.over and not door.answered:
            if door.more:
                await _drained(receive)
            await _too_large(most)(scope, receive, send)


async def _drained(receive: Receive) -> None:
    """Read the rest of a refused body, up to a limit.

    A client that is still sending would otherwise not read the reason.
    """
    seen, more = 0, True
    while more and seen < _MOST_DRAINED_BYTES:
        message = await receive()
        seen += len(message.get("body", b""))
        more = message["type"] == "http.request" and message.get("more_body", False)


def _refusal(scope: Scope, headers: Headers) -> Response | None:
    twice = next((name for name in _ONCE if len(headers.getlist(name)) > 1), None)
    if twice is not None:
        return problem(400, "Header sent twice", f"{twice} may be sent once, got {len(headers.getlist(twice))} lines")
    host, origin = headers.get("host", ""), headers.get("origin")
    if origin is not None and origin != f"http://{host}":
        return problem(403, "Origin not allowed", f"requests from {_shown(origin)} are refused")
    if headers.get("sec-fetch-site", "same-origin") not in ("same-origin", "none") and not _opens_page(scope, headers):
        return problem(403, "Site not allowed", "only this server's own page may ask it for anything")
    return None


def _opens_page(scope: Scope, headers: Headers) -> bool:
    """Return whether a request from another site only opens the page, as a link to it does."""
    navigates = headers.get("sec-fetch-mode") == "navigate" and headers.get("sec-fetch-dest") == "document"
    return navigates and scope["method"] in _READING and not scope["path"].startswith("/api/")


def _size_refusal(headers: Headers, most: int) -> Response | None:
    size = headers.get("content-length", "0")
    if size.isascii() and size.isdigit() and len(size) < 16 and int(size) <= most:
        return None
    return _too_large(most)


def _too_large(most: int) -> Response:
    return problem(
        413,
        "Too large",
        f"up to {most // 2**20} MB can be sent" + ("; split it into several" if most == MOST_JSON_BYTES else ""),
    )


def _shown(text: str) -> str:
    return repr(text[:80].encode("ascii", "backslashreplace").decode())


class _Door:
    """Count the size of a body that was not announced.

    Past the limit the application receives a disconnect and its messages are dropped.
    """

    def __init__(self, receive: Receive, send: Send, most: int) -> None:
        self._receive, self._send, self._most = receive, send, most
        self._seen = 0
        self.over = False
        self.more = True
        self.answered = False

    async def receive(self) -> Message:
        message = await self._receive()
        self.more = bool(message.get("more_body", False))
        self._seen += len(message.get("body", b""))
        self.over = self.over or self._seen > self._most
        return {"type": "http.disconnect"} if self.over else message

    async def send(self, message: Message) -> None:
        if self.over and not self.answered:
            return
        self.answered = True
        await self._send(message)


def _marked(send: Send) -> Send:
    """Add the headers of every answer."""

    async def wrapped(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in _HEADERS.items():
                headers.setdefault(name, value)
        await send(message)

    return wrapped

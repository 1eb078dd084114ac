"""Half-open connections, on a real server in a thread, with patience cut short."""

import socket
import threading
import unittest
from contextlib import suppress
from unittest import mock

import uvicorn

from zittern.api import connection
from zittern.api.connection import MOST_HEADER_BYTES, Connection


async def answering(scope: dict, receive, send) -> None:  # type: ignore[no-untyped-def, type-arg]
    """Reads a body to its end and says how long it was."""
    size, more = 0, True
    while more:
        message = await receive()
        size += len(message.get("body", b""))
        more = message.get("more_body", False)
    await send({"type": "http.response.start", "status": 200, "headers": [(b"content-length", b"%d" % len(str(size)))]})
    await send({"type": "http.response.body", "body": str(size).encode()})


class Patience(unittest.TestCase):
    def setUp(self) -> None:
        for name, value in (("HEADER_S", 0.2), ("QUIET_S", 0.2), ("MOST_CONNECTIONS", 6)):
            patched = mock.patch.object(connection, name, value)
            patched.start()
            self.addCleanup(patched.stop)
        listener = socket.socket()
        listener.bind(("127.0.0.1", 0))
        listener.listen(64)
        self.address = listener.getsockname()
        self.server = uvicorn.Server(uvicorn.Config(answering, log_level="error", http=Connection, lifespan="off"))
        thread = threading.Thread(target=self.server.run, kwargs={"sockets": [listener]})
        thread.start()
        self.addCleanup(thread.join)
        self.addCleanup(setattr, self.server, "should_exit", True)

    def connected(self) -> socket.socket:
        out = socket.create_connection(self.address, timeout=30)
        self.addCleanup(out.close)
        return out

    def said(self, sock: socket.socket) -> bytes:
        """All that comes until the other end closes."""
        out = b""
        try:
            while piece := sock.recv(4096):
                out += piece
        except ConnectionResetError:
            pass
        return out

    def test_who_says_nothing_half_a_header_or_half_a_body_is_let_go(self) -> None:
        for begun in (
            b"",
            b"GET / HTTP/1.1\r\nHost: x\r\n",
            b"POST / HTTP/1.1\r\nHost: x\r\nContent-Length: 10\r\n\r\nhalf",
        ):
            sock = self.connected()
            sock.sendall(begun)
            self.assertEqual(self.said(sock), b"", begun)

    def test_who_sends_piece_by_piece_is_heard(self) -> None:
        sock = self.connected()
        sock.sendall(b"POST / HTTP/1.1\r\nHost: x\r\nConnection: close\r\nContent-Length: 8\r\n\r\n")
        for _ in range(8):
            sock.sendall(b"x")
        self.assertTrue(self.said(sock).endswith(b"8"))

    def test_more_than_there_may_be_are_told_so(self) -> None:
        with mock.patch.object(connection, "HEADER_S", 30.0):
            held = [self.connected() for _ in range(6)]
            late = self.connected()
            self.assertIn(b"503", self.said(late))
            held[0].sendall(b"GET / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n")
            self.assertIn(b"200", self.said(held[0]))

    def test_headers_over_64_kb_are_refused_whichever_way_they_come(self) -> None:
        large = b"x" * (MOST_HEADER_BYTES + 1)
        with mock.patch.object(connection, "HEADER_S", 30.0):
            for pieces in (
                [b"GET / HTTP/1.1\r\nHost: x\r\nCookie: " + large + b"\r\n\r\n"],
                [b"GET /" + large + b" HTTP/1.1\r\nHost: x\r\n\r\n"],
                [b"GET / HTTP/1.1\r\n", *[b"X-%d: %s\r\n" % (n, b"y" * 1000) for n in range(70)]],
                [b"GET / HTTP/1.1\r\nHost: x\r\nCookie: ", *[b"z" * 1000] * 70],
            ):
                sock = self.connected()
                with suppress(BrokenPipeError, ConnectionResetError):
                    for piece in pieces:
                        sock.sendall(piece)
                said = self.said(sock)
                self.assertTrue(said == b"" or said.startswith(b"HTTP/1.1 431"), said[:200])
                self.assertNotIn(b"200", said[:20])
            sock = self.connected()
            sock.sendall(b"GET / HTTP/1.1\r\nHost: x\r\nConnection: close\r\nCookie: " + large[:60_000] + b"\r\n\r\n")
            self.assertIn(b"200", self.said(sock)[:20])

"""Errors that no route raises itself: clients that leave, and disks that are full."""

import errno
import socket
import tempfile
import unittest
from pathlib import Path
from unittest.mock import patch
from urllib.parse import urlparse
from urllib.request import urlopen

from tests.api.making import WithServer
from tests.formats.pictures import encoded, plain
from tests.web.harness import Server
from zittern.core.errors import StoreFull
from zittern.formats.picture_file import read_picture


class Leaving(unittest.TestCase):
    def test_a_client_that_leaves_in_the_middle_of_a_body_is_no_error_of_the_server(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            log = Path(folder) / "log"
            server = Server(Path(folder) / "data", "serve", log=log)
            self.addCleanup(server.stop)
            where = urlparse(server.url)
            for kind in ("application/json", "multipart/form-data; boundary=b"):
                for path in ("/api/projects", "/api/imports/inspect"):
                    with socket.create_connection((where.hostname, where.port)) as client:
                        head = f"POST {path} HTTP/1.1\r\nHost: {where.netloc}\r\nContent-Type: {kind}\r\n"
                        client.sendall(f"{head}Content-Length: 999\r\n\r\n--b\r\nhalf".encode())
            with urlopen(f"{server.url}api/projects") as answer:
                self.assertEqual(answer.status, 200)
            server.stop()
            self.assertEqual(log.read_text(), "")


class Full(WithServer):
    def test_an_upload_that_fills_the_temporary_folder(self) -> None:
        full = OSError(errno.ENOSPC, "No space left on device")
        with patch("starlette.formparsers.SpooledTemporaryFile", side_effect=full):
            answer = self.client.post("/api/imports/inspect", files={"file": ("a.csv", b"frame,x_m\n1,0\n")})
        self.problem(answer, 507, "the disk of .* is full; nothing was changed. Make room there")

    def test_a_picture_that_cannot_be_kept(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            full = Path(folder) / "full.webp"
            full.symlink_to("/dev/full")
            with self.assertRaisesRegex(StoreFull, "is full; nothing was changed"):
                read_picture(encoded(plain()), "a.png", full, full, full)
            files = [("files", ("a.png", encoded(plain())))]
            body = {"base_revision": self.state()["revision"]}
            with patch("zittern.store.workspace.Workspace.new_path", return_value=full):
                self.problem(self.client.post("/api/shots/jetty-walk/plates", data=body, files=files), 507, "is full")
            self.assertEqual(self.state()["revision"], body["base_revision"])

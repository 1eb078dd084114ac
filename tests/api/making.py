"""A test client on a fresh data folder with the demo in it."""

from __future__ import annotations

import json
import struct
import tempfile
import unittest
from pathlib import Path

import numpy as np
from starlette.testclient import TestClient

from tests.demo.template import demo_data
from zittern.api.app import make_app
from zittern.api.packet import MAGIC
from zittern.settings import Settings


class WithServer(unittest.TestCase):
    """`self.client` talks to an application of its own."""

    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        demo_data(Path(folder.name))
        app = make_app(Settings(data=Path(folder.name), most_upload_mb=1))
        self.context = app.state.context
        self.library = self.context.library
        self.addCleanup(self.library.close)
        self.client = TestClient(app, base_url="http://127.0.0.1:8712", raise_server_exceptions=False)

    def state(self, shot: str = "jetty-walk") -> dict:  # type: ignore[type-arg]
        answer = self.client.get(f"/api/shots/{shot}")
        self.assertEqual(answer.status_code, 200)
        return answer.json()

    def edit(self, command: dict, shot: str = "jetty-walk") -> dict:  # type: ignore[type-arg]
        answer = self.client.post(
            f"/api/shots/{shot}/edits", json={"base_revision": self.state(shot)["revision"], "command": command}
        )
        self.assertEqual(answer.status_code, 200, answer.text)
        return answer.json()

    def problem(self, answer, status: int, pattern: str, where: str = "") -> dict:  # type: ignore[no-untyped-def, type-arg]
        self.assertEqual(answer.status_code, status, answer.text)
        self.assertEqual(answer.headers["content-type"], "application/problem+json")
        body = answer.json()
        self.assertEqual(body["status"], status)
        self.assertRegex(body["detail"], pattern)
        self.assertIn(where, body["where"])
        return body


def unpack(packet: bytes) -> tuple[dict, dict[str, np.ndarray]]:  # type: ignore[type-arg]
    """Header and arrays of a motion packet, read by hand."""
    assert packet[:4] == MAGIC
    length = struct.unpack_from("<I", packet, 4)[0]
    head = json.loads(packet[8 : 8 + length])
    arrays = {}
    for each in head["arrays"]:
        if each["offset"] is not None:
            data = np.frombuffer(packet, "<f4", head["rows"] * each["columns"], 8 + length + each["offset"])
            arrays[each["name"]] = data.reshape(-1, each["columns"])
    return head, arrays

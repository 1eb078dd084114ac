"""Kill -9 in a stream of edits: whatever was acknowledged is there afterwards."""

import json
import tempfile
import unittest
import urllib.request
from pathlib import Path

from tests.web.harness import Server
from zittern.store.library import Library


def post(url: str, body: dict) -> dict:  # type: ignore[type-arg]
    request = urllib.request.Request(url, json.dumps(body).encode(), {"Content-Type": "application/json"})
    with urllib.request.urlopen(request, timeout=30) as answer:
        return json.load(answer)


class Killed(unittest.TestCase):
    def test_no_acknowledged_edit_is_lost(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            acknowledged = 0
            for round_ in range(3):
                server = Server(Path(folder))
                try:
                    with urllib.request.urlopen(f"{server.url}api/shots/jetty-walk") as answer:
                        state = json.load(answer)
                    if acknowledged:
                        self.assertEqual(state["document"]["name"], f"Edit {acknowledged}")
                    for _ in range(20 + 7 * round_):
                        name = f"Edit {acknowledged + 1}"
                        command = {"type": "set_values", "values": [{"at": "shot.name", "value": name}]}
                        state = post(f"{server.url}api/shots/jetty-walk/edits", {"base_revision": state["revision"], "command": command})
                        self.assertEqual(state["document"]["name"], name)
                        acknowledged += 1
                finally:
                    server.kill()
                    server.process.stdout.close()  # type: ignore[union-attr]
            library = Library(Path(folder))
            try:
                self.assertEqual(library.state("jetty-walk").document.name, f"Edit {acknowledged}")
                self.assertEqual(library.history("jetty-walk").count, acknowledged + 1)
            finally:
                library.close()

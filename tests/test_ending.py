"""A server that is told to end."""

import http.client
import json
import signal
import unittest
from contextlib import closing
from typing import Any
from urllib.parse import urlsplit

from tests.web.harness import Server, serving


class Ending(unittest.TestCase):
    def test_told_to_end_it_does_not_wait_for_what_takes_long(self) -> None:
        """Four layers of as many beats as can be seen, on 100,000 frames: many times the grace."""
        with serving() as server:
            made = asked(
                server, "POST", "/api/projects/saltmarsh-post/shots", {"name": "Long", "fps": 24, "frames": 100_000}
            )
            for number in range(1, 5):
                fast = {"source.rhythm_hz": 10.0, "speed": 19.0}
                values = [{"at": f"layer:hit-{number}.{field}", "value": value} for field, value in fast.items()]
                for command in ({"type": "add_layer", "source": "hit"}, {"type": "set_values", "values": values}):
                    made = asked(
                        server, "POST", "/api/shots/long/edits", {"command": command, "base_revision": made["revision"]}
                    )
            waiting = connected(server)
            waiting.request(
                "POST",
                "/api/shots/long/motion",
                json.dumps({"commands": [], "frame": 1}),
                {"Content-Type": "application/json"},
            )
            asked(server, "GET", "/api/projects")
            server.process.terminate()
            self.assertEqual(server.process.wait(60), 128 + signal.SIGTERM)
            self.assertRaises(ConnectionError, waiting.getresponse)
            waiting.close()
            again = Server(server.data, "serve")
            self.addCleanup(again.stop)
            self.assertEqual(asked(again, "GET", "/api/shots/long")["revision"], made["revision"])


def connected(server: Server) -> http.client.HTTPConnection:
    return http.client.HTTPConnection(urlsplit(server.url).netloc, timeout=60)


def asked(server: Server, method: str, path: str, body: object = None) -> dict[str, Any]:
    """The answer to one request."""
    with closing(connected(server)) as connection:
        connection.request(
            method, path, None if body is None else json.dumps(body), {"Content-Type": "application/json"}
        )
        answer = connection.getresponse()
        text = answer.read()
        if answer.status >= 300:
            raise AssertionError(text)
        return json.loads(text)

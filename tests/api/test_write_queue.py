"""A line of writers before a locked database, and readers who do not care. On a real server, with a real second
process's lock.
"""

import importlib
import json
import pkgutil
import sqlite3
import threading
import unittest
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from urllib.error import HTTPError
from urllib.request import Request, urlopen

from fastapi.routing import APIRoute

from tests.web.harness import serving
from zittern.api import routes as routes_package
from zittern.api.write_queue import WRITES

WRITERS = 60
# Routes that are asked by POST and change nothing that is kept, and exports, whose files are no part of the database.
ASK_ONLY = {
    "/api/shots/{shot}/cut", "/api/shots/{shot}/coverage",
    "/api/shots/{shot}/motion", "/api/shots/{shot}/formula", "/api/shots/{shot}/handles",
    "/api/arithmetic", "/api/arithmetic/many",
    "/api/arithmetic/frame", "/api/shots/{shot}/swatches",
    "/api/shots/{shot}/object-poses", "/api/imports/inspect", "/api/shots/{shot}/exports", "/api/exports/{job}",
    # Movies lie in files of their own, not in the database.
    "/api/shots/{shot}/movies", "/api/shots/{shot}/still", "/api/movies/{movie}", "/api/movies/{movie}/moments",
    "/api/movies/{movie}/heartbeat",
    "/api/movies/{movie}/frames/{number}",
}  # fmt: skip


def asked(url: str, body: object = None) -> int:
    """Status of an answer."""
    data = None if body is None else json.dumps(body).encode()
    try:
        with urlopen(Request(url, data, {"Content-Type": "application/json"}), timeout=60) as answer:
            answer.read()
            return int(answer.status)
    except HTTPError as error:
        return error.code


class Locked(unittest.TestCase):
    def test_readers_are_answered_while_sixty_writers_wait_and_then_all_are_written(self) -> None:
        with (
            serving("serve") as server,
            closing(sqlite3.connect(server.data / "zittern.db", isolation_level=None)) as holder,
        ):
            first = threading.Event()

            def write(number: int) -> int:
                status = asked(f"{server.url}api/projects", {"name": f"Post {number}"})
                first.set()
                return status

            holder.execute("BEGIN IMMEDIATE")
            with ThreadPoolExecutor(WRITERS) as pool:
                writing = [pool.submit(write, number) for number in range(WRITERS)]
                reads = [asked(f"{server.url}api/projects") for _ in range(WRITERS)]
                self.assertEqual(set(reads), {200})
                self.assertFalse(first.is_set(), "no writer was answered before the readers")
                holder.execute("COMMIT")
                self.assertEqual({each.result() for each in writing}, {201})


def waits(route: APIRoute) -> bool:
    """Whether a route waits for its turn, by its dependencies or by a parameter."""
    return any(each.call is WRITES.dependency for each in route.dependant.dependencies)


class Declared(unittest.TestCase):
    def test_every_route_that_changes_something_waits_in_line(self) -> None:
        modules = [
            importlib.import_module(f"zittern.api.routes.{each.name}")
            for each in pkgutil.iter_modules(routes_package.__path__)
        ]
        routes = [route for module in modules for route in module.router.routes if isinstance(route, APIRoute)]
        changing = [route for route in routes if not route.methods <= {"GET", "HEAD"}]
        free = {route.path for route in changing if not waits(route)}
        self.assertEqual(free, ASK_ONLY)
        self.assertGreater(len(changing), 30)

import asyncio
import json
import threading
import unittest
from unittest import mock

from tests.api.making import WithServer
from zittern.api import context
from zittern.api.context import json_response
from zittern.api.jobs import Busy
from zittern.api.models.shots import StateOut
from zittern.api.models.transfer import ImportedOut
from zittern.core.runtime.budget import Budget


class Json(WithServer):
    def test_a_shot_spliced_in_is_what_the_model_says(self) -> None:
        state = StateOut.of(self.library.state("jetty-walk-swaying"))
        self.assertEqual(json.loads(json_response(state).body), json.loads(state.model_dump_json()))
        imported = ImportedOut.model_construct(state=state, notices=["ä “b”"])
        self.assertEqual(json.loads(json_response(imported, 201).body), json.loads(imported.model_dump_json()))


class SteppingAside(unittest.TestCase):
    def test_work_in_the_background_waits_while_somebody_waits(self) -> None:
        busy, passed = Busy(), threading.Event()

        def work() -> None:
            while not passed.is_set():
                busy.step_aside()
                if not held.is_set():
                    passed.set()

        held = threading.Event()
        held.set()
        with busy, busy:
            worker = threading.Thread(target=work)
            worker.start()
            held.clear()
        worker.join(10)
        self.assertTrue(passed.is_set())

    def test_nobody_waits_for_ever(self) -> None:
        busy = Busy()
        busy.step_aside()
        with busy:
            busy.step_aside()  # comes back although somebody is still busy
        busy.step_aside()
        self.assertTrue(busy._idle.is_set())


class Budgets(WithServer):
    BODY = json.dumps(
        {"commands": [{"type": "set_values", "values": [{"at": "layer:sway-1.axes.pan.swing", "value": 1.25}]}]}
    ).encode()

    def ask(self):  # type: ignore[no-untyped-def]
        return self.client.post(
            "/api/shots/jetty-walk-swaying/motion", content=self.BODY, headers={"Content-Type": "application/json"}
        )

    def test_a_request_that_takes_too_long_is_a_problem_that_says_what(self) -> None:
        with mock.patch.object(context, "MOST_CPU_S", 0.0):
            self.problem(self.ask(), 422, "takes more than 0 s; nothing was changed. Lower")
        self.assertEqual(self.ask().status_code, 200)

    def test_so_is_one_that_would_need_too_much_memory(self) -> None:
        with mock.patch.object(context, "MOST_BYTES", 1000):
            self.problem(
                self.ask(), 422, "2 layers and 1 mounts at 192 frames takes .* MB of memory.*Lower the number of"
            )

    def test_work_stops_when_the_client_has_gone(self) -> None:
        """The application itself, with a client that sends a question and goes: it is noticed while the answer is
        worked out.
        """
        sent: list[dict] = []  # type: ignore[type-arg]
        gone = threading.Event()

        async def once() -> None:
            coming = [{"type": "http.request", "body": self.BODY, "more_body": False}]

            async def receive() -> dict:  # type: ignore[type-arg]
                return coming.pop(0) if coming else {"type": "http.disconnect"}

            async def send(message: dict) -> None:  # type: ignore[type-arg]
                sent.append(message)

            headers = [(b"host", b"127.0.0.1:8712"), (b"content-type", b"application/json")]
            await self.client.app(  # type: ignore[operator]
                {
                    "type": "http", "asgi": {"version": "3.0"}, "http_version": "1.1", "method": "POST",
                    "scheme": "http", "query_string": b"",
                    "path": "/api/shots/jetty-walk-swaying/motion", "raw_path": b"", "root_path": "",
                    "headers": headers, "client": None, "server": None,
                },
                receive, send,
            )  # fmt: skip

        def waiting(budget: Budget) -> None:
            """Until it is heard that the client has gone: here the loop has its turn whenever this thread looks."""
            while not budget.gone and not gone.wait(0.001):
                pass
            check(budget)

        check = Budget.check
        with mock.patch.object(Budget, "check", waiting):
            asyncio.run(once())
        self.assertEqual(sent[0]["status"], 499)

import json
import threading
import unittest

from tests.api.making import WithServer
from zittern.api.context import json_response
from zittern.api.jobs import Busy
from zittern.api.models.shots import StateOut
from zittern.api.models.transfer import ImportedOut


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

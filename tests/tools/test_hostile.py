import unittest

from tools.hostile import Samples, calls, run
from zittern.api.export_openapi import describe


class Covering(unittest.TestCase):
    def test_every_route_and_every_command_is_there(self) -> None:
        import json

        document = json.loads(describe())
        made = calls(document)
        routes = {(path, method.upper()) for path, each in document["paths"].items() for method in each}
        self.assertEqual({(call.path, call.method) for call in made}, routes)
        edit = Samples(document).resolve(document["components"]["schemas"]["EditIn"])["properties"]["command"][
            "discriminator"
        ]["mapping"]
        sent = {call.parts["json"]["command"]["type"] for call in made if call.path.endswith("/edits")}
        self.assertEqual(sent, set(edit))


class Short(unittest.TestCase):
    def test_nothing_fails(self) -> None:
        report = run(250, seed=5, slow_s=60.0)  # how fast it is, is for `make hostile`
        self.assertEqual((report.sent, report.failures), (250, []))
        self.assertGreater(sum(n for status, n in report.statuses.items() if 400 <= status < 500), 100)

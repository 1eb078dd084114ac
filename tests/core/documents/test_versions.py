import unittest

from zittern.core.documents.versions import parsed, upgraded
from zittern.core.errors import DocumentError

STEPS = {
    1: lambda data: {**data, "schema_version": 2, "way": ["one"]},
    2: lambda data: {**data, "schema_version": 3, "way": [*data["way"], "two"]},
}


def thing(version: object, name: str = "zittern.thing", **fields: object) -> dict[str, object]:
    return {"schema_name": name, "schema_version": version, **fields}


class Steps(unittest.TestCase):
    def test_each_step_in_its_turn_and_none_for_the_newest(self) -> None:
        self.assertEqual(upgraded(thing(1), "thing", 3, STEPS), thing(3, way=["one", "two"]))
        self.assertEqual(upgraded(thing(2, way=[]), "thing", 3, STEPS)["way"], ["two"])
        self.assertEqual(upgraded(thing(3), "thing", 3, STEPS), thing(3))

    def test_what_is_something_else_or_newer(self) -> None:
        for data, pattern in (
            ([], "not a thing"),
            (thing(1, "zittern.other"), "not a thing"),
            *((thing(v), "newer") for v in (0, 4, True, "1", None, 1.0)),
        ):
            with self.assertRaisesRegex(DocumentError, pattern):
                upgraded(data, "thing", 3, STEPS)
        for text in ("", "{", b"\xff", "[" * 100_000):
            with self.assertRaisesRegex(DocumentError, "not JSON"):
                parsed(text)

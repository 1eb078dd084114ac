import unittest

from zittern.core.errors import (
    Conflict,
    DocumentError,
    EditError,
    FormatError,
    NotFound,
    ZitternError,
    field_path,
    loc_path,
)


class Paths(unittest.TestCase):
    def test_locations_read_like_the_document(self) -> None:
        for loc, path in (
            (
                ("lanes", 2, "clips", 0, "layers", 1, "source", "noise", "rate_hz", "fixed", "value"),
                "lanes[2].clips[0].layers[1].source.rate_hz.value",
            ),
            (("body", "command", "set_values", "values", 0, "at"), "body.command.values[0].at"),
            (("commands", 1, "add_layer", "source"), "commands[1].source"),
            ((), ""),
        ):
            self.assertEqual(loc_path(loc), path)

    def test_joining(self) -> None:
        self.assertEqual(field_path("shot", "name"), "shot.name")
        self.assertEqual(field_path("keys", "[3]"), "keys[3]")
        self.assertEqual(field_path("shot", ""), "shot")

    def test_the_place_stands_before_the_message(self) -> None:
        self.assertEqual(str(EditError("too large", "layer:a.weight")), "layer:a.weight: too large")
        self.assertEqual(str(FormatError("too large")), "too large")

    def test_one_tree(self) -> None:
        for kind in (DocumentError, EditError, FormatError, NotFound, Conflict):
            self.assertTrue(issubclass(kind, ZitternError))

import string
import unittest

from pydantic import TypeAdapter, ValidationError

from tests.core.making import layer, shot_with
from zittern.core.edits.command import COMMANDS, CommandDoc
from zittern.core.edits.layers import MoveLayer
from zittern.core.edits.presets import OfPreset
from zittern.core.edits.table import Command


class Declared(unittest.TestCase):
    def test_type_is_the_name_of_the_class(self) -> None:
        self.assertIs(COMMANDS["move_layer"], MoveLayer)
        self.assertEqual(MoveLayer(layer="a", index=0).type, "move_layer")
        found = TypeAdapter(Command).validate_python({"type": "move_layer", "layer": "a", "index": 0})
        self.assertEqual(found, MoveLayer(layer="a", index=0))
        with self.assertRaises(ValidationError):
            MoveLayer.model_validate({"type": "remove_layers", "layer": "a", "index": 0})

    def test_a_base_without_apply_is_no_command(self) -> None:
        self.assertNotIn(OfPreset, COMMANDS.values())

    def test_each_declares_a_label_of_its_fields_or_computes_one(self) -> None:
        for name, kind in COMMANDS.items():
            with self.subTest(command=name):
                template = kind._label
                self.assertNotEqual(bool(template), "label" in kind.__dict__)
                fields = {field.partition(".")[0] for _, field, _, _ in string.Formatter().parse(template) if field}
                self.assertLessEqual(fields, set(kind.model_fields))

    def test_ids_are_shown_as_names(self) -> None:
        shot = shot_with(layer("slow-sway"))
        self.assertEqual(MoveLayer(layer="slow-sway", index=0).label(shot), "Reorder “Slow-Sway”")

    def test_the_base_applies_nothing(self) -> None:
        with self.assertRaises(NotImplementedError):
            CommandDoc().apply(shot_with())

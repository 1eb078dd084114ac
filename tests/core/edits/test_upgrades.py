import json
import unittest
from pathlib import Path

from tests.core.making import layer, shot_with
from zittern.core.edits.checking import IgnoreFinding
from zittern.core.edits.command import COMMANDS
from zittern.core.edits.dials import AddDial, SetDial
from zittern.core.edits.layers import AddHandheld
from zittern.core.edits.presets import CrossFadeTo
from zittern.core.edits.rig import UseRig
from zittern.core.edits.table import Command
from zittern.core.edits.upgrades import FIELDS, TYPES
from zittern.core.edits.upgrades import read_command as read_with
from zittern.core.errors import BadInput, DocumentError
from zittern.core.presets.files import read_preset
from zittern.core.shot.mounts import MOVE_FIELDS
from zittern.store.shipped import shipped_rigs

DATA = Path(__file__).parents[2] / "data"


def stored(**fields: object) -> str:
    return json.dumps(fields)


def read_command(text: str) -> Command:
    return read_with(text, shipped_rigs())


class OlderCommands(unittest.TestCase):
    def test_names_are_those_of_present_commands_and_fields(self) -> None:
        self.assertLessEqual(set(TYPES.values()) | set(FIELDS), set(COMMANDS))
        self.assertFalse(set(TYPES) & set(COMMANDS))
        for type_, names in FIELDS.items():
            self.assertLessEqual(set(names.values()), set(COMMANDS[type_].model_fields), type_)

    def test_mean_so(self) -> None:
        found = read_command(stored(type="mean_so", check="twins", at="layer:a", amount=0.5, meant=False))
        self.assertEqual(found, IgnoreFinding(check="twins", at="layer:a", amount=0.5, ignored=False))
        self.assertEqual(found.label(shot_with()), "Stop ignoring “twins”")

    def test_go_over_with_presets_of_every_version(self) -> None:
        for path in sorted(DATA.glob("preset-v*.preset.json")):
            with self.subTest(file=path.name):
                preset = json.loads(path.read_text())
                text = stored(type="go_over", preset=preset, key=None, clip="main", frame=80, within_frames=24)
                expected = CrossFadeTo(
                    preset=read_preset(path.read_text()), key=None, clip="main", frame=80, within_frames=24
                )
                self.assertEqual(read_command(text), expected)

    def test_springs_of_mounts(self) -> None:
        values = [{"at": "mount:arm.give.turn_hz", "value": 2.0}, {"at": "mount:arm.give", "value": {"turn_hz": 3.0}}]
        found = read_command(stored(type="set_values", values=values))
        self.assertEqual([each.at for each in found.values], ["mount:arm.springs.turn_hz", "mount:arm.springs"])
        arm = {"id": "arm", "name": "mount: give.", "give": {"turn_hz": 2.0}}
        path = {**dict.fromkeys(MOVE_FIELDS, 0.0), "last_frame": 9, "rig": [arm]}
        (mount,) = read_command(stored(type="add_move", move=path, name="Walk")).move.rig
        self.assertEqual((mount.name, mount.springs.turn_hz), ("mount: give.", 2.0))

    def test_rigs_by_name(self) -> None:
        for name, rig in shipped_rigs().items():
            self.assertEqual(read_command(stored(type="use_rig", rig=name)), UseRig(rig=rig))
        with self.assertRaisesRegex(BadInput, "rig"):
            read_command(stored(type="use_rig", rig="balloon"))

    def test_dials(self) -> None:
        self.assertEqual(
            read_command(stored(type="add_dial", name="panic", least=-1.0, most=3.0)),
            AddDial(name="panic", minimum=-1.0, maximum=3.0),
        )
        self.assertEqual(
            read_command(stored(type="set_dial", dial="panic", most=3.0)), SetDial(dial="panic", maximum=3.0)
        )

    def test_present_ones_are_unchanged(self) -> None:
        shot = shot_with(layer())
        command = AddHandheld()
        self.assertEqual(read_command(command.model_dump_json()), command)
        self.assertEqual(read_command(command.model_dump_json()).apply(shot), command.apply(shot))

    def test_refused(self) -> None:
        with self.assertRaises(DocumentError):
            read_command("{")
        for text in ("[]", "7", "{}", stored(type="fly away"), stored(type=["mean_so"])):
            with self.subTest(text=text), self.assertRaises(BadInput):
                read_command(text)

import json
import unittest
from pathlib import Path

from zittern.core.errors import DocumentError
from zittern.core.presets.files import STEPS, read_preset, write_preset
from zittern.core.presets.preset import PRESET_VERSION, Preset
from zittern.store.shipped import shipped_presets

ROOT = Path(__file__).parents[3]
GOOD = json.loads(write_preset(shipped_presets()["exhausted-breath"]))


def changed(**fields: object) -> str:
    return json.dumps(GOOD | fields)


# Of old files that hold another preset than the first.
NAMES = {5: "Blow and ground", 6: "Small boat", 7: "Exhausted breath"}


class Files(unittest.TestCase):
    def test_reading_what_was_written(self) -> None:
        for preset in shipped_presets().values():
            self.assertEqual(read_preset(write_preset(preset)), preset)

    def test_one_old_file_for_every_version_before(self) -> None:
        self.assertEqual(set(STEPS), set(range(1, PRESET_VERSION)))
        for version in STEPS:
            preset = read_preset((ROOT / f"tests/data/preset-v{version}.preset.json").read_bytes())
            name = NAMES.get(version, "Rumble in waves")
            self.assertEqual((preset.schema_version, preset.name), (PRESET_VERSION, name))
            limits = [(dial.name, dial.minimum, dial.maximum) for dial in preset.dials]
            self.assertEqual(limits, {6: [("sea", 0.0, 100.0)], 7: [("exhaustion", 0.0, 100.0)]}.get(version, []))
            self.assertEqual(
                [mount.springs.turn_hz for mount in preset.rig if mount.springs], [2.0] if version == 7 else []
            )

    def test_what_cannot_be_read_is_told_with_its_place(self) -> None:
        layer = GOOD["layers"][0]
        for text, pattern in (
            ("{", "this is not JSON"),
            ("[" * 100_000, "this is not JSON"),
            ("[]", "not a preset"),
            ((ROOT / "tests/data/shot-v4.shot.json").read_text(), "not a preset"),
            (changed(schema_version=PRESET_VERSION + 1), "schema_version: .* a newer Zittern"),
            (changed(schema_version=True), "schema_version"),
            (changed(schema_version=0), "schema_version"),
            (changed(layers=[layer | {"source": {"kind": "wobble"}}]), r"layers\[0\]\.source"),
            (
                changed(layers=[layer | {"weight": {"state": "formula", "text": "sine(t)"}}]),
                r"layers\[0\]\.weight.*did you mean `sin`",
            ),
            (
                changed(layers=[layer | {"weight": {"state": "formula", "text": "2 * panic"}}]),
                "“Breath” reads a missing dial: `panic`",
            ),
            (
                changed(amount={"state": "formula", "text": "alarm"}),
                "the preset.* reads a missing dial: `alarm`",
            ),
            (changed(layers=[layer, layer]), "two of the layers have the same id"),
            (changed(dials=GOOD["dials"] * 2), "two of the dials have the same name"),
            (
                changed(dials=[GOOD["dials"][0] | {"minimum": 100, "maximum": 100}]),
                r"dials\[0\].*the minimum of a dial must be below its maximum",
            ),
            (
                changed(dials=[GOOD["dials"][0] | {"name": "sin"}]),
                r"dials\[0\]\.name.*is a reserved name in formulas",
            ),
            (changed(name=""), "name"),
            (changed(name="x" * 500), "name"),
            (changed(tags=["t" * 25]), r"tags\[0\]"),
            (changed(layers=[]), "layers"),
        ):
            with self.subTest(pattern), self.assertRaisesRegex(DocumentError, pattern):
                read_preset(text)

    def test_html_is_a_name_like_any_other(self) -> None:
        self.assertEqual(read_preset(changed(name="<b onload=x>Panic</b>")).name, "<b onload=x>Panic</b>")

    def test_the_published_schema_is_up_to_date(self) -> None:
        published = json.loads((ROOT / "docs/preset.schema.json").read_text())
        published.pop("$schema")
        self.assertEqual(published, Preset.model_json_schema(), "run `make schema`")

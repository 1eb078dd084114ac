import json
import unittest

from tools.presets.rigs import RIGS
from tools.presets.shipped import BUILT
from zittern.store.shipped import FOLDER, INDEX, shipped_presets, shipped_rigs


class Files(unittest.TestCase):
    def test_they_are_what_the_code_makes(self) -> None:
        self.assertEqual(json.loads(INDEX.read_bytes()), list(BUILT), "run `make presets`")
        names = {"index.json", "rigs.json", *(f"{key}.preset.json" for key in BUILT)}
        self.assertEqual({path.name for path in FOLDER.iterdir()}, names)
        for key, preset in BUILT.items():
            self.assertEqual(shipped_presets()[key], preset, f"{key}: run `make presets`")
        self.assertEqual(tuple(shipped_rigs().values()), RIGS, "run `make presets`")

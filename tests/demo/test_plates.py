import json
import unittest

import numpy as np
from PIL import Image

from tools.demo.paintings import HEIGHT_PX, PAINTINGS, WIDTH_PX
from tools.demo.plates import FOLDER, INDEX
from tools.demo.shots import surge_plates
from zittern.core.checks.table import check
from zittern.core.plates.coverage import counting, in_order


class Paintings(unittest.TestCase):
    def test_the_shipped_files_are_what_is_painted(self) -> None:
        index = json.loads(INDEX.read_text())
        self.assertEqual(list(index), list(PAINTINGS))
        self.assertEqual(len(list(FOLDER.glob("*.webp"))), 2 * len(PAINTINGS))
        for name in ("Near swell", "Storm sky"):
            painted = PAINTINGS[name][0]().convert("RGBA")
            with Image.open(FOLDER / f"{index[name]['picture']}.webp") as shipped:
                self.assertEqual(shipped.size, (WIDTH_PX, HEIGHT_PX))
                both = [np.asarray(each.resize((160, 90)), dtype=float) for each in (painted, shipped.convert("RGBA"))]
            seen = [each[..., :3] * each[..., 3:] / 255.0 for each in both]
            self.assertLess(np.abs(seen[0] - seen[1]).mean(), 3.0, name)

    def test_one_bare_edge_by_design_and_its_fix(self) -> None:
        shot = surge_plates()
        self.assertEqual([plate.name for plate in in_order(shot)], list(PAINTINGS))
        self.assertEqual([plate.name for plate in counting(shot)], ["Storm sky"])
        weighty = [found for found in check(shot).findings if found.weight]
        self.assertEqual([found.check for found in weighty], ["coverage"])
        (found,) = weighty
        assert found.fix is not None
        self.assertEqual([each for each in check(found.fix.command.apply(shot)).findings if each.weight], [])

import re
import unittest
from pathlib import Path

import numpy as np

from tests.core.making import edited
from zittern.core.motion.evaluate import evaluate
from zittern.core.presets.shipped import SHIPPED
from zittern.core.shot.shot import new_shot
from zittern.core.swatches import scribble_of, swing_px

REFERENCE = Path(__file__).parents[3] / "docs/presets.md"


class Shipped(unittest.TestCase):
    def test_each_moves_the_picture_and_none_throws_it_about(self) -> None:
        self.assertEqual(len({preset.name for preset in SHIPPED}), 16)
        for preset in SHIPPED:
            with self.subTest(preset.name):
                self.assertTrue(2.0 < swing_px(preset) < 80.0, swing_px(preset))
                self.assertGreater(np.ptp(scribble_of(preset)), 0.05)
                self.assertTrue(preset.line and preset.tags)

    def test_the_reference_tells_what_is_measured(self) -> None:
        told = dict(re.findall(r"^\| (.+?) \| (\d+) px", REFERENCE.read_text(), re.MULTILINE))
        self.assertEqual(told, {preset.name: f"{swing_px(preset):.0f}" for preset in SHIPPED})

    def test_calm_ones_stay_within_what_a_hand_does(self) -> None:
        for preset in SHIPPED:
            shot = edited(new_shot("Test"), {"type": "place_preset", "preset": preset})
            total = evaluate(shot).total
            self.assertTrue(np.all(np.isfinite(total)), preset.name)
            self.assertLess(np.abs(total[:, :3]).max(), 5.0 if "wild" in preset.tags else 3.5, preset.name)

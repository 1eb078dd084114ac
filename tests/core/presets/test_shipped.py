import re
import unittest
from pathlib import Path

import numpy as np

from tests.core.making import edited
from zittern.core.motion.evaluate import evaluate
from zittern.core.presets.shipped import SHIPPED, SHIPPED_BY_KEY
from zittern.core.shot.shot import new_shot
from zittern.core.swatches import STAND_IN, rates_hz, swatch

REFERENCE = Path(__file__).parents[3] / "docs/presets.md"


class Shipped(unittest.TestCase):
    def test_each_moves_the_picture_and_none_throws_it_about(self) -> None:
        self.assertEqual((len(SHIPPED), len(SHIPPED_BY_KEY)), (20, 20))
        for preset in SHIPPED:
            with self.subTest(preset.name):
                self.assertTrue(2.0 < swatch(STAND_IN, preset).swing_px < 80.0)
                self.assertTrue(preset.line and preset.tags)

    def test_the_reference_tells_what_is_measured(self) -> None:
        told = {name: (px, rates) for name, px, rates in re.findall(r"^\| (.+?) \| (\d+) px \| (.+?) \|", REFERENCE.read_text(), re.MULTILINE)}
        for preset in SHIPPED:
            measured = f"{swatch(STAND_IN, preset).swing_px:.0f}", " · ".join(f"{rate:g}" for rate in rates_hz(preset))
            self.assertEqual(told.get(preset.name), measured, preset.name)

    def test_calm_ones_stay_within_what_a_hand_does(self) -> None:
        for preset in SHIPPED:
            shot = edited(new_shot("Test"), {"type": "place_preset", "preset": preset})
            total = evaluate(shot).total
            self.assertTrue(np.all(np.isfinite(total)), preset.name)
            self.assertLess(np.abs(total[:, :3]).max(), 5.0 if "wild" in preset.tags else 3.5, preset.name)

import re
import unittest
from pathlib import Path

import numpy as np

from tests.core.making import edited
from tests.core.presets.measuring import LENSES, measured
from tools.presets.shipped import key_of
from zittern.core.motion.evaluate import evaluate
from zittern.core.readings.swatches import STAND_IN, rates_hz, swatch
from zittern.core.shot.shot import new_shot
from zittern.store.shipped import shipped_presets

REFERENCE = Path(__file__).parents[3] / "docs/presets.md"
# What each is for: least share of the picture's motion between two rates, on any lens.
CLAIMS = {
    "shoulder-standing": (0.0, 0.5, 0.6), "stand-off-long-lens": (0.2, 1.4, 0.6), "careful-walk": (0.5, 2.0, 0.6),
    "brisk-walk": (0.7, 2.4, 0.7),
    "run": (1.0, 3.2, 0.7), "crouched-creep": (0.1, 1.0, 0.8), "smooth-road": (0.0, 2.0, 0.8),
    "washboard": (9.5, 11.5, 0.6), "small-boat": (0.0, 0.6, 0.7),
    "crowd-jostle": (0.2, 3.0, 0.7), "startled": (1.2, 4.0, 0.5), "exhausted-breath": (0.3, 1.2, 0.7),
    "hovering-machine": (0.1, 2.0, 0.8),
    "engine-hum": (9.5, 11.5, 0.7), "rumble-in-waves": (3.0, 9.0, 0.5), "close-tremor": (2.5, 7.0, 0.45),
    "thud": (2.5, 6.0, 0.5),
    "blow-against-the-camera": (1.8, 5.0, 0.3), "passing-shock": (0.6, 2.5, 0.5), "heavy-stomp": (2.0, 6.0, 0.6),
    "stand-to-walk-to-run": (0.5, 3.0, 0.7), "calm-to-alarmed": (0.0, 2.0, 0.6),
    "sound-road-to-washboard": (9.5, 11.5, 0.4),
}  # fmt: skip
# Fine tremors that hum under something larger are there when they take the picture this far, in pixels.
HUMS = {
    "stand-off-long-lens": (7.0, 12.0),
    "hovering-machine": (10.0, 12.0),
    "crouched-creep": (6.5, 9.5),
    "exhausted-breath": (7.0, 10.0),
}
LEAST_HUM_PX = 0.75


class Measured(unittest.TestCase):
    """In the picture, over twenty seeds, on three lenses."""

    def test_each_does_what_it_says(self) -> None:
        self.assertEqual(set(CLAIMS), set(shipped_presets()))
        for key, (low, high, least) in CLAIMS.items():
            for lens in LENSES:
                self.assertGreater(measured(key, lens).share(low, high), least, f"{key} at {lens:g} mm")
        for key, (low, high) in HUMS.items():
            for lens in LENSES:
                made = measured(key, lens)
                self.assertGreater(
                    made.typical_px * np.sqrt(made.share(low, high)), LEAST_HUM_PX, f"{key} at {lens:g} mm"
                )

    def test_none_vanishes_or_bursts_by_its_seed_or_lens(self) -> None:
        for key in shipped_presets():
            usual = measured(key, 35.0).typical_px
            for lens in LENSES:
                made = measured(key, lens)
                self.assertGreater(made.typicals_px.min(), 0.45 * made.typical_px, f"{key} at {lens:g} mm")
                self.assertLess(made.typicals_px.max(), 2.0 * made.typical_px, f"{key} at {lens:g} mm")
                self.assertTrue(0.5 * usual < made.typical_px < 2.6 * usual, f"{key} at {lens:g} mm")

    def test_calm_ones_move_the_picture_less_than_wild_ones(self) -> None:
        def peaks(tag: str) -> list[float]:
            return [
                float(np.median(measured(key_of(preset.name), 35.0).peaks_px))
                for preset in shipped_presets().values()
                if tag in preset.tags
            ]

        self.assertLess(max(peaks("calm")), 0.8 * min(peaks("wild")))
        self.assertLess(max(peaks("fine")), min(peaks("calm")))

    def test_the_reference_tells_what_is_measured(self) -> None:
        told = {
            name: (px, rates)
            for name, px, rates in re.findall(r"^\| (.+?) \| (\d+) px \| (.+?) \|", REFERENCE.read_text(), re.MULTILINE)
        }
        for key, preset in shipped_presets().items():
            wanted = f"{measured(key, 35.0).typical_px:.0f}", " · ".join(f"{rate:g}" for rate in rates_hz(preset))
            self.assertEqual(told.get(preset.name), wanted, preset.name)


class Shipped(unittest.TestCase):
    def test_each_moves_the_picture_and_none_throws_it_about(self) -> None:
        self.assertEqual(len(shipped_presets()), 23)
        for preset in shipped_presets().values():
            with self.subTest(preset.name):
                self.assertTrue(1.0 < swatch(STAND_IN, preset).typical_px < 40.0)
                self.assertTrue(preset.line and preset.tags)

    def test_a_dial_takes_a_blend_from_its_first_corner_to_its_last(self) -> None:
        """Halfway lies between both in size; at the ends only one corner is heard."""
        for preset in shipped_presets().values():
            if preset.blend is None:
                continue
            (dial,) = preset.dials
            with self.subTest(preset.name):
                placed = edited(STAND_IN, {"type": "place_preset", "preset": preset})
                sizes, heard = [], []
                for value in (0.0, 50.0, 100.0):
                    at = {"at": f"dial:{dial.name}.value", "value": value}
                    motion = evaluate(edited(placed, {"type": "set_values", "values": [at]}))
                    corners = {
                        layer.corner for _, layer in placed.layers() if np.abs(motion.layers[layer.id]).max() > 1e-3
                    }
                    heard.append(corners)
                    sizes.append(float(np.sqrt(np.mean(motion.total[:, 1] ** 2))))
                ids = [corner.id for corner in preset.blend.corners]
                self.assertEqual((heard[0], heard[2]), ({ids[0]}, {ids[-1]}))
                self.assertTrue(sizes[0] < sizes[1] < sizes[2] or preset.name == "Sound road to washboard", sizes)

    def test_calm_ones_stay_within_what_a_hand_does(self) -> None:
        for preset in shipped_presets().values():
            shot = edited(new_shot("Test"), {"type": "place_preset", "preset": preset})
            total = evaluate(shot).total
            self.assertTrue(np.all(np.isfinite(total)), preset.name)
            self.assertLess(np.abs(total[:, :3]).max(), 5.0 if "wild" in preset.tags else 3.5, preset.name)

import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import margins_px, picture_offsets_px
from zittern.core.optics.lens import focal_px
from zittern.core.shot.mounts import Mount
from zittern.core.sources.hand_keys import HandKeys, Tracks

AWAY_M = 6.0


def margin(**tracks: float) -> float:
    """What a fixed offset needs beyond the edges, px."""
    shot = shot_with(layer("keys", source=HandKeys(tracks=Tracks(**tracks)), swings={}), mounts=MOUNTS)
    return float(margins_px(shot, evaluate(shot, np.array([5.0])), AWAY_M)[0])


MOUNTS = (Mount(id="camera", name="Camera", x_m=2.0, y_m=1.5, pan_deg=40.0, tilt_deg=-15.0),)
F_PX = float(focal_px(35.0, 36.0, 1920))


class Margins(unittest.TestCase):
    def test_closed_forms_of_each_axis_alone(self) -> None:
        self.assertAlmostEqual(margin(), 0.0, places=6)
        self.assertAlmostEqual(margin(truck=10.0), F_PX * 0.1 / AWAY_M, places=6)
        self.assertAlmostEqual(margin(pedestal=-4.0), F_PX * 0.04 / AWAY_M, places=6)
        self.assertEqual(margin(dolly=30.0), 0.0)
        self.assertAlmostEqual(margin(dolly=-30.0), 960 * 0.3 / AWAY_M, places=6)
        self.assertAlmostEqual(margin(zoom=-10.0), 960 / 0.9 - 960, places=6)
        self.assertAlmostEqual(margin(shift_x=2.0), 0.02 * 1920, places=6)
        self.assertAlmostEqual(margin(shift_y=-3.0), 0.03 * 1080, places=6)
        half, turned = np.arctan(960 / F_PX), np.radians(2.0)
        self.assertAlmostEqual(
            margin(pan=2.0), max(F_PX * np.tan(half + turned) - 960, 540 / F_PX * self._tall(turned) - 540), places=6
        )
        roll = np.radians(3.0)
        self.assertAlmostEqual(margin(roll=3.0), 960 * np.sin(roll) + 540 * np.cos(roll) - 540, places=6)

    def _tall(self, turned: float) -> float:
        """Height of the picture's corner above the middle of the plane after a pan, in pixels."""
        half = np.arctan(960 / F_PX)
        return float(F_PX * np.cos(half) / np.cos(half + turned))

    def test_a_lens_that_looks_past_the_picture_needs_no_end_of_it(self) -> None:
        self.assertEqual(margin(pan=89.0), np.inf)


class Shifted(unittest.TestCase):
    def test_a_percent_of_the_width_to_the_right_and_of_the_height_up_whatever_the_lens(self) -> None:
        for focal in (15.0, 85.0):
            keys = HandKeys(tracks=Tracks(shift_x=1.0, shift_y=2.0))
            shot = shot_with(layer("keys", source=keys, swings={}), mounts=MOUNTS, focal_mm=focal)
            offsets = picture_offsets_px(shot, evaluate(shot, np.array([5.0])), AWAY_M)
            np.testing.assert_allclose(offsets, [[19.2, -21.6]], atol=1e-9)

import unittest

import numpy as np

from tests.core.making import layer, moved_px, shot_with
from zittern.core.axes import AXES
from zittern.core.errors import NotFound
from zittern.core.motion.evaluate import evaluate
from zittern.core.readings.spectrum import bands_px
from zittern.core.sources.wave import Wave

SHOT = shot_with(
    layer("slow", source=Wave(rate_hz=0.5), swings={"pan": 0.5}),
    layer("fast", source=Wave(rate_hz=4.0), swings={"tilt": 0.2}),
)


class Bands(unittest.TestCase):
    def test_a_wave_stands_in_its_band_with_its_swing(self) -> None:
        rate, own, total = bands_px(SHOT, [evaluate(SHOT)], "fast")
        at = int(np.argmax(own))
        self.assertLess(abs(np.log2(rate[at] / 4.0)), 1 / 6 + 1e-9)
        self.assertAlmostEqual(own[at] / moved_px("tilt", 0.2, 35, 4.0), 1.0, places=2)
        slow = int(np.argmin(np.abs(np.log2(rate / 0.5))))
        self.assertLess(own[slow], 0.01 * total[slow])

    def test_squares_of_the_bands_add_to_the_square_of_the_swing(self) -> None:
        shot = shot_with(layer())
        motion = evaluate(shot)
        _, own, total = bands_px(shot, [motion], "sway")
        np.testing.assert_array_equal(own, total)
        per_unit = np.array([moved_px(axis, 1e-4, 35, 4.0) / 1e-4 for axis in AXES])
        moved = (motion.total - motion.total.mean(axis=0)) * per_unit
        self.assertAlmostEqual(np.sum(total**2) / (4 * np.sum(moved**2) / len(moved)), 1.0, places=9)

    def test_muted_layers_have_one_too_and_others_are_not_there(self) -> None:
        shot = shot_with(layer(mute=True))
        _, own, total = bands_px(shot, [evaluate(shot)], "sway")
        self.assertGreater(own.max(), 0)
        self.assertEqual(total.max(), 0)
        with self.assertRaises(NotFound):
            bands_px(shot, [evaluate(shot)], "gone")

    def test_one_frame(self) -> None:
        shot = shot_with(layer(), last_frame=1)
        self.assertEqual(bands_px(shot, [evaluate(shot)], "sway")[1].max(), 0)

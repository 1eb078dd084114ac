import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.checks.finding import Finding
from zittern.core.checks.table import check, named
from zittern.core.numbers.param import fixed
from zittern.core.optics.lens import focal_px
from zittern.core.shot.shot import Shot
from zittern.core.sources.wave import Wave


def trembling(swing_deg: float, rate_hz: float = 2.0, focal_mm: float = 35.0) -> Shot:
    wave = Wave(rate_hz=fixed(rate_hz))
    return shot_with(layer("hum", wave, swings={"pan": swing_deg}), last_frame=480, focal_mm=fixed(focal_mm))


def found(shot: Shot) -> list[Finding]:
    return list(check(shot, named(["smooth"])).findings)


class InThePicture(unittest.TestCase):
    def test_what_is_left_is_told_in_pixels_of_the_lens(self) -> None:
        for focal_mm in (18.0, 35.0, 85.0):
            f_px = float(focal_px(np.array([focal_mm]), 36.0, 1920)[0])
            for px in (0.05, 0.15):  # typical; a swing is twice that
                (one,) = found(trembling(float(np.degrees(2.0 * px / f_px)), focal_mm=focal_mm))
                self.assertAlmostEqual(one.amount, px, delta=0.1 * px)
            self.assertEqual(found(trembling(float(np.degrees(0.6 / f_px)), focal_mm=focal_mm)), [])

    def test_what_is_slow_is_no_life(self) -> None:
        self.assertEqual(len(found(trembling(5.0, rate_hz=0.1))), 1)

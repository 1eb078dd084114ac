import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.movie.lean import lean_px, with_strips
from zittern.core.movie.settings import MovieSettings
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.wave import Wave

READOUT_MS, SWING_DEG, RATE_HZ = 20.0, 4.0, 3.0


def shaken() -> Shot:
    return shot_with(layer("wave", Wave(rate_hz=fixed(RATE_HZ)), 4, {"pan": SWING_DEG}), last_frame=96)


def panned(degrees: float) -> Shot:
    camera = Mount(id="camera", name="Camera", pan_deg=keyed((1, 0.0), (25, degrees), interp="linear"))
    return shot_with(mounts=(camera,), last_frame=25)


class Lean(unittest.TestCase):
    def test_a_shake_and_a_pan_lean_by_their_speed_times_the_readout(self) -> None:
        f_px = 35.0 / 36.0 * 1920.0
        rms_rad = np.radians(SWING_DEG) / 2.0
        fastest = np.sqrt(2.0) * rms_rad * 2.0 * np.pi * RATE_HZ * f_px * READOUT_MS / 1000.0
        self.assertAlmostEqual(lean_px(shaken(), READOUT_MS, 1, 96, Cache()), fastest, delta=0.03 * fastest)
        pan = np.radians(10.0) * f_px * READOUT_MS / 1000.0
        self.assertAlmostEqual(lean_px(panned(10.0), READOUT_MS, 3, 22, Cache()), pan, delta=0.03 * pan)


class Strips(unittest.TestCase):
    def strips(self, shot: Shot, **fields: object) -> int | None:
        settings = MovieSettings(width_px=1920, height_px=1080, readout_ms=READOUT_MS, **fields)  # type: ignore[arg-type]
        return with_strips(settings, [shot], shot.first_frame, shot.last_frame, Cache()).strips

    def test_there_are_as_many_as_the_picture_moves_pixels(self) -> None:
        for degrees in (2.0, 10.0, 40.0):
            lean = lean_px(panned(degrees), READOUT_MS, 1, 25, Cache())
            self.assertEqual(self.strips(panned(degrees)), int(np.ceil(lean)))
        self.assertEqual(self.strips(panned(0.0)), 1)
        self.assertEqual(self.strips(panned(900.0)), 128)
        self.assertEqual(self.strips(panned(10.0), strips=5), 5)


if __name__ == "__main__":
    unittest.main()

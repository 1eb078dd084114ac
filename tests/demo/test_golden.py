"""The demo shots move as they did before evaluation was cut into stages: baked then, to nine decimals."""

import unittest
from pathlib import Path

import numpy as np

from tests.demo.swaying import SLUG, jetty_walk_swaying
from zittern.core.motion.evaluate import evaluate
from zittern.core.timebase import frame_grid
from zittern.demo.shots import SHOTS

GOLDEN = Path(__file__).parents[1] / "data/golden"
# The files have nine decimals.
ROUNDING = 1e-9


class Bakes(unittest.TestCase):
    def test_every_pose_is_where_it_was(self) -> None:
        files = sorted(GOLDEN.glob("*.csv"))
        self.assertEqual(len(files), 3)
        for file in files:
            rows = np.genfromtxt(file, delimiter=",", names=True)
            shot = (SHOTS | {SLUG: jetty_walk_swaying})[file.stem]()
            motion = evaluate(shot, frame_grid(shot.first_frame, shot.last_frame, 7.5))
            columns = [*motion.pose.position_m.T, *motion.pose.angles_deg.T, motion.pose.focal_mm]
            for name, values in zip(("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg", "focal_mm"), columns, strict=True):
                np.testing.assert_allclose(values, rows[name], atol=ROUNDING, err_msg=f"{file.stem} {name}")

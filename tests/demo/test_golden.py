"""Stored shots move as they did when they were baked, to nine decimals: read as documents, so that later commands
and seeds do not count.
"""

import unittest
from pathlib import Path

import numpy as np

from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.upgrades import read_shot

GOLDEN = Path(__file__).parents[1] / "data/golden"
# The files have nine decimals.
ROUNDING = 1e-9


class Bakes(unittest.TestCase):
    def test_every_pose_is_where_it_was(self) -> None:
        files = sorted(GOLDEN.glob("*.csv"))
        self.assertEqual(len(files), 11)
        for file in files:
            rows = np.genfromtxt(file, delimiter=",", names=True)
            shot = read_shot(file.with_suffix(".shot.json").read_text())
            motion = evaluate(shot, rows["frame"])
            columns = [*motion.pose.position_m.T, *motion.pose.angles_deg.T, motion.pose.focal_mm]
            for name, values in zip(
                ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg", "focal_mm"), columns, strict=True
            ):
                np.testing.assert_allclose(values, rows[name], atol=ROUNDING, err_msg=f"{file.stem} {name}")

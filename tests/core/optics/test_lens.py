import unittest

import numpy as np

from zittern.core.optics import lens


class FieldOfView(unittest.TestCase):
    def test_known_lens(self) -> None:
        # 36 x 20.25 mm behind 35 mm: 2 atan(20.25 / 70)
        self.assertAlmostEqual(float(lens.vfov_deg(np.array([35.0]), 36.0, 1920, 1080)[0]), 32.269, places=3)

    def test_inverse(self) -> None:
        for focal in (8.0, 35.0, 400.0):
            angle = float(lens.vfov_deg(np.array([focal]), 24.0, 2048, 858)[0])
            self.assertAlmostEqual(lens.focal_for_vfov_mm(angle, 24.0, 2048, 858), focal, places=9)

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


class Pixels(unittest.TestCase):
    def test_pan_by_the_half_field_moves_the_edge_to_the_centre(self) -> None:
        half_deg = float(np.degrees(np.arctan(18.0 / 35.0)))
        self.assertAlmostEqual(lens.swing_px("pan", half_deg, 35.0, 36.0, (1920, 1080), 4.0), 960.0, places=6)

    def test_truck_by_what_the_picture_holds_at_that_distance(self) -> None:
        wide_m = 36.0 / 35.0 * 4.0
        self.assertAlmostEqual(lens.swing_px("truck", wide_m * 100, 35.0, 36.0, (1920, 1080), 4.0), 1920.0, places=6)

    def test_a_zoom_by_a_tenth_moves_the_edge_by_a_tenth_of_half_the_width(self) -> None:
        for zoom in (10.0, -10.0):
            self.assertAlmostEqual(lens.swing_px("zoom", zoom, 35.0, 36.0, (1920, 1080), 4.0), 96.0, places=9)

    def test_far_subjects_move_less(self) -> None:
        near, far = (lens.swing_px("pedestal", 1.0, 35.0, 36.0, (1920, 1080), d) for d in (2.0, 20.0))
        self.assertAlmostEqual(near / far, 10.0, places=9)

    def test_all_axes_grow_with_the_swing(self) -> None:
        for axis in ("pan", "tilt", "roll", "truck", "pedestal", "dolly", "zoom", "shift_x", "shift_y"):
            small, large = (lens.swing_px(axis, s, 35.0, 36.0, (1920, 1080), 4.0) for s in (0.5, 1.0))
            self.assertGreater(large, small, axis)
            self.assertEqual(lens.swing_px(axis, 0.0, 35.0, 36.0, (1920, 1080), 4.0), 0.0, axis)

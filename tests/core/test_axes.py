import unittest
from dataclasses import replace
from typing import get_args

import numpy as np

from tests.core.making import layer, moved_px, shot_with
from zittern.core.axes import AXES, AXIS_INFO, DIRECTIONS, Axis, PictureScale, axis_info, no_offsets, px_per_unit
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import picture_offsets_px
from zittern.core.shot.layers import AxisBoard
from zittern.core.sources.hand_keys import HandKeys, Tracks
from zittern.core.sources.take import Recording
from zittern.core.sources.wave import Phases

F_PX = 35.0 / 36.0 * 1920.0
AT = PictureScale(F_PX, 1920, 1080, 4.0)


class Table(unittest.TestCase):
    def test_the_order_of_the_names_is_that_of_the_columns(self) -> None:
        self.assertEqual(tuple(info.name for info in AXIS_INFO), get_args(Axis))
        self.assertEqual(no_offsets(np.arange(3.0)).shape, (3, len(AXES)))

    def test_documents_have_one_field_per_axis(self) -> None:
        for document in (AxisBoard, Recording, Tracks, Phases):
            self.assertEqual([name for name in document.model_fields if name in AXES], list(AXES), document)

    def test_columns_of_recordings(self) -> None:
        self.assertEqual(
            [info.column for info in AXIS_INFO],
            ["pan_deg", "tilt_deg", "roll_deg", "truck_cm", "pedestal_cm", "dolly_cm", "zoom_percent",
             "shift_x_percent", "shift_y_percent", "focus_percent"],
        )  # fmt: skip


class Pixels(unittest.TestCase):
    def test_pan_by_the_half_field_moves_the_edge_to_the_centre(self) -> None:
        half_deg = float(np.degrees(np.arctan(18.0 / 35.0)))
        self.assertAlmostEqual(axis_info("pan").swing_px(half_deg, AT), 960.0, places=6)

    def test_truck_by_what_the_picture_holds_at_that_distance(self) -> None:
        self.assertAlmostEqual(axis_info("truck").swing_px(36.0 / 35.0 * 400.0, AT), 1920.0, places=6)

    def test_a_zoom_by_a_tenth_moves_the_edge_by_a_tenth_of_half_the_width(self) -> None:
        for zoom in (10.0, -10.0):
            self.assertAlmostEqual(axis_info("zoom").swing_px(zoom, AT), 96.0, places=9)

    def test_far_subjects_move_less(self) -> None:
        near, far = (axis_info("pedestal").swing_px(1.0, PictureScale(F_PX, 1920, 1080, d)) for d in (2.0, 20.0))
        self.assertAlmostEqual(near / far, 10.0, places=9)

    def test_every_axis_as_a_plain_second_implementation(self) -> None:
        for info in AXIS_INFO:
            for swing in (0.0, 0.5, 1.0, -7.0):
                expected = moved_px(info.name, swing, 35.0, 4.0)
                self.assertAlmostEqual(info.swing_px(swing, AT), expected, places=9, msg=info.name)
                if info.scale(AT):
                    self.assertAlmostEqual(info.swing_of_px(expected, AT), abs(swing), places=9, msg=info.name)

    def test_small_offsets_move_the_picture_in_proportion(self) -> None:
        expected = [moved_px(axis, 1e-4, 35.0, 4.0) / 1e-4 for axis in AXES]
        np.testing.assert_allclose(px_per_unit(AT), expected, rtol=1e-9)
        over_time = px_per_unit(PictureScale(np.array([F_PX, 2.0 * F_PX]), 1920, 1080, np.array([4.0, 8.0])))
        np.testing.assert_allclose(over_time[0], px_per_unit(AT))
        np.testing.assert_allclose(over_time[1], px_per_unit(PictureScale(2.0 * F_PX, 1920, 1080, 8.0)))

    def test_focus_shows_as_far_as_the_lens_breathes(self) -> None:
        breathing = replace(AT, breathing=0.01)
        self.assertAlmostEqual(axis_info("focus").swing_px(5.0, breathing), 960.0 * 0.01 * 0.05)
        self.assertAlmostEqual(axis_info("focus").swing_of_px(0.48, breathing), 5.0)
        self.assertEqual(axis_info("focus").swing_px(5.0, AT), 0.0)

    def test_the_center_of_the_picture_moves_as_the_table_says(self) -> None:
        for info, direction in zip(AXIS_INFO, DIRECTIONS, strict=True):
            keys = HandKeys(tracks=Tracks(**{info.name: 0.5}))
            shot = shot_with(layer("keys", source=keys, swings={}))
            moved = picture_offsets_px(shot, evaluate(shot, np.array([5.0])), 4.0)[0]
            np.testing.assert_allclose(moved, direction * moved_px(info.name, 0.5, 35.0, 4.0), atol=1e-9)

import unittest

import numpy as np

from zittern.core.numbers.envelope import ramp, shape_of

X = np.linspace(0.0, 1.0, 101)
SHOT = (1.0, 100.0)


class Shapes(unittest.TestCase):
    def test_all_rise_from_nothing_to_all(self) -> None:
        for shape in ("linear", "smooth", "equal-power"):
            values = shape_of(shape, np.concatenate([[-1.0], X, [2.0]]))
            self.assertEqual((values[0], values[-1]), (0.0, 1.0), shape)
            self.assertTrue(np.all(np.diff(values) >= 0), shape)

    def test_equal_power_keeps_the_energy_of_two_unrelated_motions(self) -> None:
        total = shape_of("equal-power", X) ** 2 + shape_of("equal-power", 1 - X) ** 2
        np.testing.assert_allclose(total, 1.0, atol=1e-12)

    def test_linear_loses_29_percent_in_the_middle(self) -> None:
        middle = np.array([0.5])
        left = np.sqrt(shape_of("linear", middle) ** 2 + shape_of("linear", 1 - middle) ** 2)
        self.assertAlmostEqual(float(left[0]), 0.707, places=3)


class Spans(unittest.TestCase):
    def test_nothing_outside_a_span(self) -> None:
        frames = np.array([9.9, 10.0, 15.0, 20.0, 20.9, 21.0])
        np.testing.assert_array_equal(ramp(frames, (10, 20), 0, 0, "linear", SHOT), [0, 1, 1, 1, 1, 0])
        np.testing.assert_array_equal(ramp(frames, (10, 10), 0, 0, "linear", SHOT), [0, 1, 0, 0, 0, 0])

    def test_spans_of_neighbouring_frames_meet_without_a_hole_or_an_overlap(self) -> None:
        frames = np.linspace(5.0, 40.0, 1401)
        both = ramp(frames, (10, 20), 0, 0, "linear", SHOT) + ramp(frames, (21, 30), 0, 0, "linear", SHOT)
        np.testing.assert_array_equal(both, (frames >= 10) & (frames < 31))

    def test_what_begins_and_ends_with_the_shot_is_not_cut_off_by_it(self) -> None:
        outside = np.array([-30.0, 0.5, 1.0, 100.9, 101.0, 150.0])
        np.testing.assert_array_equal(ramp(outside, (1, 50), 0, 0, "linear", SHOT), [1, 1, 1, 0, 0, 0])
        np.testing.assert_array_equal(ramp(outside, (50, 100), 0, 0, "linear", SHOT), [0, 0, 0, 1, 1, 1])
        np.testing.assert_array_equal(ramp(outside, (1, 100), 4, 4, "linear", SHOT), [0, 0, 0, 0, 0, 0])

    def test_a_ramp_out_ends_at_the_last_frame_and_holds_over_it(self) -> None:
        np.testing.assert_allclose(
            ramp(np.array([18.0, 19.0, 20.0, 20.5]), (10, 20), 0, 2, "linear", SHOT), [1.0, 0.5, 0.0, 0.0]
        )

    def test_ramps_lie_inside_the_span(self) -> None:
        frames = np.array([10.0, 12.0, 14.0, 18.0, 19.0, 20.0])
        np.testing.assert_allclose(ramp(frames, (10, 20), 4, 2, "linear", SHOT), [0, 0.5, 1, 1, 0.5, 0], atol=1e-12)

    def test_no_span_means_the_shot_and_beyond_it(self) -> None:
        np.testing.assert_array_equal(ramp(np.array([-5.0, 50.0, 150.0]), None, 0, 0, "linear", SHOT), [1, 1, 1])
        self.assertEqual(ramp(np.array([1.0]), None, 10, 0, "linear", SHOT)[0], 0.0)

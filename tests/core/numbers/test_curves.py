import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from zittern.core.numbers.curves import Curve, Key

FINE = np.linspace(-20.0, 60.0, 1601)
POINTS = ((0.0, 1.0), (10.0, 4.0), (25.0, -2.0), (30.0, -2.0), (40.0, 3.0))


def curve(interp: str = "smooth", points: tuple[tuple[float, float], ...] = POINTS, **fields: object) -> Curve:
    return Curve.of(points, interp).replace(**fields)  # type: ignore[arg-type]


class Values(unittest.TestCase):
    def test_every_kind_goes_through_its_keys(self) -> None:
        frames = np.array([f for f, _ in POINTS])
        for interp in ("hold", "linear", "smooth", "free"):
            with self.subTest(interp):
                np.testing.assert_allclose(curve(interp).sample(frames), [v for _, v in POINTS], atol=1e-12)

    def test_free_with_the_handles_that_are_told_it_goes_the_same_way(self) -> None:
        for ends in ("hold", "continue"):
            for interp in ("linear", "smooth", "free"):
                with self.subTest(interp=interp, ends=ends):
                    before = curve(interp, before=ends, after=ends)
                    told = [before.handles(i) for i in range(len(POINTS))]
                    keys = [
                        key.replace(interp="free", handle_in=into, handle_out=out)
                        for key, (into, out) in zip(before.keys, told, strict=True)
                    ]
                    inside = np.linspace(0.0, 40.0, 801)
                    np.testing.assert_allclose(
                        before.replace(keys=tuple(keys)).sample(inside), before.sample(inside), atol=1e-9
                    )
                    self.assertEqual((told[0][0], told[-1][1]), (None, None))

    def test_linear_and_hold_against_naive_versions(self) -> None:
        def naive(frame: float, hold: bool) -> float:
            for (f0, v0), (f1, v1) in zip(POINTS[:-1], POINTS[1:], strict=True):
                if f0 <= frame < f1:
                    return v0 if hold else v0 + (v1 - v0) * (frame - f0) / (f1 - f0)
            return POINTS[0][1] if frame < 0 else POINTS[-1][1]

        for interp in ("hold", "linear"):
            expected = [naive(f, interp == "hold") for f in FINE]
            np.testing.assert_allclose(curve(interp).sample(FINE), expected, atol=1e-12)

    @given(st.lists(st.floats(-100, 100), min_size=2, max_size=8))
    def test_smooth_never_overshoots(self, values: list[float]) -> None:
        points = tuple((10.0 * i, v) for i, v in enumerate(values))
        smooth = curve(points=points)
        for (f0, v0), (f1, v1) in zip(points[:-1], points[1:], strict=True):
            between = smooth.sample(np.linspace(f0, f1, 41))
            self.assertLessEqual(between.max(), max(v0, v1) + 1e-9)
            self.assertGreaterEqual(between.min(), min(v0, v1) - 1e-9)

    def test_smooth_leaves_and_reaches_held_ends_without_a_kink(self) -> None:
        ends = np.array([-1e-4, 0.0, 1e-4, 40.0 - 1e-4, 40.0, 40.0 + 1e-4])
        slopes = np.diff(curve().sample(ends)) / np.diff(ends)
        np.testing.assert_allclose(slopes[[0, 1, 3, 4]], 0.0, atol=1e-3)

    def test_free_handles_match_a_bezier_walked_by_its_parameter(self) -> None:
        keys = (Key(frame=0, value=0, interp="free", handle_out=(4, 5)), Key(frame=12, value=2, handle_in=(-6, -3)))
        s = np.linspace(0, 1, 101)
        x = 3 * (1 - s) ** 2 * s * 4 + 3 * (1 - s) * s**2 * 6 + s**3 * 12
        y = 3 * (1 - s) ** 2 * s * 5 + 3 * (1 - s) * s**2 * -1 + s**3 * 2
        np.testing.assert_allclose(Curve(keys=keys).sample(x), y, atol=1e-9)

    def test_free_without_handles_is_smooth(self) -> None:
        np.testing.assert_allclose(curve("free").sample(FINE), curve("smooth").sample(FINE), atol=1e-9)

    def test_a_handle_longer_than_its_segment_keeps_its_slope(self) -> None:
        for handles in ({"handle_out": (30.0, 6.0)}, {"handle_out": (10.0, 2.0)}):
            keys = (Key(frame=0, value=0, interp="free", **handles), Key(frame=10, value=5, handle_in=(-2, 0)))
            near = Curve(keys=keys).sample(np.array([0.0, 1e-4]))
            self.assertAlmostEqual((near[1] - near[0]) / 1e-4, 0.2, places=3)
        keys = (Key(frame=0, value=0, interp="free", handle_out=(2, 0)), Key(frame=10, value=5, handle_in=(-40.0, 8.0)))
        near = Curve(keys=keys).sample(np.array([10.0 - 1e-4, 10.0]))
        self.assertAlmostEqual((near[1] - near[0]) / 1e-4, -0.2, places=3)

    def test_jumps_are_told(self) -> None:
        keys = (
            Key(frame=0, value=0, interp="hold"),
            Key(frame=10, value=2, interp="linear"),
            Key(frame=20, value=2, interp="hold"),
            Key(frame=30, value=2),
        )
        np.testing.assert_allclose(Curve(keys=keys).jumps((-100.0, 100.0))[:, 1], [10.0])
        steep = curve("linear", ((0.0, 0.0), (10.0, 1.0), (10.001, 5.0), (20.0, 6.0)))
        np.testing.assert_allclose(steep.jumps((0.0, 99.0)), [[10.0, 10.001]])
        saw = curve("linear", ((0.0, 0.0), (10.0, 1.0)), after="repeat")
        np.testing.assert_allclose(saw.jumps((0.0, 35.0))[:, 1], [10.0, 20.0, 30.0, 40.0], atol=1e-5)

    def test_handles_that_cross_stay_a_function_of_time(self) -> None:
        keys = (Key(frame=0, value=0, interp="free", handle_out=(500, 1)), Key(frame=10, value=1, handle_in=(-500, -1)))
        values = Curve(keys=keys).sample(np.linspace(0, 10, 201))
        self.assertTrue(np.all(np.diff(values) >= -1e-9))

    def test_sub_range_equals_the_same_rows(self) -> None:
        for interp in ("hold", "linear", "smooth", "free"):
            whole = curve(interp, after="repeat", before="continue").sample(FINE)
            np.testing.assert_array_equal(
                curve(interp, after="repeat", before="continue").sample(FINE[300:500]), whole[300:500]
            )


class OutsideTheKeys(unittest.TestCase):
    def test_hold(self) -> None:
        np.testing.assert_array_equal(curve().sample(np.array([-5.0, 99.0])), [1.0, 3.0])

    def test_continue_goes_straight_on(self) -> None:
        line = curve("linear", before="continue", after="continue")
        np.testing.assert_allclose(line.sample(np.array([-10.0, 50.0])), [1.0 - 3.0, 3.0 + 5.0], atol=1e-12)
        smooth = curve("smooth", after="continue")
        steps = np.diff(smooth.sample(np.array([39.999, 40.0, 40.001, 45.0, 46.0])))
        self.assertAlmostEqual(steps[0] * 1000, steps[3], places=2)

    def test_the_first_and_the_last_stretch_say_how_it_goes_on(self) -> None:
        ends = (Key(frame=0, value=0.0, interp="linear"), Key(frame=10, value=5.0, interp="smooth"))
        more = (Key(frame=20, value=5.0, interp="linear"), Key(frame=30, value=-5.0, interp="hold"))
        both = Curve(keys=(*ends, *more), before="continue", after="continue")
        np.testing.assert_allclose(both.sample(np.array([-10.0, 40.0])), [-5.0, -15.0], atol=1e-12)

    def test_repeat_wraps_with_the_period(self) -> None:
        ring = curve("linear", before="repeat", after="repeat")
        inside = np.array([3.0, 17.0, 33.0])
        np.testing.assert_allclose(ring.sample(inside + 40), ring.sample(inside), atol=1e-12)
        np.testing.assert_allclose(ring.sample(inside - 80), ring.sample(inside), atol=1e-12)

    def test_repeating_closed_curve_has_one_slope_at_its_seam(self) -> None:
        ring = curve("smooth", ((0, 0.0), (10, 5.0), (30, -5.0), (40, 0.0)), before="repeat", after="repeat")
        h = 1e-5
        before, after = np.diff(ring.sample(np.array([40 - h, 40.0, 40 + h])))
        self.assertAlmostEqual(before / h, after / h, places=3)

    def test_three_keys_that_meet_are_a_ring_already(self) -> None:
        ring = curve("smooth", ((0, 0.0), (10, 5.0), (30, 0.0)), before="repeat", after="repeat")
        h = 1e-5
        before, after = np.diff(ring.sample(np.array([30 - h, 30.0, 30 + h])))
        self.assertAlmostEqual(before / h, after / h, places=3)


class Refusals(unittest.TestCase):
    def test_keys_out_of_order_or_at_one_frame(self) -> None:
        for frames in ((1, 1), (5, 3), (0, 5e-324)):
            with self.assertRaisesRegex(ValidationError, r"keys\[1\] is at frame"):
                Curve.of((f, 0.0) for f in frames)

    def test_numbers_that_are_none(self) -> None:
        for value in (float("nan"), float("inf")):
            with self.assertRaises(ValidationError):
                Key(frame=1, value=value)
        with self.assertRaises(ValidationError):
            Curve(keys=())

    def test_one_key_is_constant(self) -> None:
        np.testing.assert_array_equal(Curve.of([(5, 2.5)]).sample(FINE), np.full(FINE.shape, 2.5))

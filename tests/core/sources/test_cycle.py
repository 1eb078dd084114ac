import unittest

import numpy as np
from pydantic import ValidationError

from tests.core.making import contribution, layer, rms, shot_with
from zittern.core.sources.cycle import Cycle

FINE = 1.0 + np.linspace(0.0, 240.0, 24_001)[:-1]


class Cycles(unittest.TestCase):
    SHOT = shot_with(layer(source=Cycle(rate_hz=1.0)))

    def test_repeats_exactly_with_one_slope_at_the_seam(self) -> None:
        values = contribution(self.SHOT, frames=FINE)
        np.testing.assert_allclose(values[2400:], values[:-2400], atol=1e-9)
        slope = np.diff(values[:, 0])
        self.assertLess(np.abs(np.diff(slope)).max(), 0.2 * np.abs(slope).max())

    def test_swing_is_twice_the_rms_and_there_is_no_mean(self) -> None:
        values = contribution(self.SHOT, frames=FINE)
        np.testing.assert_allclose(2 * rms(values)[:2], [0.5, 0.4], rtol=1e-3)
        np.testing.assert_allclose(values.mean(axis=0), 0, atol=1e-3)

    def test_goes_through_what_was_drawn(self) -> None:
        cycle = Cycle(rate_hz=1.0, points=((0, 0.0), (25, 1.0), (50, 0.0), (75, -1.0)))
        values = contribution(
            shot_with(layer(source=cycle, swings={"pan": 1.0})), frames=1.0 + 24 * np.array([0, 0.25, 0.5, 0.75])
        )[:, 0]
        np.testing.assert_allclose(values / values[1], [0, 1, 0, -1], atol=1e-9)

    def test_points_in_order_that_move(self) -> None:
        for points, pattern in (
            (((50, 0), (20, 1)), "rising order"),
            (((0, 1), (50, 1)), "no motion"),
            (((0, 1),), "at least 2"),
            (((0, 1), (100, 1)), "less than 100"),
        ):
            with self.assertRaisesRegex(ValidationError, pattern):
                Cycle(points=points)  # type: ignore[arg-type]

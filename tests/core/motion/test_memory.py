import unittest

import numpy as np

from tests.core.making import shot_with
from zittern.core.motion.memory import NEAR_LEAD_S, STEP_S, Grid, at_frames, coarsened, filled, grid_of, lead_s
from zittern.core.timebase import Fps


def grid(lead_s: float = 2.0, fastest_hz: float = 0.0, **fields: object) -> Grid:
    return grid_of(shot_with(**fields), lead_s, fastest_hz)


class Grid(unittest.TestCase):
    def test_it_begins_before_the_shot_and_ends_after_it_whatever_is_asked_for(self) -> None:
        frames = grid(first_frame=11, last_frame=100).near
        self.assertAlmostEqual(frames[0], 11 - 2.0 * 24)
        self.assertGreaterEqual(frames[-1], 100)
        self.assertIn(11.0, frames)

    def test_its_steps_are_of_time(self) -> None:
        for fps in (Fps(num=24), Fps(num=60), Fps(num=24000, den=1001)):
            np.testing.assert_allclose(np.diff(grid(fps=fps).near) / fps.value, STEP_S, atol=1e-12)


class Length(unittest.TestCase):
    def test_a_very_long_shot_is_stepped_through_more_coarsely(self) -> None:
        self.assertEqual(grid(4.0, last_frame=50_000).step_s, STEP_S)
        long = grid(4.0, last_frame=1_000_000)
        self.assertGreater(long.step_s, STEP_S)
        self.assertLess(len(long.near), 350_000)
        self.assertIs(coarsened(long), long.near)

    def test_a_few_frames_that_last_very_long_are_not_stepped_through_finely(self) -> None:
        slow = grid(4.0, fps=Fps(num=1, den=1000), last_frame=6)
        self.assertLess(len(slow.near), 21_000)

    def test_a_long_lead_is_coarse_and_leaves_the_shots_own_steps_as_they_are(self) -> None:
        short, long = grid(4.0, last_frame=240), grid(200.0, last_frame=240)
        np.testing.assert_array_equal(short.near, long.near)
        self.assertEqual((len(short.far), long.far[-1]), (0, long.near[0]))
        self.assertGreaterEqual(long.near[0] - long.far[0], (200.0 - NEAR_LEAD_S) * 24)
        self.assertLess(len(long.far), 8_000)
        self.assertTrue(np.all(np.diff(long.all) > 0))
        self.assertLessEqual(grid(1e6, last_frame=240).near[0] - grid(1e6, last_frame=240).far[0], 256.0 * 24)

    def test_what_swings_fast_has_finer_steps(self) -> None:
        self.assertEqual(
            [grid(4.0, hz).step_s for hz in (2.0, 6.0, 12.0, 24.0)], [STEP_S, STEP_S, STEP_S / 2, STEP_S / 4]
        )

    def test_what_swings_long_begins_earlier_and_overdamped_by_its_slow_pole(self) -> None:
        leads = [lead_s(hz, damping) for hz, damping in ((5.0, 0.5), (0.5, 0.3), (0.05, 0.02))]
        self.assertEqual(leads, sorted(leads))
        self.assertAlmostEqual(lead_s(1.0, 5.0) * 2 * np.pi * (5.0 - np.sqrt(24.0)), 7.0)

    def test_a_grid_is_filled_part_by_part(self) -> None:
        seen: list[int] = []

        def make(frames: np.ndarray) -> np.ndarray:
            seen.append(len(frames))
            return frames[:, None] * [1.0, 2.0]

        whole = np.arange(100_000.0)
        np.testing.assert_array_equal(filled(whole, 2, make), whole[:, None] * [1.0, 2.0])
        self.assertGreater(len(seen), 1)


class Between(unittest.TestCase):
    def test_on_the_grid_it_is_the_grid_and_between_it_is_smooth(self) -> None:
        frames = np.linspace(0.0, 10.0, 401)
        values = np.stack([np.sin(frames), frames**2], axis=1)
        np.testing.assert_allclose(at_frames(frames, values, frames[2:-3]), values[2:-3], atol=1e-12)
        asked = np.linspace(1.0, 9.0, 777)
        np.testing.assert_allclose(
            at_frames(frames, values, asked), np.stack([np.sin(asked), asked**2], axis=1), atol=1e-6
        )

    def test_outside_it_is_held(self) -> None:
        frames, values = np.linspace(0.0, 10.0, 41), np.linspace(3.0, 7.0, 41)[:, None]
        np.testing.assert_allclose(at_frames(frames, values, np.array([-50.0, 60.0]))[:, 0], [3.0, 7.0], atol=1e-9)

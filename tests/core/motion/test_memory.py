import unittest

import numpy as np

from tests.core.making import shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.memory import STEP_S, at_frames, grid_frames
from zittern.core.motion.run import Run
from zittern.core.timebase import Fps


def grid(**fields: object) -> np.ndarray:
    return grid_frames(Run(shot_with(**fields), np.array([50.0]), Cache()), lead_s=2.0)  # type: ignore[arg-type]


class Grid(unittest.TestCase):
    def test_it_begins_before_the_shot_and_ends_after_it_whatever_is_asked_for(self) -> None:
        frames = grid(first_frame=11, last_frame=100)
        self.assertAlmostEqual(frames[0], 11 - 2.0 * 24)
        self.assertGreaterEqual(frames[-1], 100)
        self.assertIn(11.0, frames)

    def test_its_steps_are_of_time(self) -> None:
        for fps in (Fps(num=24), Fps(num=60), Fps(num=24000, den=1001)):
            np.testing.assert_allclose(np.diff(grid(fps=fps)) / fps.value, STEP_S, atol=1e-12)


class Between(unittest.TestCase):
    def test_on_the_grid_it_is_the_grid_and_between_it_is_smooth(self) -> None:
        frames = np.linspace(0.0, 10.0, 401)
        values = np.stack([np.sin(frames), frames**2], axis=1)
        np.testing.assert_allclose(at_frames(frames, values, frames[2:-3]), values[2:-3], atol=1e-12)
        asked = np.linspace(1.0, 9.0, 777)
        np.testing.assert_allclose(at_frames(frames, values, asked), np.stack([np.sin(asked), asked**2], axis=1), atol=1e-6)

    def test_outside_it_is_held(self) -> None:
        frames, values = np.linspace(0.0, 10.0, 41), np.linspace(3.0, 7.0, 41)[:, None]
        np.testing.assert_allclose(at_frames(frames, values, np.array([-50.0, 60.0]))[:, 0], [3.0, 7.0], atol=1e-9)

import unittest

import numpy as np

from tests.core.making import shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.follow import follow_m, followed
from zittern.core.motion.memory import STEP_S
from zittern.core.motion.run import Run
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount
from zittern.core.timebase import Fps

MOVE = (Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (60, 0.0), (90, 2.0), (240, 2.0)), z_m=keyed((1, 0.0), (240, -9.0))),)
SHOT = shot_with(mounts=MOVE)
TIMES = np.arange(0.0, 8.0, STEP_S)


def run(frames: np.ndarray, shot=SHOT) -> Run:  # type: ignore[no-untyped-def]
    return Run(shot, frames, Cache())


class ClosedForms(unittest.TestCase):
    def test_no_lag_at_constant_speed(self) -> None:
        got = followed(3.0 * TIMES[:, None], 1.5, 0.6)
        np.testing.assert_allclose(got[-100:, 0], 3.0 * TIMES[-100:], atol=1e-9)

    def test_a_lag_of_a_over_w_squared_under_acceleration(self) -> None:
        got = followed(0.5 * 2.0 * TIMES[:, None] ** 2, 1.5, 0.6)
        lag = TIMES[-50:] ** 2 - got[-50:, 0]
        np.testing.assert_allclose(lag, 2.0 / (2 * np.pi * 1.5) ** 2, rtol=1e-3)

    def test_a_step_rings_and_settles(self) -> None:
        step = np.where(TIMES < 1.0, 0.0, 1.0)[:, None]
        got = followed(step, 1.0, 0.2)[:, 0]
        self.assertLess(abs(got[0]), 1e-12)
        self.assertGreater(got.max(), 1.4)
        self.assertAlmostEqual(got[-1], 1.0, places=3)

    def test_what_rests_stays(self) -> None:
        np.testing.assert_allclose(followed(np.full((500, 2), 7.0), 0.4, 0.9), 7.0, atol=1e-9)


class InAShot(unittest.TestCase):
    def test_a_part_equals_the_same_rows_of_the_whole(self) -> None:
        whole = follow_m(run(np.arange(1.0, 241.0)), 1.2, 0.5)
        for first, last in ((1, 3), (80, 120), (239, 240)):
            np.testing.assert_allclose(follow_m(run(np.arange(first, last + 1.0)), 1.2, 0.5), whole[first - 1 : last], atol=1e-12)
        np.testing.assert_allclose(follow_m(run(np.array([100.0])), 1.2, 0.5)[0], whole[99], atol=1e-12)

    def test_it_has_settled_at_the_first_frame(self) -> None:
        still = shot_with(mounts=(Mount(id="camera", name="Camera", x_m=keyed((1, 5.0), (240, 5.0))),))
        np.testing.assert_allclose(follow_m(run(np.arange(1.0, 10.0), still), 0.3, 0.3)[:, 0], 5.0, atol=1e-6)

    def test_it_does_not_depend_on_the_frame_rate(self) -> None:
        twice = tuple(m.replace(x_m=keyed((1, 0.0), (119, 0.0), (179, 2.0), (479, 2.0)), z_m=keyed((1, 0.0), (479, -9.0))) for m in MOVE)
        fast = shot_with(mounts=twice, fps=Fps(num=48), last_frame=479)
        got = follow_m(run(np.arange(1.0, 480.0, 2.0), fast), 1.2, 0.5)
        np.testing.assert_allclose(got, follow_m(run(np.arange(1.0, 241.0)), 1.2, 0.5), atol=1e-4)

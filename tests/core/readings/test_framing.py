import unittest

import numpy as np

from tests.core.making import shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.readings.framing import framed, misses_px, report
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.shot import Shot, Subject

KITE = Subject(name="Kite", x_m=keyed((1, -2.5), (80, 2.5), (160, -2.5), (240, -2.5)), y_m=fixed(1.6), z_m=fixed(-6.0))


def shot(operator: Operator | None, **fields: object) -> Shot:
    return shot_with(
        mounts=(Mount(id="head", name="Head", y_m=fixed(1.6), operator=operator),),
        last_frame=240,
        **{"subject": KITE, **fields},
    )


class Misses(unittest.TestCase):
    def test_pixels_right_and_up_of_the_place_and_whether_it_is_in_the_picture(self) -> None:
        post = Subject.at("Post", (0.6, 1.9, -6.0))
        misses = misses_px(shot(None, subject=post, focal_mm=36.0), evaluate(shot(None, subject=post, focal_mm=36.0)))
        np.testing.assert_allclose(misses[0], [0.1 * 1920, 0.05 * 1920, 1.0], atol=1e-9)
        third = HoldFraming(across_percent=fixed(60.0), weight=fixed(0.0))
        self.assertAlmostEqual(
            misses_px(
                shot(None, subject=post, focal_mm=36.0, hold=third), evaluate(shot(None, subject=post, focal_mm=36.0))
            )[0, 0],
            0.0,
        )

    def test_behind_the_camera_it_is_not_in_the_picture_and_no_number_is_without_end(self) -> None:
        post = Subject.at("Post", (0.0, 1.6, 4.0))
        misses = misses_px(shot(None, subject=post), evaluate(shot(None, subject=post)))
        self.assertTrue(np.all(np.isfinite(misses)) and np.all(misses[:, 2] == 0.0))
        self.assertEqual(report(shot(None, subject=post), evaluate(shot(None, subject=post))).outside, ((1.0, 240.0),))  # type: ignore[union-attr]


class Reports(unittest.TestCase):
    def test_the_lag_of_each_turn_is_that_of_the_operator(self) -> None:
        operator = Operator(reaction_s=0.25, pan_hz=1.2, pan_damping=0.8, pan_slack_percent=0.0)
        told = report(shot(operator), evaluate(shot(operator)))
        assert told is not None and told.lag_frames is not None
        self.assertEqual(told.reaction_frames, 6.0)
        self.assertAlmostEqual(told.lag_frames, 24 * (0.25 + 0.8 / (np.pi * 1.2)))
        [turn] = [each for each in told.turns if 40 < each.frame < 120]
        self.assertAlmostEqual(turn.frame, 80.0, delta=0.6)
        self.assertAlmostEqual(turn.lag_frames or 0.0, told.lag_frames, delta=2.0)
        self.assertGreater(told.largest_px, told.rms_px)

    def test_turns_within_the_slack_do_not_count(self) -> None:
        idle = Operator(pan_slack_percent=45.0)
        told = report(shot(idle), evaluate(shot(idle)))
        assert told is not None
        self.assertEqual(told.turns, ())

    def test_who_minds(self) -> None:
        self.assertFalse(framed(shot(None)))
        self.assertTrue(framed(shot(Operator())) and framed(shot(None, hold=HoldFraming())))
        self.assertIsNone(report(shot(Operator(), subject=None), evaluate(shot(Operator(), subject=None))))

import unittest

import numpy as np

from tests.core.making import command, edited, shot_with
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.readings.framing import report
from zittern.core.rig import rotations
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.shot import Shot, Subject


def followed(**fields: object) -> Shot:
    """A subject that goes by at a steady angle a frame, an operator without slack."""
    operator = Operator(pan_slack_percent=0.0, tilt_slack_percent=0.0, **fields)  # type: ignore[arg-type]
    going = keyed((1, -40.0), (481, 40.0), interp="linear")
    return shot_with(
        mounts=(Mount(id="camera", name="Camera", operator=operator),),
        subject=Subject(name="Post", x_m=going, z_m=-200.0),
        last_frame=480,
    )


def lag(shot: Shot) -> float:
    """Frames that the picture is late by, measured in the middle of the way."""
    frames = np.array([240.0, 241.0])
    turned = evaluate(shot, np.arange(1.0, 481.0)).locals_["camera"]
    pan = rotations.continuous(turned[:, :3, :3])[:, 0]
    x = shot.subject.x_m.sample(shot.scope(frames))  # type: ignore[union-attr]
    wanted = np.degrees(np.arctan2(-x, 200.0))
    return float((wanted[0] - pan[239]) / (wanted[1] - wanted[0]))


class Lag(unittest.TestCase):
    def test_the_picture_is_late_by_what_was_asked_for(self) -> None:
        for fields in ({}, {"anticipation_s": 0.2}, {"reaction_s": 0.0, "pan_damping": 1.2}):
            for frames in (2.0, 6.0, 14.0):
                with self.subTest(fields=fields, frames=frames):
                    shot = edited(followed(**fields), {"type": "set_lag", "mount": "camera", "lag_frames": frames})
                    self.assertAlmostEqual(lag(shot), frames, delta=0.25)
                    self.assertAlmostEqual(report(shot, evaluate(shot)).lag_frames, frames, places=9)

    def test_the_person_stays_the_same(self) -> None:
        before = followed(anticipation_s=0.1).mounts[0].operator
        after = (
            edited(followed(anticipation_s=0.1), {"type": "set_lag", "mount": "camera", "lag_frames": 12})
            .mounts[0]
            .operator
        )
        self.assertAlmostEqual(after.reaction_s * after.pan_hz, before.reaction_s * before.pan_hz)
        self.assertAlmostEqual(after.tilt_hz / after.pan_hz, before.tilt_hz / before.pan_hz)
        self.assertEqual((after.anticipation_s, after.pan_damping), (0.1, before.pan_damping))

    def test_what_cannot_be_had_says_what_can(self) -> None:
        shot = followed(anticipation_s=0.25)
        self.assertEqual(report(shot, evaluate(shot)).least_lag_frames, -6.0)
        for frames in (-6.0, -7.0, 900.0):
            with self.assertRaisesRegex(EditError, "above -6 frames"):
                edited(shot, {"type": "set_lag", "mount": "camera", "lag_frames": frames})
        with self.assertRaisesRegex(EditError, "no operator aims"):
            edited(
                shot_with(mounts=(Mount(id="camera", name="Camera"),)),
                {"type": "set_lag", "mount": "camera", "lag_frames": 3},
            )
        self.assertEqual(
            command(type="set_lag", mount="camera", lag_frames=6).label(shot), "Set lag of the operator to 6 frames"
        )


class Outside(unittest.TestCase):
    def test_the_subject_may_be_led_out_of_the_picture(self) -> None:
        shot = followed(across_percent=keyed((1, 50.0), (240, 130.0)), reaction_s=0.0, pan_hz=8.0)
        told = report(shot, evaluate(shot))
        self.assertEqual(len(told.outside), 1)
        first, last = told.outside[0]
        self.assertTrue(100 < first < 200 and last == 480.0, told.outside)
        with self.assertRaises(ValueError):
            Operator(across_percent=150.5)

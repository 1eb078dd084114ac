import unittest

import numpy as np

from tests.core.making import contribution, edited, layer, shot_with
from zittern.core.errors import DocumentError, EditError
from zittern.core.motion.steps import step_marks
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot
from zittern.core.sources.gait import Gait
from zittern.core.sources.stepping import MOST_LATER, StepEdit


def walk(**fields: object) -> Shot:
    source = Gait.model_validate({"uneven": 0.0, "cadence_hz": 2.0, "surface": "hard", **fields})
    return shot_with(layer("steps", source, swings={"pedestal": 2.0, "roll": 2.0}), last_frame=240)


class Marks(unittest.TestCase):
    def test_steps_fall_at_the_cadence(self) -> None:
        marks = step_marks(walk())["steps"]
        self.assertEqual([mark.number for mark in marks], list(range(1, 20)))
        np.testing.assert_allclose([mark.frame for mark in marks], 1 + 12.0 * np.arange(1, 20), atol=1e-6)

    def test_nobody_steps_who_stands(self) -> None:
        path = (Mount(id="camera", name="Camera", z_m=keyed((1, 0.0), (120, -7.0), interp="linear")),)
        shot = walk(follows="the path").replace(mounts=path)
        frames = [mark.frame for mark in step_marks(shot)["steps"]]
        self.assertGreater(len(frames), 6)
        self.assertLess(max(frames), 122)

    def test_other_sources_have_none(self) -> None:
        self.assertEqual(step_marks(shot_with(layer())), {})


class Moving(unittest.TestCase):
    def test_a_step_comes_where_it_was_put_and_its_knock_with_it(self) -> None:
        before, after = walk(), edited(walk(), {"type": "move_step", "layer": "steps", "number": 8, "to_frame": 99.0})
        marks = {mark.number: mark for mark in step_marks(after)["steps"]}
        self.assertAlmostEqual(marks[8].frame, 99.0, places=4)
        self.assertTrue(marks[8].moved and not marks[7].moved)
        fine = np.arange(80.0, 115.0, 0.05)
        knocked = np.abs(np.diff(contribution(after, "steps", fine)[:, 4], 2))
        self.assertAlmostEqual(
            fine[1:-1][np.argmax(np.where(np.abs(fine[1:-1] - 98) < 3, knocked, 0.0))], 99.0, delta=0.15
        )
        far = contribution(before, "steps")[:60], contribution(after, "steps")[:60]
        np.testing.assert_allclose(far[0], far[1], atol=1e-12)

    def test_no_further_than_so_far_and_still_in_order(self) -> None:
        after = edited(walk(), {"type": "move_step", "layer": "steps", "number": 8, "to_frame": 200.0})
        self.assertAlmostEqual(next(iter(after.layers()))[1].source.steps[0].later, MOST_LATER)  # type: ignore[attr-defined]
        frames = [mark.frame for mark in step_marks(after)["steps"]]
        self.assertEqual(frames, sorted(frames))

    def test_left_out_and_taken_in_again(self) -> None:
        out = edited(walk(), {"type": "mute_steps", "layer": "steps", "numbers": [8, 9]})
        fine = np.arange(95.0, 99.5, 0.1)
        self.assertLess(
            np.ptp(contribution(out, "steps", fine)[:, 4]), 0.3 * np.ptp(contribution(walk(), "steps", fine)[:, 4])
        )
        self.assertEqual([mark.number for mark in step_marks(out)["steps"] if mark.mute], [8, 9])
        again = edited(out, {"type": "mute_steps", "layer": "steps", "numbers": [8, 9], "mute": False})
        self.assertEqual(again, walk())
        self.assertEqual(edited(out, {"type": "free_steps", "layer": "steps"}), walk())

    def test_what_is_refused(self) -> None:
        with self.assertRaisesRegex(EditError, "only a gait has steps"):
            edited(shot_with(layer()), {"type": "move_step", "layer": "sway", "number": 1, "to_frame": 5})
        with self.assertRaisesRegex((DocumentError, ValueError), "in rising order"):
            Gait(steps=(StepEdit(number=3), StepEdit(number=2)))

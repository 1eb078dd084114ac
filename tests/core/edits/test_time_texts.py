import unittest

import numpy as np

from tests.core.making import edited, shot_with
from zittern.core.edits.time_texts import all_at_once, edits_of
from zittern.core.errors import BadInput, EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount

SHOT = shot_with(
    mounts=(Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (100, 7.0), (240, -3.0))),), last_frame=240
)


class Reading(unittest.TestCase):
    def test_each_kind(self) -> None:
        for option, text, label in (
            ("--insert", "24@96", "Insert 24 frames at frame 96"),
            ("--take-out", "96-119", "Take out frames 96 to 119"),
            ("--stretch", "96-119=48", "Stretch frames 96 to 119 to 48 frames"),
            ("--stretch", "96-119=12", "Squeeze frames 96 to 119 to 12 frames"),
            ("--shift", "-12@96", "Shift everything from frame 96 on by -12 frames"),
        ):
            (edit,) = edits_of(option, [text], runs="keep")
            self.assertEqual((edit.label(SHOT), edit.runs), (label, "keep"))

    def test_what_is_none_says_how_it_is_written(self) -> None:
        for option, text in (
            ("--insert", "24"), ("--insert", "x@1"), ("--insert", "-3@5"), ("--insert", "0@5"), ("--insert", "1e9@5"),
            ("--insert", "9" * 40 + "@5"), ("--take-out", "96"), ("--stretch", "1-2"), ("--stretch", "1-2=0"),
            ("--shift", "@"),
        ):  # fmt: skip
            with self.subTest(text=text), self.assertRaises(BadInput):
                edits_of(option, [text])


class Together(unittest.TestCase):
    def test_all_count_in_the_frames_of_the_shot_as_it_was(self) -> None:
        edits = [*edits_of("--take-out", ["200-209"]), *edits_of("--insert", ["24@96", "6@20"])]
        got = all_at_once(SHOT, edits)
        one_by_one = edited(
            SHOT,
            {"type": "insert_time", "frame": 20, "frames": 6},
            {"type": "insert_time", "frame": 102, "frames": 24},
            {"type": "take_out_time", "first_frame": 230, "last_frame": 239},
        )
        self.assertEqual(got.last_frame, one_by_one.last_frame)
        np.testing.assert_allclose(evaluate(got).bare.position_m, evaluate(one_by_one).bare.position_m, atol=1e-9)

    def test_those_that_overlap_are_refused(self) -> None:
        with self.assertRaisesRegex(BadInput, "same frames"):
            all_at_once(SHOT, [*edits_of("--take-out", ["90-110"]), *edits_of("--insert", ["5@100"])])
        with self.assertRaisesRegex(EditError, "goes from frame"):
            all_at_once(SHOT, edits_of("--insert", ["5@900"]))


if __name__ == "__main__":
    unittest.main()

import unittest

import numpy as np

from tests.core.making import edited, shot_with
from zittern.core.edits.time_texts import all_at_once, inserts, shifts, stretches, take_outs
from zittern.core.errors import BadInput, EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import keyed
from zittern.core.shot.mounts import Mount

SHOT = shot_with(
    mounts=(Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (100, 7.0), (240, -3.0))),), last_frame=240
)


class Reading(unittest.TestCase):
    def test_each_kind(self) -> None:
        self.assertEqual(inserts(["24@96"], "on")[0].label(SHOT), "Insert 24 frames at frame 96")
        self.assertEqual(take_outs(["96-119"], "on")[0].label(SHOT), "Take out frames 96 to 119")
        self.assertEqual(stretches(["96-119=48"], "keep")[0].label(SHOT), "Stretch frames 96 to 119 to 48 frames")
        self.assertEqual(shifts(["-12@96"], "on")[0].label(SHOT), "Shift everything from frame 96 on by -12 frames")

    def test_what_is_none_says_how_it_is_written(self) -> None:
        for read, text in (
            (inserts, "24"), (inserts, "x@1"), (inserts, "-3@5"), (inserts, "0@5"), (inserts, "1e9@5"),
            (inserts, "9" * 40 + "@5"), (take_outs, "96"), (stretches, "1-2"), (stretches, "1-2=0"), (shifts, "@"),
        ):  # fmt: skip
            with self.subTest(text=text), self.assertRaises(BadInput):
                read([text], "on")


class Together(unittest.TestCase):
    def test_all_count_in_the_frames_of_the_shot_as_it_was(self) -> None:
        edits = [*take_outs(["200-209"], "on"), *inserts(["24@96", "6@20"], "on")]
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
            all_at_once(SHOT, [*take_outs(["90-110"], "on"), *inserts(["5@100"], "on")])
        with self.assertRaisesRegex(EditError, "goes from frame"):
            all_at_once(SHOT, inserts(["5@900"], "on"))


if __name__ == "__main__":
    unittest.main()

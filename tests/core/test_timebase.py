import unittest

import numpy as np
from pydantic import ValidationError

from zittern.core.errors import BadInput
from zittern.core.timebase import Fps, frame_grid, frames_in, last_frame_covering


class FpsReading(unittest.TestCase):
    def test_forms_of_the_same_rate(self) -> None:
        film = Fps(num=24000, den=1001)
        for form in ("24000/1001", 23.976, "23.976", {"num": 24000, "den": 1001}):
            self.assertEqual(Fps.model_validate(form), film, form)
        self.assertEqual(Fps.model_validate(25), Fps(num=25))
        self.assertEqual(Fps.model_validate(12.5), Fps(num=25, den=2))

    def test_shorthands_of_video_rates(self) -> None:
        for short, num in (
            (23.976, 24000),
            (23.98, 24000),
            (29.97, 30000),
            (47.952, 48000),
            (59.94, 60000),
            (119.88, 120000),
        ):
            self.assertEqual(Fps.model_validate(short), Fps(num=num, den=1001))

    def test_what_is_no_rate(self) -> None:
        for wrong in (
            0,
            -24,
            "0",
            "-1",
            "24/0",
            "0/1",
            "fast",
            "",
            float("nan"),
            float("inf"),
            "1/2/3",
            1e9,
            True,
            None,
        ):
            with self.subTest(wrong), self.assertRaises(ValidationError):
                Fps.model_validate(wrong)

    def test_text_reads_back(self) -> None:
        for fps in (Fps(num=24), Fps(num=30000, den=1001)):
            self.assertEqual(Fps.model_validate(str(fps)), fps)


class Time(unittest.TestCase):
    def test_seconds_start_at_the_first_frame(self) -> None:
        seconds = Fps(num=24000, den=1001).seconds(np.array([1001.0, 1002.0, 25001.0]), 1001)
        np.testing.assert_array_equal(seconds, [0.0, 1001 / 24000, 1001.0])

    def test_grid_reaches_the_last_frame_and_not_beyond(self) -> None:
        np.testing.assert_array_equal(frame_grid(1, 3), [1, 2, 3])
        np.testing.assert_allclose(frame_grid(1, 2, 0.1)[-1], 2.0, atol=1e-12)
        np.testing.assert_array_equal(frame_grid(1, 4, 2.0), [1, 3])

    def test_last_frame_is_at_or_after_the_last_key(self) -> None:
        fps = Fps(num=24)
        self.assertEqual([frames_in(seconds, fps) for seconds in (1e-9, 0.5, 10.02, 10.03)], [1, 12, 240, 241])
        self.assertEqual(last_frame_covering(0.0, fps), 1)
        self.assertEqual(last_frame_covering(1.0, fps), 25)
        self.assertEqual(last_frame_covering(1.001, fps), 26)
        self.assertEqual(last_frame_covering(float(np.float32(1 / 24)), fps), 2)


class Steps(unittest.TestCase):
    def test_steps_that_would_never_end(self) -> None:
        self.assertEqual(len(frame_grid(1, 1_000_000, 0.25)), 3_999_997)
        for step in (1e-6 / 60, 1e-320, 0.0, -1.0, float("nan")):
            with self.assertRaisesRegex(BadInput, "over 240 frames: up to 4000000 samples"):
                frame_grid(1, 240, step)

    def test_rates_of_very_many_digits(self) -> None:
        for rate in (10**4000, "9" * 4000, "1e4000", f"1/{'9' * 4000}"):
            with self.assertRaises(ValueError):
                Fps.model_validate(rate)

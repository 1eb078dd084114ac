import unittest

import numpy as np

from tests.core.making import over
from zittern.core.edits.moves import ReplaceMove
from zittern.core.errors import DocumentError, FormatError
from zittern.core.shot.shot import new_shot
from zittern.core.timebase import Fps
from zittern.formats.paths import PathSamples, keys_of, move_of, sample_plan

FPS = Fps(num=24)


class Plan(unittest.TestCase):
    def test_whole_frames_and_the_keys_between_them(self) -> None:
        frames, times, last = sample_plan(np.array([0.0, 0.1, 0.25]), np.empty(0), FPS)
        self.assertEqual(last, 7)
        np.testing.assert_allclose(frames, [1, 2, 3, 3.4, 4, 5, 6, 7])
        np.testing.assert_allclose(times, (frames - 1) / 24)

    def test_a_key_on_a_frame_but_for_float32_samples_at_its_own_time(self) -> None:
        key = float(np.float32(1 / 24))
        frames, times, _ = sample_plan(np.array([0.0, key, 1.0]), np.empty(0), FPS)
        self.assertEqual(frames[1], 2.0)
        self.assertEqual(times[1], key)

    def test_jumps_are_sampled_just_before_too(self) -> None:
        frames, times, _ = sample_plan(np.array([0.0, 0.5, 1.0]), np.array([0.5]), FPS)
        at = int(np.searchsorted(frames, 13.0))
        self.assertAlmostEqual(frames[at - 1], 13.0 - 0.002)
        self.assertLess(times[at - 1], 0.5)

    def test_no_keys_is_one_frame_and_too_many_are_refused(self) -> None:
        self.assertEqual(sample_plan(np.empty(0), np.empty(0), FPS)[2], 1)
        with self.assertRaisesRegex(FormatError, "up to 200000"):
            sample_plan(np.array([1e7]), np.empty(0), FPS)


class Keys(unittest.TestCase):
    def test_straight_stretches_need_no_keys_between(self) -> None:
        frames = np.arange(1.0, 101.0)
        bent = np.where(frames < 40, frames * 0.1, 4.0 - (frames - 40) * 0.3)
        curve = keys_of(frames, bent).curve  # type: ignore[union-attr]
        self.assertLessEqual(len(curve.keys), 4)
        np.testing.assert_allclose(curve.sample(frames), bent, atol=1e-9)

    def test_constant_is_fixed(self) -> None:
        self.assertEqual(keys_of(np.arange(5.0), np.full(5, 2.5)).constant, 2.5)

    def test_any_samples_come_back(self) -> None:
        rng = np.random.default_rng(3)
        frames, values = np.arange(1.0, 60.0), rng.normal(size=59)
        np.testing.assert_allclose(keys_of(frames, values).sample(over(frames)), values, atol=1e-12)

    def test_a_value_no_shot_can_have_names_its_place(self) -> None:
        move = move_of(PathSamples(np.array([1.0]), np.array([[1e9, 0, 0]]), np.zeros((1, 3)), None, 1))
        with self.assertRaisesRegex(DocumentError, "expected -1000000 to") as caught:
            ReplaceMove(move=move, name="far.glb").apply(new_shot("A"))
        self.assertEqual(caught.exception.where, "x_m")

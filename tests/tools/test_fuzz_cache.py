import random
import unittest
from unittest.mock import patch

from tools.fuzz_cache import edited, made, run
from zittern.core.motion.evaluation import Evaluation
from zittern.core.shot.shot import Shot


class Short(unittest.TestCase):
    def test_the_same_seed_makes_the_same_shots_and_edits(self) -> None:
        def some() -> list[Shot]:
            rng = random.Random("7")
            shots = [made(rng)]
            for _ in range(12):
                shots.append(edited(shots[-1], rng))
            return shots

        self.assertEqual(some(), some())
        self.assertGreater(len({shot.fingerprint for shot in some()}), 9)

    def test_a_key_that_lacks_frame_rate_and_range_is_found_out(self) -> None:
        begun = Evaluation.__post_init__

        def without(run: Evaluation) -> None:
            begun(run)
            run._shared = ()

        with patch.object(Evaluation, "__post_init__", without):
            self.assertTrue(any(True for seed in range(5, 15) for _ in run(shots=4, edits=12, seed=seed)))

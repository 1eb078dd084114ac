import threading
import unittest

import numpy as np

from zittern.core.motion.cache import Cache


class Keeping(unittest.TestCase):
    def test_an_array_is_made_once_and_cannot_be_written(self) -> None:
        cache, made = Cache(), []
        first = cache.get(("a",), lambda: made.append(1) or np.ones(3))  # type: ignore[func-returns-value]
        self.assertIs(cache.get(("a",), lambda: np.zeros(3)), first)
        self.assertEqual(len(made), 1)
        with self.assertRaises(ValueError):
            first[0] = 2.0

    def test_the_oldest_go_and_what_is_too_large_is_not_kept(self) -> None:
        cache = Cache(most_bytes=1000)
        for i in range(10):
            cache.get((i,), lambda: np.zeros(5))
        self.assertEqual(cache.bytes, 120)
        huge = cache.get(("huge",), lambda: np.zeros(500))
        self.assertIsNot(cache.get(("huge",), lambda: np.zeros(500)), huge)
        self.assertEqual(cache.bytes, 120)

    def test_large_ones_do_not_push_out_small_ones(self) -> None:
        cache = Cache(most_bytes=2**20)
        small = cache.get(("small",), lambda: np.zeros(100))
        first = cache.get(("large", 0), lambda: np.zeros(40_000))
        for i in range(1, 10):
            cache.get(("large", i), lambda: np.zeros(40_000))
        self.assertIs(cache.get(("small",), lambda: np.zeros(1)), small)
        self.assertIsNot(cache.get(("large", 0), lambda: np.zeros(1)), first)
        self.assertLess(cache.bytes, 2**20)

    def test_nothing_is_locked_while_an_array_is_made(self) -> None:
        cache, inside, go_on = Cache(), threading.Event(), threading.Event()

        def slow() -> np.ndarray:
            inside.set()
            go_on.wait(10)
            return np.ones(1)

        waiting = threading.Thread(target=lambda: cache.get(("slow",), slow))
        waiting.start()
        self.assertTrue(inside.wait(10))
        self.assertEqual(cache.get(("other",), lambda: np.full(1, 7.0))[0], 7.0)
        first = cache.get(("slow",), lambda: np.full(1, 2.0))
        go_on.set()
        waiting.join()
        self.assertIs(cache.get(("slow",), slow), first)

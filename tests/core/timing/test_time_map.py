import unittest

import numpy as np

from zittern.core.timing.time_map import TimeMap


class Limits(unittest.TestCase):
    def test_what_lies_at_a_cut_belongs_to_what_comes_after(self) -> None:
        later = TimeMap.inserted(24.0, at=96.0)
        self.assertEqual([later.before(96.0), later.at(96.0), later.at(95.5)], [96.0, 120.0, 95.5])
        self.assertEqual([later.end(95.0), later.end(96.0)], [95.0, 120.0])
        self.assertEqual([later.length(90.0, 6.0), later.length(90.0, 7.0), later.length(96.0, 5.0)], [6.0, 31.0, 5.0])

    def test_taken_out_and_stretched(self) -> None:
        out = TimeMap.taken_out(10.0, 20.0)
        self.assertEqual([out.at(f) for f in (9.0, 10.0, 15.0, 20.0, 25.0)], [9.0, 10.0, 10.0, 10.0, 15.0])
        self.assertEqual([out.takes_out(f) for f in (9.0, 10.0, 19.9, 20.0)], [False, True, True, False])
        slow = TimeMap.stretched(10.0, 20.0, 30.0)
        self.assertEqual([slow.at(f) for f in (9.0, 10.0, 15.0, 20.0)], [9.0, 10.0, 25.0, 40.0])

    def test_even_maps_and_those_that_do_nothing(self) -> None:
        self.assertTrue(TimeMap.even().is_identity)
        self.assertFalse(TimeMap.inserted(1.0, 5.0).is_identity)
        self.assertEqual(TimeMap.even(3.0, 2.0, about_frame=1.0).at(11.0), 24.0)


class Eased(unittest.TestCase):
    def test_it_sets_off_and_ends_slowly(self) -> None:
        for into, out in ((0.5, 0.5), (0.2, 0.0), (0.0, 1.0), (0.3, 0.4)):
            warp = TimeMap.eased(100.0, 220.0, into, out)
            old = np.linspace(100.0, 220.0, 4001)
            new = np.array([warp.at(frame) for frame in old])
            self.assertTrue(np.all(np.diff(new) > 0.0))
            self.assertEqual((new[0], new[-1]), (100.0, 220.0))
            # The same by velocity, added up in small steps.
            share = np.linspace(0.0, 1.0, 200_001)
            speed = np.minimum(np.minimum(share / max(into, 1e-12), (1.0 - share) / max(out, 1e-12)), 1.0)
            gone = np.concatenate([[0.0], np.cumsum(0.5 * (speed[1:] + speed[:-1]))])
            gone /= gone[-1]
            reached = 100.0 + 120.0 * np.interp((new - 100.0) / 120.0, share, gone)
            self.assertLess(np.abs(reached - old).max(), 1e-3)

    def test_an_ease_shorter_than_anybody_could_see_is_none(self) -> None:
        frames = np.linspace(90.0, 230.0, 57)
        for tiny in (5e-324, 1e-300, 1e-12, 1e-5):
            for into, out in ((tiny, 0.5), (0.5, tiny), (tiny, 0.0), (tiny, tiny)):
                warp = TimeMap.eased(100.0, 220.0, into, out)
                none = TimeMap.eased(100.0, 220.0, *(0.0 if each == tiny else each for each in (into, out)))
                self.assertEqual([warp.at(frame) for frame in frames], [none.at(frame) for frame in frames])


if __name__ == "__main__":
    unittest.main()

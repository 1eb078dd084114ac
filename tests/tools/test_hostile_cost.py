import unittest

from tests.core.making import layer, shot_with
from tools.hostile_cost import MOST_FRAMES, cost_of, run
from zittern.core.shot.mounts import Mount
from zittern.core.shot.springs import Springs


class Short(unittest.TestCase):
    def test_what_costs_more_is_measured_as_more(self) -> None:
        cheap = cost_of(shot_with(layer()), memory=True)
        mounts = tuple(Mount(id=f"m{n}", name="M", springs=Springs()) for n in range(8))
        dear = cost_of(
            shot_with(*(layer(f"layer-{n}", seed=n) for n in range(40)), mounts=mounts, last_frame=MOST_FRAMES),
            memory=True,
        )
        self.assertGreater(dear.cpu_s, 2.0 * cheap.cpu_s)
        self.assertGreater(dear.peak_mb, 2.0 * cheap.peak_mb)
        self.assertEqual((cheap.refused, dear.refused), ("", ""))

    def test_a_climb_ends_no_cheaper_than_it_began_and_keeps_within_the_frames(self) -> None:
        found = run(climbs=2, steps=3, seed=5)
        self.assertEqual(len(found), 2)
        for each in found:
            self.assertLessEqual(each.shot.frame_count, MOST_FRAMES)
            self.assertGreater(each.peak_mb, 0.0)
        self.assertGreaterEqual(found[0].cpu_s, found[1].cpu_s)

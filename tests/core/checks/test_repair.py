import unittest

from tests.core.checks.broken import BROKEN
from zittern.core.checks.repair import repaired
from zittern.core.checks.table import CHECKS, check, named


class Mending(unittest.TestCase):
    def test_everything_that_can_be_is_mended_in_turn(self) -> None:
        shot = BROKEN["no weight"].shot
        worse = shot.replace(lanes=(*shot.lanes, *BROKEN["a clip that starts at once"].shot.lanes[1:]))
        after, done = repaired(worse, CHECKS)
        self.assertEqual({found.check for found in done}, {"silent", "pop"})
        self.assertEqual([found.says for found in check(after).findings if found.weight], [])

    def test_only_by_the_checks_that_are_named(self) -> None:
        shot = BROKEN["no weight"].shot
        self.assertEqual(repaired(shot, named(["kink"])), (shot, ()))

    def test_what_cannot_be_mended_is_left(self) -> None:
        shot = BROKEN["behind the camera"].shot
        _, done = repaired(shot, named(["rate"]))
        self.assertEqual(done, ())


if __name__ == "__main__":
    unittest.main()

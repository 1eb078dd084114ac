import unittest

from tools.soak import MOST_MB, run


class Short(unittest.TestCase):
    def test_drags_edits_and_exports_stay_small(self) -> None:
        report = run(seconds=2.0, long_frames=20_000)
        self.assertGreater(report.drags, 10)
        self.assertEqual(report.exports >= 6, True)
        self.assertLess(report.most_mb, MOST_MB)

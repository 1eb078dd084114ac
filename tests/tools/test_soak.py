import unittest

from tools.soak import MOST_MB, run


class Short(unittest.TestCase):
    def test_drags_edits_and_exports_stay_small(self) -> None:
        report = run(seconds=0.0, long_frames=20_000, least_drags=30)
        self.assertEqual((report.drags, report.edits, report.exports), (30, 3, 6))
        self.assertLess(report.most_mb, MOST_MB)

import unittest

from tools.soak import MOST_MB, run


class Short(unittest.TestCase):
    def test_drags_edits_and_exports_stay_small(self) -> None:
        report = run(seconds=0.0, long_frames=20_000, least_drags=100)
        self.assertEqual((report.drags, report.edits, report.exports), (100, 10, 6))
        self.assertEqual(report.imports, 1)
        self.assertGreater(report.edit_p99_ms, 0.0)
        self.assertLess(report.most_mb, MOST_MB)

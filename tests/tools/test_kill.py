import unittest

from tools.kill import run


class Short(unittest.TestCase):
    def test_nothing_acknowledged_is_lost_by_two_servers_on_one_folder(self) -> None:
        report = run(kills=3, seed=7)
        self.assertEqual((report.kills, report.faults), (3, []))
        self.assertGreater(report.acknowledged, 0)

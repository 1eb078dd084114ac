import unittest
from unittest import mock

from tools import hostile_files
from zittern.formats import take_file


class Files(unittest.TestCase):
    def test_spoilt_files_of_every_kind_give_what_they_should_or_a_fault_in_words(self) -> None:
        report = hostile_files.run(600, seed=3, most_s=60.0)
        self.assertEqual(report.failures, [])
        self.assertEqual(report.tried, 600)
        self.assertGreater(len(report.read), len(hostile_files.KINDS) - 2)
        self.assertGreater(report.faults, 300)

    def test_it_would_notice(self) -> None:
        with mock.patch.object(take_file, "read_take", side_effect=KeyError("pan")):
            report = hostile_files.run(18, seed=3)
        self.assertTrue(any("KeyError" in each for each in report.failures))

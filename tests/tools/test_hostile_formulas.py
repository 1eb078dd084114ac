import unittest

from tools.hostile_formulas import HOSTILE, run, texts


class Short(unittest.TestCase):
    def test_nothing_but_values_and_faults_within_the_text(self) -> None:
        report = run(1500, seed=3, most_s=60.0)  # how fast it is, is for `make hostile-formulas`
        self.assertEqual((report.read, report.failures), (1500 + len(HOSTILE), []))
        self.assertGreater(report.values, 150)
        self.assertGreater(report.faults, 1000)

    def test_no_text_takes_much_memory(self) -> None:
        report = run(50, seed=4, memory=True)
        self.assertEqual(report.failures, [])
        self.assertLess(report.most_mb, 50.0)

    def test_the_same_seed_makes_the_same_texts(self) -> None:
        self.assertEqual(list(texts(200, 7)), list(texts(200, 7)))
        self.assertNotEqual(list(texts(200, 7)), list(texts(200, 8)))

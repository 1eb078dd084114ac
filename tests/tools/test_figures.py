import re
import unittest
import xml.etree.ElementTree as ET
from pathlib import Path

import numpy as np

from tools.figures import FIGURES, give_transmissibility
from tools.plot import Line, plot

ROOT = Path(__file__).parents[2]


class Figures(unittest.TestCase):
    def test_the_page_shows_each_one_and_each_one_is_there(self) -> None:
        shown = re.findall(r"\(figures/([a-z-]+)\.svg\)", (ROOT / "docs/motion-models.md").read_text())
        self.assertEqual(sorted(shown), sorted(FIGURES))
        self.assertEqual(sorted(path.stem for path in (ROOT / "docs/figures").glob("*.svg")), sorted(FIGURES))

    def test_the_tests_that_the_page_names_are_there(self) -> None:
        named = set(re.findall(r"`(test_\w+\.py)`", (ROOT / "docs/motion-models.md").read_text()))
        self.assertLessEqual(named, {path.name for path in (ROOT / "tests").rglob("test_*.py")})

    def test_a_plot_is_a_picture_with_its_lines_where_they_belong(self) -> None:
        rising = Line(np.array([1.0, 10.0, 100.0]), np.array([0.0, 1.0, 2.0]), "rising")
        root = ET.fromstring(plot("A", "x", "y", [rising], log_x=True))
        [line] = [each for each in root if each.tag.endswith("polyline")]
        points = [tuple(map(float, each.split(","))) for each in line.attrib["points"].split()]
        self.assertAlmostEqual(points[1][0], (points[0][0] + points[2][0]) / 2, delta=0.2)
        self.assertGreater(points[0][1], points[2][1])
        self.assertEqual(ET.fromstring(give_transmissibility()).attrib["viewBox"], "0 0 640 300")

import unittest

from tools.inks import OUT, inks
from zittern.core.axes import AXIS_INFO

_PAPERS = ("#F4F0E6", "#23252B")


def luminance(color: str) -> float:
    """Relative luminance (WCAG 2.2)."""
    parts = [int(color[at : at + 2], 16) / 255.0 for at in (1, 3, 5)]
    linear = [part / 12.92 if part <= 0.04045 else ((part + 0.055) / 1.055) ** 2.4 for part in parts]
    return 0.2126 * linear[0] + 0.7152 * linear[1] + 0.0722 * linear[2]


class Inks(unittest.TestCase):
    def test_the_style_sheet_is_up_to_date(self) -> None:
        self.assertEqual(OUT.read_text(), inks(), "run `make types`")

    def test_each_ink_can_be_read_on_its_paper(self) -> None:
        for info in AXIS_INFO:
            for ink, paper in zip(info.ink, _PAPERS, strict=True):
                high, low = sorted((luminance(ink), luminance(paper)), reverse=True)
                self.assertGreaterEqual((high + 0.05) / (low + 0.05), 4.5, f"{info.name} {ink} on {paper}")

    def test_no_two_axes_look_alike(self) -> None:
        for looks in ([info.ink for info in AXIS_INFO], [info.dash for info in AXIS_INFO]):
            self.assertEqual(len(set(looks)), len(AXIS_INFO))

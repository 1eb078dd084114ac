import unittest

from pydantic import ValidationError

from zittern.core.movie.layout import layout_of
from zittern.core.movie.settings import MoviePane, MovieSettings


def settings(count: int, **more: object) -> MovieSettings:
    return MovieSettings.model_validate({"width_px": 160, "height_px": 90, "panes": [MoviePane()] * count, **more})


class Layouts(unittest.TestCase):
    def test_one_to_four_pictures(self) -> None:
        sizes = [(layout_of(settings(n)).width, layout_of(settings(n)).height) for n in (1, 2, 3, 4)]
        self.assertEqual(sizes, [(160, 90), (320, 90), (320, 180), (320, 180)])
        places = [(each.x, each.y) for each in layout_of(settings(4)).regions]
        self.assertEqual(places, [(0, 0), (160, 0), (0, 90), (160, 90)])

    def test_a_wipe_lies_in_one_picture_and_meets_at_its_line(self) -> None:
        layout = layout_of(settings(2, layout="wipe", line=0.25))
        self.assertEqual((layout.width, layout.height), (160, 90))
        self.assertEqual([(each.start, each.stop) for each in layout.regions], [(0.0, 0.25), (0.25, 1.0)])
        for count in (1, 3):
            with self.assertRaisesRegex(ValidationError, "a wipe is between two pictures"):
                settings(count, layout="wipe")

    def test_odd_sizes_become_even_and_that_is_said(self) -> None:
        layout = layout_of(settings(1, width_px=17, height_px=33))
        self.assertEqual((layout.width, layout.height), (16, 32))
        self.assertEqual(layout.says, ("the picture is 16×32 px: movies have even sizes (17×33 was asked for)",))
        self.assertEqual(layout_of(settings(1)).says, ())

    def test_the_strip_stands_below_all_and_is_even(self) -> None:
        for height in (16, 90, 720, 1081, 2160):
            layout = layout_of(settings(3, height_px=height, strip=True))
            self.assertGreaterEqual(layout.strip, 40)
            self.assertEqual((layout.strip % 2, layout.height % 2), (0, 0))
            self.assertEqual(layout.height - layout.strip, 2 * (height - height % 2))

    def test_numbers_out_of_reach(self) -> None:
        for more in (
            {"subframes": 0}, {"subframes": 65}, {"width_px": 1}, {"height_px": 5000}, {"shutter_deg": float("nan")},
            {"shutter_deg": 361}, {"readout_ms": -1}, {"strips": 0}, {"line": 1.5}, {"panes": []}, {"panes": [{}] * 5},
            {"first_frame": 2**63}, {"quality": "finest"},
        ):  # fmt: skip
            with self.assertRaises(ValidationError, msg=str(more)):
                MovieSettings.model_validate(more)

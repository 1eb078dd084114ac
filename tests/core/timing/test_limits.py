"""Shots whose numbers are clamped can be edited in time, and move as they did."""

import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import Number, fixed, keyed, on_curve
from zittern.core.shot.shot import Shot

# At the limits a crossing is found to a ten-thousandth of a frame.
CLOSE = 2e-3


def continued(*points: tuple[float, float]) -> Number:
    curve = Curve.of(points, "linear")
    return on_curve(curve.replace(before="continue", after="continue"))


def overshooting(low: float, high: float) -> Number:
    """Handles that reach far beyond both values."""
    reach = 3.0 * (high - low)
    keys = (
        Key(frame=20.0, value=low, interp="free", handle_out=(30.0, -reach)),
        Key(frame=140.0, value=high, interp="free", handle_in=(-30.0, reach)),
    )
    return on_curve(Curve(keys=keys))


def shots() -> dict[str, Shot]:
    fading = layer("sway", weight=continued((10, 1.0), (60, 0.5)))
    wide = shot_with(layer(), focal_mm=continued((1, 60.0), (100, 20.0)), last_frame=240)
    return {
        "a weight that goes on below 0": shot_with(fading, last_frame=240),
        "a focal length that goes on below its least": wide,
        "handles beyond a weight's limit": shot_with(layer(weight=overshooting(0.0, 1.0)), last_frame=240),
        "handles beyond a lens": shot_with(layer(), focal_mm=overshooting(8.0, 300.0), last_frame=240),
        "an amount": shot_with(layer(), clip={"amount": continued((1, 2.0), (50, 0.2))}, last_frame=240),
        "a speed of 0": shot_with(layer(speed=continued((1, 1.0), (80, 0.0))), last_frame=240),
        "fixed": shot_with(layer(weight=fixed(0.5)), focal_mm=keyed((1, 30.0), (200, 90.0)), last_frame=240),
    }


EDITS: tuple[dict[str, object], ...] = (
    {"type": "insert_time", "frame": 100, "frames": 24},
    {"type": "insert_time", "frame": 100, "frames": 24, "gap": "through"},
    {"type": "insert_time", "frame": 100, "frames": 24, "runs": "keep"},
    {"type": "take_out_time", "first_frame": 90, "last_frame": 120},
    {"type": "take_out_time", "first_frame": 90, "last_frame": 120, "runs": "keep"},
    {"type": "stretch_time", "first_frame": 70, "last_frame": 130, "frames": 20},
    {"type": "shift_after", "frame": 110, "by_frames": -12},
    {"type": "reverse_time", "first_frame": 60, "last_frame": 180},
    {"type": "ease_time", "first_frame": 60, "last_frame": 180, "ease_in": 0.5, "ease_out": 0.5},
    {"type": "split_clip", "clip": "main", "frame": 130},
)


class Clamped(unittest.TestCase):
    def test_every_edit_is_taken_and_what_lies_before_it_stays(self) -> None:
        before = np.arange(1.0, 59.0, 0.5)
        for name, shot in shots().items():
            expected = evaluate(shot, before)
            for fields in EDITS:
                with self.subTest(name, **fields):
                    if fields["type"] == "split_clip":
                        shot = edited(
                            shot, {"type": "set_span", "at": ["clip:main"], "first_frame": 1, "last_frame": 240}
                        )
                    found = evaluate(edited(shot, fields), before)
                    if fields.get("gap") == "through":
                        continue  # it bends the segment that is cut
                    np.testing.assert_allclose(found.bare.focal_mm, expected.bare.focal_mm, atol=CLOSE)
                    np.testing.assert_allclose(found.total, expected.total, atol=CLOSE)

    def test_what_comes_after_an_insertion_comes_later(self) -> None:
        after = np.arange(110.0, 240.0, 0.7)
        for name, shot in shots().items():
            with self.subTest(name):
                later = edited(shot, {"type": "insert_time", "frame": 100, "frames": 24})
                found, expected = evaluate(later, after + 24.0), evaluate(shot, after)
                np.testing.assert_allclose(found.bare.focal_mm, expected.bare.focal_mm, atol=CLOSE)
                weights = (each.weights["sway"] for each in (found, expected))
                np.testing.assert_allclose(*weights, atol=CLOSE)

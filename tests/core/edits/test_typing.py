import math
import unittest

from tests.core.making import layer, moved_px, shot_with
from zittern.core.edits.typing import field_at, frame_from
from zittern.core.formula.arithmetic import evaluate_expression
from zittern.core.formula.fault import FormulaFault
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.cues import Cue
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, Subject

CAMERA = Mount(id="camera", name="Camera", y_m=fixed(1.6))
POST = Subject.at("Post", (0.0, 1.6, -5.0))


def typed(shot: Shot, text: str, at: str, unit: str, frame: float = 1.0) -> float:
    return evaluate_expression(text, 0.0, field_at(shot, at, unit, frame))


class Pixels(unittest.TestCase):
    SHOT = shot_with(layer(), mounts=(CAMERA,), subject=POST, focal_mm=keyed((1, 35.0), (240, 85.0), interp="linear"))

    def test_what_is_typed_in_pixels_is_shown_as_so_many(self) -> None:
        """On every axis, at the playhead: the reading of the swing says the pixels that were typed."""
        for axis, unit in (
            ("pan", "°"),
            ("tilt", "°"),
            ("roll", "°"),
            ("truck", "cm"),
            ("pedestal", "cm"),
            ("dolly", "cm"),
            ("zoom", "%"),
        ):
            for frame, focal in ((1.0, 35.0), (240.0, 85.0)):
                value = typed(self.SHOT, "30 px", f"layer:sway.axes.{axis}.swing", unit, frame)
                self.assertAlmostEqual(moved_px(axis, value, focal, 5.0), 30.0, places=6, msg=f"{axis} {frame}")  # type: ignore[arg-type]

    def test_tracks_angles_of_mounts_and_shares_of_the_picture(self) -> None:
        f_px = 35.0 / 36.0 * 1920.0
        self.assertAlmostEqual(
            typed(self.SHOT, "3 px", "layer:sway.source.tracks.pan", "°"), math.degrees(math.atan(3 / f_px))
        )
        self.assertAlmostEqual(
            typed(self.SHOT, "-3 px", "mount:camera.tilt_deg", "°"), -math.degrees(math.atan(3 / f_px))
        )
        self.assertAlmostEqual(typed(self.SHOT, "96 px", "mount:camera.operator.pan_slack_percent", "%"), 5.0)
        self.assertAlmostEqual(typed(self.SHOT, "540 px", "shot.hold.up_percent", "%"), 50.0)

    def test_centimetres_need_a_subject_and_metres_have_no_pixels(self) -> None:
        with self.assertRaisesRegex(FormulaFault, "mark a subject first"):
            typed(self.SHOT.replace(subject=None), "3 px", "layer:sway.axes.truck.swing", "cm")
        for at, unit in (("mount:camera.x_m", "m"), ("layer:sway.weight", "%"), ("layer:sway.source.rate_hz", "Hz")):
            with self.assertRaisesRegex(FormulaFault, "pixels cannot be converted"):
                typed(self.SHOT, "3 px", at, unit)

    def test_frames_are_the_shots_own(self) -> None:
        self.assertAlmostEqual(typed(self.SHOT, "2 s", "layer:sway.ramp_in_frames", "f"), 48.0)


class GoingTo(unittest.TestCase):
    SHOT = shot_with(
        layer(),
        first_frame=11,
        last_frame=250,
        cues=tuple(
            Cue(id=f"c{n}", name=name, frame=frame)
            for n, (name, frame) in enumerate((("door", 40.0), ("Doorbell", 99.6), ("splash", 200.0)))
        ),
    )

    def to(self, text: str, frame: float = 100.0) -> int:
        return frame_from(self.SHOT, text, frame)

    def test_frames_times_names_and_so_far_on(self) -> None:
        for text, wanted in (
            ("120", 120), ("60+4", 64), ("120 f", 120), ("2.5 s", 71), ("0:02.5", 71), ("500 ms", 23), ("+12", 112),
            ("-12", 88), ("+1 s", 124), ("-0.5 s", 88), ("door", 40), ("DOOR ", 40), ("doorb", 100), ("spl", 200),
            ("+=3", 103),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(self.to(text), wanted)

    def test_what_is_none_of_these_or_outside_says_so(self) -> None:
        for text, why in (
            ("do", ""), ("nobody", ""), ("", ""), ("9999", "from frame 11 to 250"), ("3", "from frame 11 to 250"),
            ("+1000", "from frame 11 to 250"), ("1e308", "from frame"), ("3 cm", "cm"), ("9" * 400, "too large"),
        ):  # fmt: skip
            with self.subTest(text), self.assertRaisesRegex(FormulaFault, why):
                self.to(text)

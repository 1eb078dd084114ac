import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.evaluate import Motion, evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.optics.lens import focal_px
from zittern.core.readings.motion_view import MotionView
from zittern.core.readings.movers import movers_px
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.shot import Shot, Subject
from zittern.core.sources.hand_keys import HandKeys, Tracks


def told(shot: Shot, motion: Motion) -> dict[str, np.ndarray]:
    return {name: part.values for name, part in movers_px(MotionView(shot, motion)).items()}


PANS = Mount(id="pans", name="Pans", pan_deg=keyed((1, 0.0), (101, 50.0), interp="linear"))
SLIDES = Mount(id="slides", name="Slides", x_m=keyed((1, 0.0), (101, 2.0), interp="linear"))
RESTS = Mount(id="rests", name="Rests", z_m=fixed(-0.5))
SUBJECT = Subject.at("Post", (0.0, 0.0, -5.0))


class Movers(unittest.TestCase):
    def test_each_mount_for_itself(self) -> None:
        shot = shot_with(mounts=(PANS, RESTS), last_frame=101)
        moved = told(shot, evaluate(shot))
        f_px = focal_px(35.0, 36.0, 1920)
        # About a point half a metre behind the lens; the point looked at is 4 m ahead of it.
        angle = np.radians(0.5)
        np.testing.assert_allclose(
            moved["mount:pans"], f_px * 4.5 * np.sin(angle) / (4.5 * np.cos(angle) - 0.5), rtol=1e-6
        )
        np.testing.assert_allclose(moved["mount:rests"], 0.0, atol=1e-9)

    def test_what_one_does_is_not_put_down_to_another(self) -> None:
        shot = shot_with(layer(target="slides"), mounts=(PANS, SLIDES), last_frame=101, subject=SUBJECT)
        alone = shot_with(mounts=(Mount(id="pans", name="Pans"), SLIDES), last_frame=101, subject=SUBJECT)
        still = shot_with(
            layer(target="slides"),
            mounts=(Mount(id="pans", name="Pans"), Mount(id="slides", name="Slides")),
            last_frame=101,
        )
        self.assertLess(np.max(told(alone, evaluate(alone))["mount:pans"]), 1e-9)
        moved = told(still, evaluate(still))
        self.assertLess(np.max(moved["mount:slides"]), 1e-6)
        self.assertGreater(np.max(moved["layer:sway"]), 1.0)
        self.assertGreater(np.min(told(shot, evaluate(shot))["mount:slides"][1:]), 1.0)

    def test_a_layer_by_what_each_of_its_axes_does_to_the_picture(self) -> None:
        """Against what a lens of so many pixels makes of an angle, of a way at the distance of the subject, of a part
        of the picture.
        """
        f_px = focal_px(35.0, 36.0, 1920)
        turn, way = np.radians(0.1), 0.02 / np.hypot(5.0, 1.6)
        ramp = keyed((1, 0.0), (101, 10.0), interp="linear")
        wide = keyed((1, 0.0), (101, 200.0), interp="linear")
        for tracks, px in (
            ({"pan": ramp}, f_px * turn),
            ({"tilt": ramp}, f_px * turn),
            ({"truck": wide}, f_px * way),
            ({"pedestal": wide}, f_px * way),
            ({"truck": wide, "pan": ramp}, f_px * abs(turn - way)),
            ({"pedestal": wide, "tilt": ramp}, f_px * (turn + way)),
            ({"shift_x": ramp}, 0.1 / 100 * 1920),
            ({"shift_y": ramp}, 0.1 / 100 * 1080),
        ):
            with self.subTest(tracks=list(tracks)):
                shot = shot_with(
                    layer("keys", HandKeys(tracks=Tracks(**tracks)), 3, {}), last_frame=101, subject=SUBJECT
                )
                np.testing.assert_allclose(told(shot, evaluate(shot))["layer:keys"][1:], px, rtol=1e-3)

    def test_where_the_frame_before_is_missing_nothing_is_said(self) -> None:
        shot = shot_with(layer(), mounts=(PANS,), subject=SUBJECT, hold=HoldFraming())
        moved = told(shot, evaluate(shot, np.array([1.0, 2.0, 40.0, 41.0])))
        self.assertEqual(set(moved), {"mount:pans", "layer:sway", "hold"})
        for values in moved.values():
            np.testing.assert_array_equal(np.isnan(values), [False, False, True, False])

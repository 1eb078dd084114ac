import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import distances_m, picture_offsets_px
from zittern.core.movie.lean import lean_px
from zittern.core.movie.moments import moments, range_of, wave_px
from zittern.core.movie.settings import MovieSettings
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.plates import Plate
from zittern.core.shot.shot import Subject
from zittern.core.shot.springs import Springs
from zittern.core.sources.formulas import Formulas
from zittern.core.sources.hand_keys import Tracks

SHOT = shot_with(
    layer(),
    mounts=(
        Mount(id="base", name="Base", x_m=keyed((1, 0.0), (60, 4.0))),
        Mount(id="arm", name="Arm", springs=Springs(), operator=Operator()),
    ),
    subject=Subject.at("Post", (0.5, 1.0, -7.0)),
    plates=(
        Plate(id="sky", name="Sky", picture="0" * 64, width_px=160, height_px=90, width_m=9.0,
              x_m=keyed((1, 0.0), (60, 3.0)), z_m=fixed(-9.0)),
    ),
    last_frame=60,
)  # fmt: skip


class Moments(unittest.TestCase):
    def test_each_drawing_is_as_an_evaluation_of_its_own_moment(self) -> None:
        settings = MovieSettings(subframes=3, readout_ms=15.0, strips=2)
        at, arrays = moments(SHOT, settings, np.arange(20.0, 24.0), Cache())
        self.assertEqual((len(at), arrays["pose"].shape, arrays["plate:sky"].shape), (24, (24, 13), (24, 9)))
        for row in (0, 7, 23):
            alone = evaluate(SHOT, np.array([at[row]]))
            np.testing.assert_allclose(arrays["pose"][row, :3], alone.pose.position_m[0], atol=1e-9)
            np.testing.assert_allclose(arrays["pose"][row, 3:6], alone.pose.angles_deg[0], atol=1e-9)
            np.testing.assert_allclose(arrays["bare"][row, :3], alone.bare.position_m[0], atol=1e-9)

    def test_frames_asked_for_in_any_order_are_the_same(self) -> None:
        settings, cache = MovieSettings(subframes=2), Cache()
        whole = moments(SHOT, settings, np.arange(1.0, 61.0), Cache())[1]["pose"]
        for first in (40, 3, 59):
            np.testing.assert_allclose(
                moments(SHOT, settings, first + np.arange(2.0), cache)[1]["pose"],
                whole[2 * (first - 1) :][:4],
                atol=1e-9,
            )

    def test_ranges_lie_in_the_shot(self) -> None:
        self.assertEqual(range_of(MovieSettings(), SHOT), (1, 60))
        self.assertEqual(range_of(MovieSettings(first_frame=-5, last_frame=10), SHOT), (1, 10))
        for first, last in ((10, 9), (61, 70)):
            with self.assertRaises(ValueError):
                range_of(MovieSettings(first_frame=first, last_frame=last), SHOT)

    def test_the_wave_of_a_long_movie_is_thinned(self) -> None:
        self.assertEqual(wave_px(SHOT, 1, 60, Cache()).shape, (60, 2))
        long = SHOT.replace(last_frame=5000)
        self.assertEqual(wave_px(long, 1, 5000, Cache()).shape, (1000, 2))


class Lean(unittest.TestCase):
    def test_an_even_pan_leans_by_its_pace_times_the_readout(self) -> None:
        pan = Formulas(tracks=Tracks(pan=by_formula("0.4 * t", fixed(0.0))))
        shot = shot_with(layer("pan", pan, swings={}), last_frame=24)
        motion = evaluate(shot)
        pace = np.diff(picture_offsets_px(shot, motion, distances_m(shot, motion))[:, 0])
        self.assertAlmostEqual(lean_px(shot, 20.0, 1, 24, Cache()), float(pace.max()) * 0.020 * 24.0, delta=0.01)
        self.assertEqual(lean_px(shot, 0.0, 1, 24, Cache()), 0.0)

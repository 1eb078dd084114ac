import unittest

import numpy as np

from tests.core.making import layer, shot_with
from zittern.core.axes import px_per_unit
from zittern.core.checks.study import Study
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.picture import picture_scale
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Subject


class Sizes(unittest.TestCase):
    def test_a_unit_of_each_axis_moves_the_picture_as_it_does_elsewhere(self) -> None:
        camera = Mount(id="camera", name="Camera", z_m=keyed((1, 0.0), (60, -4.0)))
        shot = shot_with(
            layer("sway", seed=3, swings={"zoom": 4.0}),
            mounts=(camera,),
            subject=Subject.at("Post", (0.5, 0.0, -7.0)),
            focal_mm=keyed((1, 24.0), (60, 85.0)),
            last_frame=60,
            sensor_mm=24.0,
        )
        study, motion = Study(shot), evaluate(shot)
        for row in (0, 31, 59):
            expected = px_per_unit(picture_scale(shot, float(motion.pose.focal_mm[row]), float(study.distance_m[row])))
            np.testing.assert_allclose(study.px_per_unit[row], expected, rtol=1e-6)
        self.assertAlmostEqual(float(study.distance_m[0]), float(np.hypot(0.5, 7.0)), places=9)

    def test_a_layer_that_is_not_there_does_nothing(self) -> None:
        self.assertFalse(Study(shot_with(layer("sway", mute=True), focal_mm=fixed(35.0))).layer_px("ghost").any())

import unittest

import numpy as np

from tests.core.making import edited, shot_with
from zittern.core.errors import EditError
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.shot import Subject

KITE = Subject(name="Kite", x_m=keyed((1, 2.0), (97, 5.0)), y_m=fixed(1.6), z_m=keyed((1, -6.0), (49, -4.0)))
RIDE = {"type": "ride_on_subject", "mount": "camera"}


class OnTheSubject(unittest.TestCase):
    def test_it_goes_where_the_subject_goes_and_keeps_its_distance(self) -> None:
        before = shot_with(subject=KITE)
        after = edited(before, RIDE)
        scope = before.scope(np.arange(1.0, 121.0))
        goes = KITE.position_m(scope) - KITE.position_m(before.scope(1.0))
        moved = evaluate(after, scope.frames).pose.position_m - evaluate(before, scope.frames).pose.position_m
        np.testing.assert_allclose(moved, goes, atol=1e-9)
        self.assertGreater(np.abs(moved).max(), 2.9)
        off = edited(after, {"type": "set_values", "values": [{"at": "mount:camera.ride", "value": None}]})
        self.assertEqual(off, before)

    def test_what_cannot_be_ridden(self) -> None:
        for subject, words in ((None, "no subject is marked"), (Subject(name="Post"), "“Post” stands still")):
            with self.subTest(words), self.assertRaisesRegex(EditError, words):
                edited(shot_with(subject=subject), RIDE)
        with self.assertRaisesRegex(EditError, "boom"):
            edited(shot_with(subject=KITE), {**RIDE, "mount": "boom"})

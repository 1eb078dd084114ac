"""Checks that look at what stands in the set."""

import unittest

import numpy as np

from tests.core.making import shot_with
from zittern.core.checks.finding import Finding
from zittern.core.checks.table import check, named
from zittern.core.numbers.param import fixed, keyed
from zittern.core.set_pieces import Piece, SetPieces
from zittern.core.shot.mounts import Mount
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject


def wall(z_m: float, name: str = "gate", names: tuple[str, ...] = (), half_m: float = 3.0) -> Piece:
    """Upright, across the way of a camera that goes along -Z."""
    corners = np.array([[-half_m, 0.0, z_m], [half_m, 0.0, z_m], [half_m, 4.0, z_m], [-half_m, 4.0, z_m]])
    return Piece(name, frozenset({name, *names}), corners[[[0, 1, 2], [0, 2, 3]]])


def walk(to_m: float = -10.0, **fields: object) -> Shot:
    """From the origin along -Z at eye height, looking at a post at -20 m."""
    camera = Mount(id="camera", name="Camera", y_m=fixed(1.6), z_m=keyed((1, 0.0), (101, to_m), interp="linear"))
    subject = Subject.at("Post", (0.0, 1.6, -20.0)).replace(object="post")
    given = {"mounts": (camera,), "subject": subject, "set_id": "a-set", **fields}
    return shot_with(last_frame=101, **given)


def found(shot: Shot, *pieces: Piece) -> list[Finding]:
    return list(check(shot, named(["hidden", "through"]), pieces=SetPieces(pieces)).findings)


class Hidden(unittest.TestCase):
    def test_a_gate_on_the_way_hides_the_subject_until_it_is_passed(self) -> None:
        one = found(walk(-4.0), wall(-8.0))
        self.assertEqual(
            [(each.check, each.at, each.weight, each.frames) for each in one],
            [("hidden", "shot.set_id", True, (1.0, 101.0))],
        )
        self.assertIn("“Post” is behind “gate” in 101 frames", one[0].says)
        passed = next(each for each in found(walk(), wall(-5.0)) if each.check == "hidden")
        self.assertAlmostEqual(passed.amount, 50, delta=1)

    def test_nothing_beside_the_way_behind_the_subject_or_of_the_subject_itself(self) -> None:
        away = wall(-8.0)
        aside = Piece("gate", away.names, away.triangles_m + np.array([20.0, 0.0, 0.0]))
        own = wall(-19.0, "cloth", ("post",))
        close = wall(-19.2, "hat")
        self.assertEqual(found(walk(-4.0), aside, wall(-25.0), own, close), [])
        self.assertEqual(found(walk(-4.0, subject=None), away), [])

    def test_several_are_one_finding_named_after_the_one_that_hides_longest(self) -> None:
        (one,) = found(walk(-4.0), wall(-3.0 - 5.0), wall(-12.0, "fence"), wall(-14.0, "hedge", half_m=2.0))
        self.assertIn("and 2 more", one.says)


class Through(unittest.TestCase):
    def test_the_lens_goes_through_a_gate_once(self) -> None:
        one = next(each for each in found(walk(subject=None), wall(-5.02)))
        self.assertEqual((one.check, one.at, one.amount), ("through", "shot.set_id", 1.0))
        self.assertIn("the lens goes through “gate” after frame 51", one.says)

    def test_what_carries_the_camera_is_let_alone(self) -> None:
        ride = Ride(object="sled", x_m=fixed(0.0))
        camera = walk().mounts[0].replace(ride=ride)
        shot = walk(subject=None, mounts=(camera,))
        self.assertEqual(found(shot, wall(-5.02, "windscreen", ("sled",))), [])
        self.assertEqual(len(found(shot, wall(-5.02))), 1)

    def test_what_was_not_looked_at_is_said(self) -> None:
        (one,) = check(walk(subject=None), named(["through"]), pieces=SetPieces((), 7_000)).findings
        self.assertEqual((one.weight, one.amount), (False, 7_000.0))
        self.assertIn("7000 triangles of the set are not looked at", one.says)

    def test_under_empty_ground(self) -> None:
        low = walk().mounts[0].replace(y_m=keyed((1, 1.0), (101, -1.0), interp="linear"))
        (one,) = found(walk(subject=None, set_id=None, mounts=(low,)))
        self.assertIn("the lens is under the ground in 50 frames, by up to 1.00 m", one.says)
        self.assertEqual(found(walk(subject=None, mounts=(low,))), [])

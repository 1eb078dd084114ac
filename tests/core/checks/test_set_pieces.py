"""Checks that look at what stands in the set."""

import unittest

import numpy as np
from scipy.spatial.transform import Rotation

from tests.core.making import layer, shot_with
from zittern.core.checks.finding import Finding
from zittern.core.checks.table import check, named
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed, keyed
from zittern.core.plates.set_pieces import Piece, SetPieces
from zittern.core.shot.mounts import Mount
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.sources.wave import Wave


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
        self.assertIn("7000 triangles of the set are ignored", one.says)

    def test_under_empty_ground(self) -> None:
        low = walk().mounts[0].replace(y_m=keyed((1, 1.0), (101, -1.0), interp="linear"))
        (one,) = found(walk(subject=None, set_id=None, mounts=(low,)))
        self.assertIn("the lens is under the ground in 50 frames, by up to 1.00 m", one.says)
        self.assertEqual(found(walk(subject=None, mounts=(low,))), [])


def ground(half_m: float = 20.0) -> Piece:
    """A square at height 0 about the origin."""
    corners = np.array([[-half_m, 0.0, half_m], [half_m, 0.0, half_m], [half_m, 0.0, -half_m], [-half_m, 0.0, -half_m]])
    return Piece("ground", frozenset({"ground"}), corners[[[0, 1, 2], [0, 2, 3]]])


def edges(shot: Shot, *pieces: Piece) -> list[Finding]:
    return list(check(shot, named(["coverage"]), pieces=SetPieces(pieces)).findings)


class Edge(unittest.TestCase):
    def looking(self, pan_deg: float, z_m: float = 0.0, tilt_deg: float = -12.0, **fields: object) -> Shot:
        angles = {"pan_deg": fixed(pan_deg), "tilt_deg": fixed(tilt_deg)}
        camera = Mount(id="camera", name="Camera", y_m=fixed(3.0), z_m=fixed(z_m), **angles)
        return shot_with(**{"mounts": (camera,), "subject": None, "set_id": "a-set", "last_frame": 101, **fields})

    def bare(self, z_m: float, middle_x_m: float, half_m: float) -> float:
        """Share of a grid over the picture whose rays go down by two degrees and come to height 0 off the square."""
        x, y = np.meshgrid(np.linspace(-1, 1, 25) * 18 / 35, np.linspace(-1, 1, 15) * 18 / 35 * 9 / 16)
        turn = Rotation.from_euler("X", -12.0, degrees=True)
        ray = turn.apply(np.stack([x, y, -np.ones_like(x)], axis=-1).reshape(-1, 3))
        down = -ray[:, 1] > np.sin(np.radians(2.0)) * np.linalg.norm(ray, axis=1)
        at = ray[:, [0, 2]] * (3.0 / np.where(down, -ray[:, 1], 1.0))[:, None] + [-middle_x_m, z_m]
        return float(np.mean(down & np.any(np.abs(at) > half_m, axis=1)))

    def test_where_the_ground_ends_below_the_horizon_it_is_told_how_much_of_the_picture_is_bare(self) -> None:
        for z, middle, half, side in (
            (-5.0, 0.0, 20.0, "ahead"),
            (0.0, 197.0, 200.0, "on the left"),
            (0.0, -197.0, 200.0, "on the right"),
        ):
            square = ground(half)
            aside = Piece("ground", square.names, square.triangles_m + np.array([middle, 0.0, 0.0]))
            (one,) = edges(self.looking(0.0, z), aside)
            self.assertAlmostEqual(one.amount, 100.0 * self.bare(z, middle, half), places=6)
            self.assertEqual((one.at, one.weight, one.frames), ("shot.set_id", True, (1.0, 101.0)))
            self.assertIn(side, one.says)

    def test_wide_ground_a_wall_before_the_edge_a_plate_or_no_ground_at_all_are_none(self) -> None:
        self.assertEqual(edges(self.looking(0.0), ground(200.0)), [])
        self.assertEqual(edges(self.looking(0.0, -12.0), ground(), wall(-19.0, half_m=30.0)), [])
        self.assertEqual(edges(self.looking(0.0), wall(-8.0)), [])
        self.assertEqual(edges(self.looking(0.0, -12.0, set_id=None)), [])

    def test_a_shake_that_takes_it_past_the_edge_is_calmed_by_what_just_suffices(self) -> None:
        shake = layer("wave", source=Wave(), swings={"tilt": 3.0})
        still = self.looking(0.0, tilt_deg=-26.0)
        self.assertEqual(edges(still, ground()), [])
        shaken = still.replace(lanes=shot_with(shake).lanes)
        (one,) = edges(shaken, ground())
        assert one.fix is not None
        self.assertEqual(edges(one.fix.command.apply(shaken), ground()), [])
        # Its upper edge looks down by half the height of the picture less than the lens does.
        tilt = evaluate(shaken).pose.angles_deg[:, 1] + np.degrees(np.arctan(18 / 35 * 9 / 16))
        past = np.flatnonzero(tilt > -np.degrees(np.arctan(3.0 / 20.0))) + 1
        runs = np.split(past, np.flatnonzero(np.diff(past) > 1) + 1)
        self.assertGreater(len(runs), 2)
        self.assertEqual(one.stretches, tuple((run[0], run[-1]) for run in runs))
        self.assertEqual(one.frames, (past[0], past[-1]))
        strong = shot_with(layer("wave", source=Wave(), swings={"tilt": 30.0})).lanes
        self.assertIsNone(edges(still.replace(lanes=strong), ground())[0].fix)

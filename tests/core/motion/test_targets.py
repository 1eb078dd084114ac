import unittest

import numpy as np
from pydantic import ValidationError

from tests.core.making import edited, shot_with
from zittern.core.edits.timing import InsertTime
from zittern.core.errors import DocumentError, EditError
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.targets import cue_places_m, gliding_m, name_of, position_m
from zittern.core.numbers.param import fixed, keyed
from zittern.core.readings.framing import misses_px
from zittern.core.rig import rotations
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.targets import MiddleTarget, MountTarget, PointTarget, SubjectTarget, TargetChange

POST = Subject(name="Post", x_m=fixed(-1.0), y_m=fixed(1.6), z_m=fixed(-6.0))
BOAT = PointTarget(name="Boat", x_m=keyed((1, 2.0), (97, 3.0)), y_m=fixed(1.6), z_m=fixed(-6.0))
EYE = (Mount(id="cart", name="Cart", x_m=keyed((1, 0.0), (97, 4.0))), Mount(id="camera", name="Camera", y_m=1.6))


def seen_by(shot: Shot, point_m: np.ndarray, frame: float) -> float:
    """Degrees to the left of the lens's axis at which a point lies: an independent model."""
    pose = evaluate(shot, np.array([frame])).pose
    away = rotations.matrices(pose.angles_deg)[0].T @ (point_m - pose.position_m[0])
    return float(np.degrees(np.arctan2(-away[0], -away[2])))


def aimed(**fields: object) -> Shot:
    operator = Operator.model_validate({"pan_slack_percent": 0.0, "tilt_slack_percent": 0.0, **fields})
    mounts = (Mount(id="camera", name="Camera", y_m=1.6, operator=operator),)
    return shot_with(subject=POST, mounts=mounts, last_frame=144)


class Places(unittest.TestCase):
    def test_each_kind_is_where_it_says(self) -> None:
        shot = shot_with(subject=POST, mounts=EYE)
        scope = shot.scope(np.array([1.0, 49.0, 97.0]))
        for target, expected in (
            (SubjectTarget(), [[-1.0, 1.6, -6.0]] * 3),
            (BOAT, [[2.0, 1.6, -6.0], [2.5, 1.6, -6.0], [3.0, 1.6, -6.0]]),
            (MountTarget(mount="cart"), [[0.0, 0.0, 0.0], [2.0, 0.0, 0.0], [4.0, 0.0, 0.0]]),
            (MiddleTarget(one=SubjectTarget(), other=BOAT), [[0.5, 1.6, -6.0], [0.75, 1.6, -6.0], [1.0, 1.6, -6.0]]),
        ):
            with self.subTest(target.kind):
                np.testing.assert_allclose(position_m(shot, HoldFraming(target=target), scope), expected, atol=1e-9)
        self.assertEqual(name_of(shot, MiddleTarget(one=SubjectTarget(), other=BOAT)), "Post and Boat")

    def test_changes_are_taken_at_their_frames_and_glided_to_by_the_hold(self) -> None:
        shot = shot_with(subject=POST, mounts=EYE)
        away, back = TargetChange(frame=49.0, target=BOAT), TargetChange(frame=97.0, target=SubjectTarget())
        framing = HoldFraming(changes=(away, back))
        frames = np.arange(1.0, 145.0)
        across = position_m(shot, framing, shot.scope(frames))[:, 0]
        np.testing.assert_allclose(across[[47, 48, 95, 96]], [-1.0, 2.5, 2.0 + 95 / 96, -1.0], atol=0.02)
        glided = gliding_m(shot, framing, shot.scope(np.arange(1.0, 145.0, 0.25)))[:, 0]
        self.assertLess(np.max(np.abs(np.diff(glided))), 4.0 * 1.875 / 24 / 4 * 1.1, "as fast as the curve is at most")
        boat = BOAT.x_m.at(shot.scope(81.0))
        np.testing.assert_allclose(glided[[0, 4 * 48, 4 * 80, -1]], [-1.0, -1.0, boat, -1.0], atol=1e-9)


class CuesAtTargets(unittest.TestCase):
    """A blow comes from where its target is at the cue's frame."""

    def shot(self, **fields: object) -> Shot:
        hit = {"type": "add_layer", "source": "hit"}
        shot = edited(shot_with(subject=POST, mounts=EYE, last_frame=144), hit)
        cues = [{"id": f"cue-{n}", "frame": 20.0 + 30 * n, **each} for n, each in enumerate(fields["cues"])]
        return Shot.model_validate({**shot.model_dump(), "cues": cues})

    def test_it_is_as_if_it_were_at_that_place(self) -> None:
        there = self.shot(cues=[]).scope(20.0)
        boat, cart = BOAT.x_m.at(there), EYE[0].x_m.at(there)
        for target, place in (
            (SubjectTarget(), (-1.0, 1.6, -6.0)),
            (BOAT, (boat, 1.6, -6.0)),
            (MountTarget(mount="cart"), (cart, 0.0, 0.0)),
            (MiddleTarget(one=SubjectTarget(), other=BOAT), (0.5 * (boat - 1.0), 1.6, -6.0)),
        ):
            with self.subTest(target.kind):
                ways = ({"on": target.model_dump()}, {"place_m": place}, {})
                at, placed, nowhere = (evaluate(self.shot(cues=[each])).total for each in ways)
                np.testing.assert_allclose(at, placed, atol=1e-9)
                self.assertGreater(np.abs(nowhere - placed).max(), 0.05)

    def test_a_subject_that_is_not_there_leaves_the_cue_without_a_place(self) -> None:
        at = self.shot(cues=[{"on": {"kind": "subject"}}, {"place_m": (0, 0, -4)}]).replace(subject=None)
        np.testing.assert_array_equal(np.isnan(cue_places_m(at, at.scope(1.0))), [[True] * 3, [False] * 3])
        nowhere = self.shot(cues=[{}, {"place_m": (0, 0, -4)}]).replace(subject=None)
        np.testing.assert_array_equal(evaluate(at).total, evaluate(nowhere).total)

    def test_what_is_kept_knows_where_the_subject_was(self) -> None:
        cache = Cache()
        first = self.shot(cues=[{"on": {"kind": "subject"}}])
        before = evaluate(first, cache=cache).total
        assert first.subject is not None
        moved = first.replace(subject=first.subject.replace(x_m=fixed(5.0)))
        after = evaluate(moved, cache=cache).total
        np.testing.assert_array_equal(after, evaluate(moved).total)
        self.assertGreater(np.abs(after - before).max(), 0.05)

    def test_set_and_taken_away_and_carried_along(self) -> None:
        shot = self.shot(cues=[{"place_m": (1, 2, 3)}, {}])
        boat = {"type": "set_cues", "cues": ["cue-0"], "on": BOAT.model_dump()}
        on = edited(shot, boat).cues[0]
        self.assertEqual((on.on, on.place_m, on.placed), (BOAT, None, True))
        cart = {"type": "set_cues", "cues": ["cue-0", "cue-1"], "on": {"kind": "mount", "mount": "cart"}}
        both = edited(shot, cart)
        gone = edited(both, {"type": "remove_mount", "mount": "cart"})
        self.assertEqual([cue.on for cue in gone.cues], [None, None])
        back = edited(both, {"type": "set_cues", "cues": ["cue-0"], "place_m": [0, 1, 0]}).cues[0]
        self.assertEqual((back.on, back.place_m), (None, (0.0, 1.0, 0.0)))
        nowhere = edited(both, {"type": "set_cues", "cues": ["cue-0"], "nowhere": True}).cues[0]
        self.assertFalse(nowhere.placed)
        later = InsertTime(frame=1.0, frames=10.0).apply(edited(shot, boat)).cues[0]
        assert isinstance(later.on, PointTarget)
        self.assertEqual((later.frame, later.on.x_m.at(shot.scope(later.frame))), (30.0, BOAT.x_m.at(shot.scope(20.0))))

    def test_what_cannot_be(self) -> None:
        for cue, fault in (
            ({"on": {"kind": "mount", "mount": "boom"}}, "cues\\[0\\].on names the mount 'boom'"),
            ({"on": {"kind": "subject"}, "place_m": (0, 0, 0)}, "not both"),
            ({"on": {**BOAT.model_dump(), "x_m": {"state": "formula", "text": "panic"}}}, "cannot read a dial"),
        ):
            with self.subTest(fault), self.assertRaisesRegex(ValidationError, fault):
                self.shot(cues=[cue])
        path = BOAT.replace(x_m=keyed(*((n, 0.1 * n) for n in range(101))))
        with self.assertRaisesRegex(ValidationError, "202,000 keys"):
            self.shot(cues=[{"on": path}] * 2000)


class Followed(unittest.TestCase):
    def test_an_operator_keeps_each_target_at_its_place_and_goes_over_late(self) -> None:
        shot = aimed(changes=({"frame": 60.0, "target": BOAT},))
        late = 60.0 + 24 * 0.25
        boat = position_m(shot, HoldFraming(target=BOAT), shot.scope(np.array([144.0])))[0]
        self.assertAlmostEqual(seen_by(shot, np.array([-1.0, 1.6, -6.0]), 59.0), 0.0, delta=0.05)
        self.assertAlmostEqual(seen_by(shot, np.array([-1.0, 1.6, -6.0]), late - 0.5), 0.0, delta=0.05)
        self.assertLess(abs(seen_by(shot, boat, 144.0)), 0.5)
        pan = evaluate(shot, np.arange(50.0, 110.0)).pose.angles_deg[:, 0]
        self.assertGreater(np.ptp(pan), 20.0)
        self.assertLess(np.max(np.abs(np.diff(pan))), 0.2 * np.ptp(pan), "it swings over, it does not jump")
        part = evaluate(shot, np.array([80.0, 81.0])).pose.angles_deg
        np.testing.assert_allclose(part, evaluate(shot).pose.angles_deg[79:81], atol=1e-9)

    def test_a_point_is_followed_without_any_subject(self) -> None:
        shot = aimed(target=BOAT).replace(subject=None)
        self.assertLess(np.max(np.abs(misses_px(shot, evaluate(shot))[24:, 0])), 60.0, "its lag at that speed")
        still = aimed().replace(subject=None)
        np.testing.assert_array_equal(evaluate(still).pose.angles_deg, evaluate(still).bare.angles_deg)

    def test_looking_ahead_does_not_bring_the_change_itself_forward(self) -> None:
        shot = aimed(anticipation_s=0.5, reaction_s=0.0, changes=({"frame": 60.0, "target": BOAT},))
        self.assertAlmostEqual(seen_by(shot, np.array([-1.0, 1.6, -6.0]), 59.0), 0.0, delta=0.05)

    def test_the_hold_keeps_a_point_where_it_sits(self) -> None:
        shot = shot_with(subject=POST, mounts=EYE[1:], hold=HoldFraming(target=BOAT), last_frame=96)
        self.assertLess(np.max(np.abs(misses_px(shot, evaluate(shot))[:, :2])), 10.0)
        loose = shot.replace(hold=HoldFraming(target=BOAT, weight=fixed(0.0)))
        self.assertGreater(np.max(np.abs(misses_px(loose, evaluate(loose))[:, :2])), 500.0)


class Editing(unittest.TestCase):
    AT = "mount:camera.operator"

    def follows(self, shot: Shot) -> Operator:
        operator = shot.mounts[-1].operator
        assert operator is not None
        return operator

    def test_taken_at_a_frame_moved_and_let_be(self) -> None:
        target = BOAT.model_dump()
        shot = edited(aimed(), {"type": "follow_target", "at": self.AT, "frame": 48, "target": target})
        self.assertEqual([change.frame for change in self.follows(shot).changes], [48.0])
        shot = edited(shot, {"type": "follow_target", "at": self.AT, "frame": 20, "target": {"kind": "subject"}})
        shot = edited(shot, {"type": "follow_other", "at": self.AT, "frame": 48, "to_frame": 10})
        changes = [(each.frame, each.target.kind) for each in self.follows(shot).changes]
        self.assertEqual(changes, [(10.0, "point"), (20.0, "subject")])
        shot = edited(shot, {"type": "follow_other", "at": self.AT, "frame": 10, "to_frame": None})
        self.assertEqual([each.frame for each in self.follows(shot).changes], [20.0])
        with self.assertRaisesRegex(EditError, "no other target is taken at frame 99"):
            edited(shot, {"type": "follow_other", "at": self.AT, "frame": 99, "to_frame": None})
        with self.assertRaisesRegex(EditError, "no operator or hold follows a target here"):
            edited(shot_with(), {"type": "follow_target", "at": "shot.hold", "target": target})
        with self.assertRaisesRegex(EditError, "which does not exist"):
            edited(shot, {"type": "follow_target", "at": self.AT, "target": {"kind": "mount", "mount": "gone"}})

    def test_the_point_that_the_lens_looks_at(self) -> None:
        shot = edited(aimed(), {"type": "follow_point", "at": self.AT, "seen_at": 1, "frame": None})
        point = self.follows(shot).target
        assert isinstance(point, PointTarget)
        away = float(np.hypot(1.0, 6.0))
        np.testing.assert_allclose([point.x_m.constant, point.y_m.constant, point.z_m.constant], [0.0, 1.6, -away])

    def test_a_mount_that_goes_is_followed_no_more_and_time_edits_carry_changes(self) -> None:
        hold = HoldFraming(target=MountTarget(mount="arm"), changes=(TargetChange(frame=40.0, target=SubjectTarget()),))
        shot = shot_with(subject=POST, mounts=(*EYE, Mount(id="arm", name="Arm")), hold=hold)
        with self.assertRaisesRegex(DocumentError, "follows the mount 'arm', which does not exist"):
            shot.replace(mounts=EYE)
        gone = edited(shot, {"type": "remove_mount", "mount": "arm"})
        assert gone.hold is not None
        self.assertEqual(gone.hold.target, SubjectTarget())
        later = InsertTime(frame=20, frames=10).apply(shot)
        assert later.hold is not None
        self.assertEqual(later.hold.changes[0].frame, 50.0)

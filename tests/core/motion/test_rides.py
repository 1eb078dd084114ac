import unittest
from unittest.mock import patch

import numpy as np
from scipy.spatial.transform import Rotation

from tests.core.making import over, shot_with
from zittern.core.documents.doc import Doc
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import Number, by_formula, fixed, keyed, on_curve
from zittern.core.rig import rotations, transforms, turns
from zittern.core.shot.dials import Dial
from zittern.core.shot.mounts import Mount
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot

SLED = Ride(
    object="sled", x_m=keyed((1, 0.0), (60, 4.0), (120, 1.0)), z_m=keyed((1, -3.0), (120, -9.0)),
    pan_deg=keyed((1, 0.0), (120, 150.0)),
    tilt_deg=keyed((30, 0.0), (90, 20.0)),
)  # fmt: skip
MOUNT = Mount(
    id="camera",
    name="Camera",
    x_m=fixed(0.5),
    y_m=keyed((1, 1.6), (120, 2.0)),
    z_m=fixed(-2.0),
    pan_deg=keyed((1, 10.0), (120, -30.0)),
)


def shot(ride: Ride | None, **fields: object) -> Shot:
    return shot_with(mounts=(MOUNT.replace(ride=ride, **fields),), last_frame=120)


def switched(*points: tuple[float, float]) -> Number:
    return on_curve(Curve(keys=tuple(Key(frame=frame, value=value, interp="hold") for frame, value in points)))


def poses(shot: Shot, frames: np.ndarray) -> np.ndarray:
    motion = evaluate(shot, frames)
    return transforms.from_parts(motion.pose.position_m, motion.pose.angles_deg)


class Riding(unittest.TestCase):
    FRAMES = np.linspace(1.0, 120.0, 301)

    def test_with_full_weight_it_is_fixed_on_the_object(self) -> None:
        scope = over(self.FRAMES)
        sled = transforms.from_parts(SLED.position_m(scope), SLED.angles_deg(scope))
        wanted = sled @ np.linalg.inv(sled[:1]) @ poses(shot(None), self.FRAMES)
        np.testing.assert_allclose(poses(shot(SLED), self.FRAMES), wanted, atol=1e-9)

    def test_it_comes_on_and_goes_off_without_a_jump_and_keeps_its_offset(self) -> None:
        weight = switched((1, 0.0), (40, 1.0), (80, 0.0))
        got = poses(shot(SLED.replace(position_weight=weight, rotation_weight=weight)), self.FRAMES)
        free = poses(shot(None), self.FRAMES)
        np.testing.assert_allclose(got[self.FRAMES <= 40], free[self.FRAMES <= 40], atol=1e-12)
        step = np.linalg.norm(np.diff(got[:, :3, 3], axis=0), axis=1)
        self.assertLess(step.max(), 3 * np.median(step[(self.FRAMES[1:] > 45) & (self.FRAMES[1:] < 75)]))
        after = self.FRAMES > 80.5
        carried = got[after] @ np.linalg.inv(free[after])
        np.testing.assert_allclose(carried, np.broadcast_to(carried[:1], carried.shape), atol=1e-9)
        self.assertGreater(np.linalg.norm(carried[0, :3, 3]), 0.5)

    def test_place_and_turn_have_weights_of_their_own(self) -> None:
        place = evaluate(shot(SLED.replace(rotation_weight=fixed(0.0))), self.FRAMES)
        np.testing.assert_allclose(place.pose.position_m, evaluate(shot(SLED), self.FRAMES).pose.position_m, atol=1e-9)
        np.testing.assert_allclose(place.pose.angles_deg, evaluate(shot(None), self.FRAMES).pose.angles_deg, atol=1e-9)
        turn = evaluate(shot(SLED.replace(position_weight=fixed(0.0), tilt_deg=fixed(0.0))), self.FRAMES)
        np.testing.assert_allclose(turn.pose.position_m, evaluate(shot(None), self.FRAMES).pose.position_m, atol=1e-9)
        np.testing.assert_allclose(turn.pose.angles_deg[-1, 0], -30.0 + 150.0, atol=1e-6)

    def test_at_partial_weights_each_step_of_time_counts_by_its_weight_about_the_objects_origin(self) -> None:
        weights = {"position_weight": keyed((1, 0.2), (120, 0.9)), "rotation_weight": keyed((1, 0.7), (120, 0.1))}
        got = evaluate(shot(SLED.replace(**weights)), np.array([120.0])).pose
        # One step after another, naively: O' by w of the way, about O by exp(w log R).
        times = np.linspace(1.0, 120.0, 6001)
        places, angles = SLED.position_m(over(times)), SLED.angles_deg(over(times))
        turned = Rotation.from_euler("YXZ", angles, degrees=True)
        where, stand = np.zeros(3), Rotation.identity()
        free = evaluate(shot(None), np.array([120.0])).pose
        where = free.position_m[0].copy()
        middle = over(0.5 * (times[1:] + times[:-1]))
        w_place, w_turn = weights["position_weight"].sample(middle), weights["rotation_weight"].sample(middle)
        for i in range(len(times) - 1):
            log = (turned[i + 1] * turned[i].inv()).as_rotvec()
            where = (
                places[i]
                + w_place[i] * (places[i + 1] - places[i])
                + Rotation.from_rotvec(w_place[i] * log).apply(where - places[i])
            )
            stand = Rotation.from_rotvec(w_turn[i] * log) * stand
        np.testing.assert_allclose(got.position_m[0], where, atol=2e-3)
        wanted = (stand * Rotation.from_euler("YXZ", free.angles_deg[0], degrees=True)).as_matrix()
        np.testing.assert_allclose(rotations.matrices(got.angles_deg)[0], wanted, atol=1e-3)

    def test_a_part_equals_the_same_rows_of_the_whole_and_held_mounts_do_not_ride(self) -> None:
        whole = poses(shot(SLED), np.arange(1.0, 121.0))
        np.testing.assert_allclose(poses(shot(SLED), np.array([77.0, 78.0])), whole[76:78], atol=1e-12)
        np.testing.assert_allclose(
            poses(shot(SLED, mute=True), np.array([90.0])), poses(shot(None), np.array([1.0])), atol=1e-12
        )


class Cached(unittest.TestCase):
    """What rides accumulate is in the bounded cache, not on documents."""

    def test_edits_of_a_long_shot_hold_no_arrays_on_documents_and_compute_the_ride_once(self) -> None:
        cache, documents, made = Cache(), [], []
        chained = turns.chained

        def counted(steps: np.ndarray) -> np.ndarray:
            made.append(len(steps))
            return chained(steps)

        with patch.object(turns, "chained", counted):
            for edit in range(12):
                document = shot(SLED).replace(last_frame=2000, name=f"Edit {edit}")
                document = document.replace(mounts=(document.mounts[0].replace(roll_deg=fixed(0.1 * edit)),))
                motion = evaluate(document, cache=cache)
                documents.append(document)
        self.assertEqual(len(made), 2, "one for places, one for turns")
        self.assertLess(cache.bytes, 64 * 2**20)
        for document in documents:
            self.assertEqual(arrays_on(document), [])
        fresh = evaluate(documents[-1])
        np.testing.assert_allclose(motion.pose.position_m, fresh.pose.position_m, atol=1e-12)

    def test_a_dial_that_its_weight_reads_counts(self) -> None:
        cache = Cache()
        ride = SLED.replace(position_weight=by_formula("hold", fixed(1.0)))
        dials = [Dial(name="hold", minimum=0.0, maximum=1.0, value=fixed(value)) for value in (0.2, 1.0)]
        for dial in dials:
            document = shot_with(mounts=(MOUNT.replace(ride=ride),), last_frame=120, dials=(dial,))
            found = evaluate(document, cache=cache).pose.position_m
            np.testing.assert_array_equal(found, evaluate(document).pose.position_m)


def arrays_on(doc: Doc) -> list[str]:
    """Arrays cached on a document or its parts; those of a curve's own keys aside."""
    found = []
    for name, value in doc.__dict__.items():
        for each in value.values() if isinstance(value, dict) else value if isinstance(value, tuple) else (value,):
            if isinstance(each, np.ndarray):
                found.append(f"{type(doc).__name__}.{name}")
            elif isinstance(each, Doc) and not isinstance(each, Curve):
                found += arrays_on(each)
    return found

import random
import unittest
import warnings
from dataclasses import replace
from typing import ClassVar, Literal, TypeVar

import numpy as np

from tests.core.making import layer, shot_with
from tools import fuzz_cache
from zittern.core.documents.doc import Doc
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.evaluation import Evaluation
from zittern.core.motion.facts import FACTS, with_facts
from zittern.core.motion.move import bare_places, bare_poses
from zittern.core.numbers.param import fixed, keyed
from zittern.core.shot.mounts import Mount
from zittern.core.shot.reads import reads_of
from zittern.core.shot.shot import Shot, Subject
from zittern.core.sources.gait import Gait
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array

WALK = shot_with(
    mounts=(
        Mount(
            id="camera",
            name="Camera",
            y_m=fixed(1.5),
            z_m=keyed((1, 0.0), (241, -20.0), interp="linear"),
            pan_deg=fixed(90.0),
        ),
    ),
    subject=Subject.at("post", (0.0, 1.5, -5.0)),
)


class Facts(unittest.TestCase):
    def facts(self, shot: Shot, frames: list[float]) -> dict[str, np.ndarray]:
        run = Evaluation(shot, np.array(frames), Cache())
        with_facts(run)
        return {name: run.scope.values[name](run.frames) for name in FACTS}

    def test_of_a_walk_past_a_post(self) -> None:
        facts = self.facts(WALK, [1.0, 61.0, 121.0])
        np.testing.assert_allclose(facts["speed"], 2.0, atol=1e-9)
        np.testing.assert_allclose(facts["height"], 1.5)
        np.testing.assert_allclose(facts["distance"], [5.0, 0.0, 5.0], atol=1e-9)
        np.testing.assert_allclose(facts["bearing"][[0, 2]], [-90.0, 90.0], atol=1e-9)

    def test_at_the_ends_of_the_shot_it_goes_as_fast_as_just_inside(self) -> None:
        z = keyed((1, 0.0), (121, -10.0), interp="linear")
        short = WALK.replace(last_frame=121, mounts=(WALK.mounts[0].replace(z_m=z),))
        np.testing.assert_allclose(self.facts(short, [1.0, 1.1, 60.0, 120.9, 121.0])["speed"], 2.0, atol=1e-9)

    def test_without_a_subject(self) -> None:
        facts = self.facts(WALK.replace(subject=None), [1.0])
        self.assertEqual((facts["distance"][0], facts["bearing"][0]), (0.0, 0.0))


D = TypeVar("D", bound=Doc)


def unchecked(doc: D, **changes: object) -> D:
    """A document with parts that its schema does not know yet."""
    return type(doc).model_construct(**{name: getattr(doc, name) for name in type(doc).model_fields} | changes)


class Stepping(SourceDoc):
    """A source that asks how fast the camera goes, as steps will."""

    reads: ClassVar[frozenset[str]] = frozenset({"speed"})
    kind: Literal["stepping"] = "stepping"

    def motion(self, inputs: Inputs) -> Array:
        return np.repeat(inputs.scope.values["speed"](inputs.scope.frames)[:, None], len(inputs.axes), axis=1)


class Reading(unittest.TestCase):
    def test_a_fact_that_changes_never_leaves_stale_motion(self) -> None:
        warnings.simplefilter("ignore")  # pydantic's, about the source that the schema does not know
        self.addCleanup(warnings.resetwarnings)
        sway = layer(swings={"pan": 2.0})
        stepping = unchecked(sway, source=Stepping())
        slow = unchecked(
            WALK, lanes=(unchecked(WALK.lanes[0], clips=(unchecked(WALK.lanes[0].clips[0], layers=(stepping,)),)),)
        )
        self.assertEqual((reads_of(stepping), reads_of(sway)), (frozenset({"speed"}), frozenset()))
        cache = Cache()
        np.testing.assert_allclose(evaluate(slow, cache=cache).total[:, 0], 2.0, atol=1e-6)
        mounts = (WALK.mounts[0].replace(z_m=keyed((1, 0.0), (241, -40.0), interp="linear")),)
        fast = unchecked(slow, mounts=mounts)
        np.testing.assert_allclose(evaluate(fast, cache=cache).total[:, 0], 4.0, atol=1e-6)

    def test_what_reads_nothing_is_met_again_when_the_move_changes(self) -> None:
        cache, shot = Cache(), shot_with(layer())
        first = evaluate(shot, cache=cache)
        moved = shot.replace(mounts=(shot.mounts[0].replace(x_m=fixed(3.0)),))
        self.assertIs(evaluate(moved, cache=cache).layers["sway"], first.layers["sway"])

    def test_scopes_keep_their_values_at_other_frames(self) -> None:
        scope = replace(WALK.scope(1.0), values={"speed": lambda frames: frames * 2})
        other = scope.over(np.array([7.0]))
        self.assertEqual((other.values["speed"](other.frames)[0], other.seconds[0]), (14.0, 0.25))


class MadeOf(unittest.TestCase):
    def test_turns_at_the_lens_leave_what_follows_the_speed_alone(self) -> None:
        gait = Gait.model_validate({"follows": "the path"})
        walk = Mount(id="walk", name="Walk", z_m=keyed((1, 0.0), (241, -12.0)), pan_deg=keyed((1, 0.0), (241, 9.0)))
        head = Mount(id="head", name="Head", tilt_deg=keyed((1, 0.0), (100, 5.0)))
        shot = shot_with(layer("steps", gait), mounts=(walk, head), last_frame=241)
        cache = Cache()
        before = evaluate(shot, cache=cache).layers["steps"]
        for mounts, same in (
            ((walk, head.replace(roll_deg=fixed(4.0))), True),
            ((walk.replace(pan_deg=fixed(3.0)), head), True),
            ((walk, head.replace(pivot_m=(0.0, 0.0, 0.3))), False),
            ((walk, head.replace(length_m=fixed(1.0))), False),
            ((walk.replace(z_m=keyed((1, 0.0), (241, -8.0))), head), False),
        ):
            after = evaluate(shot.replace(mounts=mounts), cache=cache).layers["steps"]
            self.assertEqual(after is before, same)
            np.testing.assert_array_equal(after, evaluate(shot.replace(mounts=mounts)).layers["steps"])


class Places(unittest.TestCase):
    def test_where_the_lens_is_without_working_out_how_it_is_turned(self) -> None:
        frames = np.linspace(-20.0, 120.0, 57)
        seen = 0
        for number in range(30):
            shot = fuzz_cache.made(random.Random(number))
            scope = shot.scope(frames)
            np.testing.assert_allclose(
                bare_places(shot, scope), bare_poses(shot, scope)[:, :3, 3], atol=1e-9, err_msg=str(number)
            )
            self.assertEqual(bare_places(shot, scope.over(frames[:0])).shape, (0, 3))
            seen += all(mount.ride is None for mount in shot.mounts) and len(shot.mounts) > 1
        self.assertGreater(seen, 5)

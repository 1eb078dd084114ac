import random
import unittest

import numpy as np

from tests.core.making import edited, layer, shot_with, use_rig
from tools import fuzz_making
from zittern.core.edits.rig import RemoveMount
from zittern.core.errors import DocumentError, EditError, NotFound
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.dials import Dial
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming, Operator
from zittern.core.shot.shot import Shot
from zittern.core.shot.springs import Springs
from zittern.core.shot.targets import MountTarget
from zittern.core.shot.through_variant import alone, as_stored, through_variant
from zittern.core.shot.upgrades import read_shot, write_shot

RIG = (
    Mount(id="base", name="Base", x_m=keyed((1, 0.0), (200, 4.0))),
    Mount(id="arm", name="Arm", springs=Springs(turn_hz=2.0)),
    Mount(id="camera", name="Camera", operator=Operator()),
)
# What each kind of edit is about: all variants alike.
EVERYWHERE: tuple[dict[str, object], ...] = (
    {"type": "insert_time", "frame": 40, "frames": 12},
    {"type": "insert_time", "frame": 40, "frames": 12, "runs": "keep"},
    {"type": "take_out_time", "first_frame": 30, "last_frame": 50},
    {"type": "stretch_time", "first_frame": 30, "last_frame": 50, "frames": 40},
    {"type": "ease_time", "first_frame": 20, "last_frame": 60},
    {"type": "reverse_time", "first_frame": 20, "last_frame": 60},
    {"type": "shift_after", "frame": 30, "by_frames": 9},
    {"type": "conform_to_cut", "first_frame": 10, "last_frame": 60, "frames": 80, "handles": 4},
    {"type": "set_shot", "fps": {"num": 48}, "keep": "seconds"},
)  # fmt: skip


def two() -> Shot:
    """A shot with springs, an operator, a hold, a dial and layers; and a variant that differs in all of them."""
    shot = shot_with(
        layer(axes=layer().axes.replace(pan=layer().axes.pan.replace(swing=by_formula("panic / 50", fixed(1.0))))),
        layer("arm-shake", seed=4, target="arm", weight=keyed((10, 0.0), (60, 1.0))),
        mounts=RIG,
        dials=(Dial(name="panic", value=fixed(20.0)),),
        hold=HoldFraming(target=MountTarget(mount="arm")),
        last_frame=120,
        clip={"span_frames": (5.0, 100.0)},
    )
    calm = edited(shot, {"type": "add_variant", "name": "Calm"})
    sway = next(found.id for _, found in calm.layers() if found.name == "Sway")
    return edited(
        calm,
        {"type": "remove_layers", "layers": [sway]},
        {
            "type": "set_values",
            "values": [{"at": "mount:arm.springs", "value": None}, {"at": "shot.hold", "value": None}],
        },
        {"type": "set_values", "values": [{"at": "dial:panic.value", "value": 70.0}]},
    )


class Swapping(unittest.TestCase):
    def test_each_variant_has_its_own_of_all_that_makes_motion(self) -> None:
        calm = two()
        main = as_stored(calm)
        self.assertEqual((calm.variant, main.variant, calm.main), ("variant-1", "main", "main"))
        for shot, layers, panic, springs, hold in ((main, 2, 20.0, True, True), (calm, 1, 70.0, False, False)):
            self.assertEqual(sum(1 for _ in shot.layers()), layers)
            self.assertEqual(shot.dials[0].value.constant, panic)
            self.assertEqual((shot.mounts[1].springs is not None, shot.hold is not None), (springs, hold))
            self.assertIsNotNone(shot.mounts[2].operator)

    def test_there_and_back_nothing_is_another(self) -> None:
        for number in range(20):
            rng = random.Random(number)
            shot = fuzz_making.made(rng)
            for _ in range(25):
                shot = fuzz_making.edited(shot, rng)
            fresh = read_shot(write_shot(shot))
            for each in shot.variants:
                self.assertEqual(through_variant(through_variant(fresh, each.id), shot.variant), shot)
                self.assertEqual(through_variant(shot, each.id), through_variant(fresh, each.id))

    def test_a_variant_moves_as_a_shot_that_has_it_alone(self) -> None:
        calm = two()
        for shot in (calm, as_stored(calm)):
            np.testing.assert_array_equal(evaluate(shot).pose.position_m, evaluate(alone(shot)).pose.position_m)
            self.assertEqual(len(alone(shot).variants), 1)
        apart = np.abs(evaluate(calm).pose.angles_deg - evaluate(as_stored(calm)).pose.angles_deg)
        self.assertGreater(float(apart.max()), 0.05)

    def test_by_name_too_and_what_is_not_there_is_said(self) -> None:
        calm = two()
        self.assertIs(through_variant(calm, "Calm"), calm)
        self.assertEqual(through_variant(calm, "Main").variant, "main")
        with self.assertRaisesRegex(NotFound, "no variant 'Wild'.*“Main”, “Calm”"):
            through_variant(calm, "Wild")


class Refused(unittest.TestCase):
    def test_documents_whose_variants_do_not_fit(self) -> None:
        main = as_stored(two())
        text = write_shot(main)
        for old, new, says in (
            ('"id":"arm-shake-1"', '"id":"arm-shake"', "as another one has; ids are unique"),
            ('"main":"main"', '"main":"other"', "main variant 'other' does not exist"),
            ('"target":"arm"', '"target":"gone"', "the mount 'gone', which does not exist"),
            (
                '"dial":"panic","value":{"state":"fixed","value":70.0}',
                '"dial":"panic","value":{"state":"fixed"}',
                "value",
            ),
        ):
            at = text.rindex(old)
            with self.assertRaisesRegex(DocumentError, says):
                read_shot(text[:at] + new + text[at + len(old) :])
        with self.assertRaisesRegex(DocumentError, "expected one active variant in the shot, found 0"):
            main.replace(variants=tuple(each for each in main.variants if each.aside is not None), main="variant-1")


class Everywhere(unittest.TestCase):
    def test_edits_of_time_reach_each_variant_as_they_reach_a_shot_that_has_it_alone(self) -> None:
        calm = two()
        for fields in EVERYWHERE:
            after = edited(calm, fields)
            for name in ("Main", "Calm"):
                single = edited(alone(through_variant(calm, name)), fields)
                reached = through_variant(after, name)
                with self.subTest(fields=fields, variant=name):
                    one, other = evaluate(reached), evaluate(single)
                    np.testing.assert_array_equal(one.total, other.total)
                    np.testing.assert_allclose(one.pose.position_m, other.pose.position_m, atol=1e-9)
                    self.assertEqual((reached.first_frame, reached.last_frame), (single.first_frame, single.last_frame))

    def test_of_random_shots_too_and_no_id_is_twice(self) -> None:
        reached = 0
        for number in range(8):
            rng = random.Random(number)
            shot = fuzz_making.made(rng)
            for _ in range(6):
                shot = fuzz_making.edited(shot, rng)
            shot = edited(shot, {"type": "add_variant"})
            fields = rng.choice(EVERYWHERE)
            try:
                after = edited(shot, fields)
            except EditError:
                continue
            # Variants have most in common; each side remembers for itself.
            ours, theirs = Cache(), Cache()
            for each in after.variants:
                single = evaluate(edited(alone(through_variant(shot, each.id)), fields), cache=theirs)
                np.testing.assert_array_equal(evaluate(through_variant(after, each.id), cache=ours).total, single.total)
                reached += 1
        self.assertGreater(reached, 10)

    def test_a_dial_is_renamed_limited_and_removed_in_all(self) -> None:
        calm = two()
        renamed = edited(calm, {"type": "set_dial", "dial": "panic", "name": "fear", "maximum": 50.0})
        main = as_stored(renamed)
        self.assertEqual([main.dials[0].value.constant, renamed.dials[0].value.constant], [20.0, 50.0])
        self.assertIn("fear", write_shot(alone(main)))
        self.assertNotIn("panic", write_shot(renamed))
        with self.assertRaisesRegex(EditError, "in the variant “Main”: dial panic is read by “Sway”"):
            edited(calm, {"type": "remove_dial", "dial": "panic"})
        left = edited(calm, {"type": "remove_dial", "dial": "panic", "leave": True})
        self.assertIn("20.0 / 50", write_shot(as_stored(left)))

    def test_mounts_and_dials_that_come_and_go(self) -> None:
        calm = two()
        without = edited(calm, {"type": "remove_mount", "mount": "arm"})
        main = as_stored(without)
        self.assertEqual([each.target for _, each in main.layers()], [None, None])
        self.assertEqual(main.hold, HoldFraming())
        more = edited(calm, {"type": "add_mount", "kind": "hands"}, {"type": "add_dial", "name": "sea", "value": 30.0})
        main = as_stored(more)
        self.assertEqual([mount.id for mount in main.mounts], ["base", "arm", "camera", "hands"])
        self.assertEqual([dial.value.constant for dial in main.dials], [20.0, 30.0])
        moved = edited(main, {"type": "set_values", "values": [{"at": "dial:sea.value", "value": 80.0}]})
        self.assertEqual(through_variant(moved, "Calm").dials[1].value.constant, 30.0)

    def test_a_ready_rig_takes_no_mount_away_that_another_variant_works_on(self) -> None:
        plain = shot_with(layer(), mounts=(*RIG[:1], Mount(id="arm", name="Arm")))
        other = edited(plain, {"type": "add_variant", "name": "B"}, {"type": "add_layer", "source": "wave"})
        wave = next(each for _, each in other.layers() if each.source.kind == "wave")
        other = edited(other, {"type": "set_values", "values": [{"at": f"layer:{wave.id}.target", "value": "arm"}]})
        rigged = edited(as_stored(other), use_rig("shoulder"))
        self.assertIn("arm", [mount.id for mount in rigged.mounts])
        self.assertNotIn("arm", [mount.id for mount in edited(plain, use_rig("shoulder")).mounts])

    def test_what_it_cannot_do_in_one_it_does_in_none(self) -> None:
        shot = shot_with(layer(), mounts=(Mount(id="base", name="Base"), Mount(id="arm", name="Arm")))
        other = edited(shot, {"type": "add_variant", "name": "B"})
        aimed = edited(other, {"type": "set_values", "values": [{"at": "mount:arm.operator", "value": {}}]})
        with self.assertRaisesRegex(EditError, "in the variant “B”: .*Operator"):
            edited(as_stored(aimed), RemoveMount(mount="arm", keep_picture=True).model_dump())

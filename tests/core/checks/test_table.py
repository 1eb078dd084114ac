import random
import unittest

import numpy as np

from tests.core.checks.broken import BROKEN, beside, clip, moving, own, sound, strolled_through
from tests.core.making import edited, layer
from tools import fuzz_cache
from tools.demo.shots import SHOTS
from zittern.core.checks.finding import Finding
from zittern.core.checks.table import CHECKS, check, named
from zittern.core.edits.table import apply
from zittern.core.errors import BadInput
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.param import fixed, on_curve
from zittern.core.shot.shot import Subject
from zittern.core.sources.noise import Noise


def key(found: Finding) -> tuple[str, str | None]:
    return found.check, found.at


class Catalogue(unittest.TestCase):
    def test_a_sound_shot_has_no_findings(self) -> None:
        self.assertEqual([found.says for found in check(sound()).findings], [])

    def test_each_broken_shot_gives_its_finding_and_no_other_of_weight(self) -> None:
        for name, broken in BROKEN.items():
            with self.subTest(name):
                found = check(broken.shot).findings
                mine = [each for each in found if each.check == broken.check]
                self.assertTrue(mine, [each.says for each in found])
                self.assertEqual({each.weight for each in mine}, {broken.weight}, [each.says for each in mine])
                others = [each.says for each in found if each.weight and each.check != broken.check]
                self.assertEqual(others, [])
                for each in mine:
                    self.assertTrue(np.isfinite(each.amount))
                    self.assertLessEqual(each.frames[0], each.frames[1])

    def test_every_fix_takes_its_finding_away_and_adds_none_of_weight(self) -> None:
        for name, broken in BROKEN.items():
            found = [each for each in check(broken.shot).findings if each.check == broken.check]
            for each in found:
                if each.fix is None or not broken.mended:
                    continue
                with self.subTest(name, fix=each.fix.says):
                    after = check(apply(broken.shot, each.fix.command)).findings
                    self.assertNotIn(key(each), [key(other) for other in after])
                    known = {key(other) for other in found}
                    added = [other.says for other in after if other.weight and key(other) not in known]
                    self.assertEqual(added, [])
        without = [
            name
            for name, broken in BROKEN.items()
            if broken.mended and not any(each.fix for each in check(broken.shot).findings if each.check == broken.check)
        ]
        self.assertEqual(without, [])

    def test_a_ramp_is_offered_only_where_it_has_room(self) -> None:
        for last, said in ((1.0, None), (4.0, "a ramp of 1 frame"), (13.0, "a ramp of 4 frames")):
            shot = beside(clip("blink", own("blink"), span_frames=(1.0, last)))
            found = [each.fix for each in check(shot).findings if each.check == "pop" and each.at == "clip:blink"]
            self.assertTrue(found)
            self.assertEqual({each and each.says for each in found}, {said})

    def test_halves_that_continue_each_other_are_no_pop_and_one_alone_is(self) -> None:
        for last in (240, 4320):
            whole = beside(clip("long", own("long"), span_frames=(1.0, float(last)))).replace(last_frame=last)
            for frame in (77.0, last / 2, last - 60.0):
                cut = edited(whole, {"type": "split_clip", "clip": "long", "frame": frame})
                self.assertEqual([each.says for each in check(cut, named(["pop"])).findings], [])
                first, second = [each.id for each in cut.clips() if each.span_frames is not None]
                for gone in (first, second):
                    alone = edited(cut, {"type": "remove_clip", "clip": gone})
                    self.assertTrue(check(alone, named(["pop"])).findings, (frame, gone))

    def test_what_moves_the_picture_is_never_said_to_do_nothing(self) -> None:
        hit = {"type": "add_layer", "source": "hit"}
        alone = edited(sound(), hit)
        name = next(each.id for _, each in alone.layers() if each.source.impulsive)
        values = ({}, {"rhythm_hz": 2.0}, {"rhythm_hz": 2.0, "at_start": False}, {"at_start": False})
        for each in values:
            shot = edited(
                alone,
                *(
                    {"type": "set_values", "values": [{"at": f"layer:{name}.source.{field}", "value": value}]}
                    for field, value in each.items()
                ),
            )
            moves = float(np.max(np.abs(evaluate(shot).layers[name]))) > 0.01
            silent = [found.says for found in check(shot).findings if found.check == "silent"]
            self.assertEqual((moves, bool(silent)), (each != {"at_start": False}, each == {"at_start": False}), each)

    def test_a_seam_is_at_the_last_frame(self) -> None:
        found = [
            each
            for broken in BROKEN.values()
            if broken.check == "seam"
            for each in check(broken.shot).findings
            if each.check == "seam"
        ]
        self.assertEqual({each.frames for each in found}, {(240.0, 240.0)})
        self.assertIn(None, {each.at for each in found})
        self.assertGreater(len({each.at for each in found}), 1)

    def test_every_check_is_in_the_catalogue(self) -> None:
        self.assertEqual({each.name for each in CHECKS}, {broken.check for broken in BROKEN.values()})


class Paths(unittest.TestCase):
    def test_a_fix_takes_all_corners_away_or_is_not_offered(self) -> None:
        handles = {"interp": "free", "handle_in": (-9.0, -30.0), "handle_out": (9.0, -30.0)}
        for frames, last in (((1, 120, 240), {}), ((1, 120, 123, 126, 240), {}), ((1, 60, 120, 240), handles)):
            values = [0.0 if n % 2 == 0 else 12.0 for n in range(len(frames))]
            keys = [Key(frame=frame, value=value, interp="linear") for frame, value in zip(frames, values, strict=True)]
            keys[-2] = keys[-2].replace(**last)
            (mount,) = moving(pan_deg=on_curve(Curve(keys=tuple(keys)))).mounts
            shot = sound(mounts=(mount,), subject=None)
            (found,) = check(shot, named(["kink"])).findings
            after = found.fix and check(apply(shot, found.fix.command), named(["kink"])).findings
            self.assertIn(after, ((), None), found.says)
            self.assertTrue(found.fix is not None or last)

    def test_blur_names_both_streaks_and_a_whip_pan_is_no_shake(self) -> None:
        for name, fix in (("a whip pan", False), ("blurred", True)):
            (found,) = [each for each in check(BROKEN[name].shot).findings if each.check == "blur"]
            self.assertRegex(found.says, r"shake \d+ px, whole motion \d+ px")
            self.assertEqual(found.fix is not None, fix)


class Twins(unittest.TestCase):
    def test_a_lever_alone_makes_no_twins(self) -> None:
        for seed in range(12):
            held = layer("held", Noise(rate_hz=fixed(2.0)), seed, {"pan": 0.6, "tilt": 0.5})
            shot = sound(held.replace(lever_m=(0.5, 0.5)), base=False)
            self.assertEqual(check(shot, named(["twins"])).findings, ())

    def test_layers_with_seeds_of_their_own_are_no_twins(self) -> None:
        rng = random.Random(5)
        for _ in range(20):
            swings = {"pan": 0.5, "tilt": 0.4, "truck": 1.0, "pedestal": 1.0}
            rates = [rng.choice([0.8, 1.5, 3.0]) for _ in range(5)]
            layers = [
                layer(f"l{n}", Noise(rate_hz=fixed(hz)), rng.randrange(10**6), swings) for n, hz in enumerate(rates)
            ]
            self.assertEqual([each.says for each in check(sound(*layers, base=False), named(["twins"])).findings], [])


class Through(unittest.TestCase):
    def test_the_subject_itself_may_be_in_the_way(self) -> None:
        stack = Subject.at("Stack", (0.0, 1.6, -3.0)).replace(height_m=0.9)
        (found,) = check(strolled_through(subject=stack), named(["through"])).findings
        self.assertRegex(found.says, r"the lens is inside of “Stack” in \d+ frames")
        beside = Subject.at("Stack", (2.0, 1.6, -3.0)).replace(height_m=0.9)
        self.assertEqual(check(strolled_through(subject=beside), named(["through"])).findings, ())


class IgnoredFinding(unittest.TestCase):
    def test_it_is_quiet_until_it_is_worse_by_a_quarter(self) -> None:
        shot = BROKEN["a clip that starts at once"].shot
        (found,) = check(shot).findings
        ignored = edited(shot, {"type": "ignore_finding", "check": found.check, "at": found.at, "amount": found.amount})
        self.assertEqual((check(ignored).findings, [key(each) for each in check(ignored).ignored]), ((), [key(found)]))
        worse = edited(ignored, {"type": "scale_swings", "layers": ["sudden"], "factor": 1.4})
        self.assertEqual([key(each) for each in check(worse).findings], [key(found)])
        back = edited(ignored, {"type": "ignore_finding", "check": found.check, "at": found.at, "ignored": False})
        self.assertEqual([key(each) for each in check(back).findings], [key(found)])


class Chosen(unittest.TestCase):
    def test_some_by_name_and_names_that_do_not_exist(self) -> None:
        shot = BROKEN["blurred"].shot
        self.assertEqual(check(shot, named(["silent", "kink"])).findings, ())
        with self.assertRaisesRegex(BadInput, "there is no check 'blurr'"):
            named(["blurr"])


class Anything(unittest.TestCase):
    def test_random_shots_are_checked_with_finite_figures(self) -> None:
        for seed in range(40):
            with self.subTest(seed=seed):
                for each in check(fuzz_cache.made(random.Random(seed))).findings:
                    self.assertTrue(np.isfinite(each.amount) and each.says, each.says)

    def test_no_false_alarm_of_weight_on_the_demo(self) -> None:
        for slug, make in SHOTS.items():
            with self.subTest(slug):
                weighty = [each.check for each in check(make()).findings if each.weight]
                # Its edge shows by design.
                self.assertEqual(weighty, ["coverage"] if slug == "surge-plates" else [])


class Long(unittest.TestCase):
    def test_a_long_shot_is_looked_at_in_stretches_and_says_so(self) -> None:
        long = sound(last_frame=100_000)
        found = check(long)
        self.assertTrue(found.thinned)
        self.assertEqual([each.says for each in found.findings if each.weight], [])


if __name__ == "__main__":
    unittest.main()

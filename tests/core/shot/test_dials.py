import unittest

import numpy as np
from pydantic import ValidationError

from tests.core.making import contribution, edited, layer, over, shot_with
from zittern.core.errors import EditError
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate, evaluate_in_parts, joined
from zittern.core.numbers.param import by_formula, fixed, keyed
from zittern.core.shot.dials import Dial
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.upgrades import read_shot, write_shot

PAN = "layer:sway.axes.pan.swing"


def formula(at: str, text: str) -> dict[str, object]:
    return {"type": "set_formula", "formulas": [{"at": at, "text": text}]}


def with_dial(*more: dict[str, object], **fields: object) -> Shot:
    return edited(shot_with(layer(), layer("fast", seed=2), **fields), {"type": "add_dial", "name": "panic"}, *more)


RISING = {
    "type": "set_keys",
    "keys": [
        {"at": "dial:panic.value", "frame": 1, "value": 0},
        {"at": "dial:panic.value", "frame": 201, "value": 100},
    ],
}


class Names(unittest.TestCase):
    def test_what_a_dial_may_be_called(self) -> None:
        for name in ("t", "sin", "pi", "speed", "if", "", "2fast", "a b", "<b>", "x" * 41, "päng", "a-b", "__"):
            with self.subTest(name), self.assertRaises(ValidationError):
                Dial(name=name)
        self.assertEqual(Dial(name="Panic_2").name, "Panic_2")

    def test_limits_are_the_right_way_up_and_hold(self) -> None:
        for least, most in ((1.0, 1.0), (2.0, 1.0)):
            with self.assertRaisesRegex(ValidationError, "minimum of a dial must be below its maximum"):
                Dial(name="a", minimum=least, maximum=most)
        with self.assertRaisesRegex(ValidationError, "expected 0 to 100, got 101"):
            Dial(name="a", value=fixed(101.0))
        wild = Dial(
            name="a",
            value=keyed((1, 0.0), (10, 100.0), interp="linear").replace(
                curve=keyed((1, 0.0), (10, 100.0)).curve.replace(after="continue")
            ),
        )
        self.assertLessEqual(wild.sample(over(np.array([50.0])))[0], 100.0)


class Driving(unittest.TestCase):
    def test_one_dial_drives_many_numbers_within_their_ranges(self) -> None:
        shot = with_dial(
            {"type": "connect_dial", "dial": "panic", "at": [PAN, "layer:fast.weight"], "low": 0.0, "high": 2.0}, RISING
        )
        frames = np.array([1.0, 101.0, 201.0])
        motion = evaluate(shot, frames)
        np.testing.assert_allclose(motion.weights["fast"], [0.0, 1.0, 2.0], atol=1e-9)
        plain = evaluate(
            edited(shot, {"type": "set_values", "values": [{"at": PAN, "value": fixed(1.0).model_dump()}]}), frames
        )
        np.testing.assert_allclose(motion.layers["sway"][:, 0], plain.layers["sway"][:, 0] * [0.0, 1.0, 2.0], atol=1e-9)

    def test_a_dial_that_changes_never_leaves_stale_motion(self) -> None:
        cache = Cache()
        shot = with_dial(
            formula(PAN, "panic / 50"),
            formula("layer:fast.speed", "1 + panic / 100"),
            formula("layer:fast.source.rate_hz", "0.5"),
        )
        evaluate(shot, cache=cache)
        turned = edited(
            shot, {"type": "set_numbers", "frame": 1, "values": [{"at": "dial:panic.value", "value": 50.0}]}
        )
        fresh, met = evaluate(turned), evaluate(turned, cache=cache)
        for name, values in fresh.layers.items():
            np.testing.assert_array_equal(met.layers[name], values, err_msg=name)
        before = evaluate(shot).layers
        self.assertFalse(any(np.allclose(before[name], fresh.layers[name]) for name in before))

    def test_dials_read_dials_and_a_change_of_either_counts(self) -> None:
        cache = Cache()
        shot = with_dial(
            {"type": "add_dial", "name": "half"},
            formula("dial:half.value", "panic / 2"),
            formula(PAN, "half / 10"),
            RISING,
        )
        self.assertAlmostEqual(evaluate(shot, np.array([201.0]), cache).total.shape[0], 1)
        np.testing.assert_allclose(shot.scope(np.array([1.0, 201.0])).value("half"), [0.0, 50.0], atol=1e-9)
        still = edited(shot, {"type": "set_numbers", "frame": 1, "values": [{"at": "dial:panic.value", "value": 0.0}]})
        moved = edited(still, {"type": "delete_keys", "keys": [{"at": "dial:panic.value", "frame": 201}]})
        np.testing.assert_array_equal(evaluate(moved, np.array([201.0]), cache).layers["sway"][:, 0], 0.0)

    def test_speed_from_nothing_to_extreme_makes_no_jump(self) -> None:
        shot = with_dial(
            formula("layer:sway.speed", "panic * 0.4"), formula("layer:fast.source.rate_hz", "panic / 4"), RISING
        )
        fine = 1.0 + np.arange(0.0, 239.0, 0.01)
        for name in ("sway", "fast"):
            values = contribution(shot, name, fine)[:, 0]
            # At 25 Hz and a hundredth of a frame a motion of a degree goes no further than this.
            self.assertLess(np.abs(np.diff(values)).max(), 0.15, name)
            self.assertGreater(np.ptp(values), 0.3, name)

    def test_in_parts_and_any_sub_range_is_the_same(self) -> None:
        shot = with_dial(
            formula("layer:sway.speed", "1 + panic / 20"), formula("layer:fast.weight", "u * noise(3 * t)"), RISING
        )
        whole = evaluate(shot)
        parts = joined(list(evaluate_in_parts(shot, whole.frames, 50)))
        for name, values in whole.layers.items():
            np.testing.assert_allclose(parts.layers[name], values, atol=1e-9)

    def test_progress_counts_through_the_span(self) -> None:
        shot = with_dial(
            formula("layer:sway.weight", "u"),
            {"type": "set_span", "at": ["layer:sway"], "first_frame": 21, "last_frame": 121},
        )
        weights = evaluate(shot, np.array([21.0, 71.0, 121.0])).weights["sway"]
        np.testing.assert_allclose(weights, [0.0, 0.5, 1.0], atol=1e-12)
        clipped = edited(
            with_dial(formula("layer:sway.weight", "u")),
            {"type": "set_span", "at": ["clip:main"], "first_frame": 41, "last_frame": 81},
        )
        np.testing.assert_allclose(
            evaluate(clipped, np.array([61.0])).weights["sway"], [60.0 / 239.0], atol=1e-12
        )  # trimmed, it goes on as it did
        placed = edited(
            with_dial({"type": "add_clip", "first_frame": 41, "last_frame": 81}, formula("clip:clip-1.amount", "u"))
        )
        np.testing.assert_allclose(evaluate(placed, np.array([61.0])).clip_weights["clip-1"], [0.5], atol=1e-12)

    def test_facts_of_the_path_drive_layers(self) -> None:
        walk = Mount(id="camera", name="Camera", y_m=fixed(1.5), z_m=keyed((1, 0.0), (241, -20.0), interp="linear"))
        shot = with_dial(
            formula("layer:sway.weight", "speed / 4 + height"),
            mounts=(walk,),
            subject=Subject.at("post", (0.0, 1.5, -5.0)),
        )
        np.testing.assert_allclose(evaluate(shot, np.array([100.0])).weights["sway"], [2.0 / 4 + 1.5], atol=1e-6)


class Refusals(unittest.TestCase):
    def test_circles_are_refused_with_the_names_that_form_them(self) -> None:
        shot = with_dial({"type": "add_dial", "name": "half"}, formula("dial:half.value", "panic / 2"))
        after = edited(shot, formula("dial:panic.value", "half + 1"))
        self.assertEqual((after.dials[0].value.draft, after.dials[0].value.constant), ("half + 1", 0.0))
        dials = (shot.dials[0].replace(value=by_formula("half", fixed(0.0))), shot.dials[1])
        with self.assertRaisesRegex(Exception, "panic → half → panic"):
            shot.replace(dials=dials)
        with self.assertRaisesRegex(Exception, "panic → panic"):
            with_dial().replace(dials=(shot.dials[0].replace(value=by_formula("panic", fixed(0.0))),))

    def test_the_path_cannot_read_what_is_made_of_it(self) -> None:
        after = edited(with_dial(), formula("mount:camera.x_m", "speed"))
        self.assertEqual(after.mounts[0].x_m.draft, "speed")
        with self.assertRaisesRegex(Exception, "“Camera” cannot use `speed`"):
            with_dial().replace(mounts=(Mount(id="camera", name="Camera", x_m=by_formula("speed", fixed(0.0))),))

    def test_a_dial_that_is_not_there(self) -> None:
        after = edited(with_dial(), formula(PAN, "panik / 2"))
        self.assertEqual(next(after.layers())[1].axes.pan.swing.draft, "panik / 2")
        text = write_shot(edited(with_dial(), formula(PAN, "panic"))).replace('"text":"panic"', '"text":"panik"')
        with self.assertRaisesRegex(
            Exception, "“Sway” reads a missing dial: `panik` is not known; did you mean `panic`"
        ):
            read_shot(text)


class Dials(unittest.TestCase):
    def test_renamed_everywhere_drafts_too(self) -> None:
        shot = with_dial(formula(PAN, "panic / 50"), formula("layer:fast.weight", "panic + ("), RISING)
        after = edited(shot, {"type": "set_dial", "dial": "panic", "name": "alarm", "maximum": 200.0})
        self.assertEqual([(dial.name, dial.maximum) for dial in after.dials], [("alarm", 200.0)])
        sway, fast = (each for _, each in after.layers())
        self.assertEqual((sway.axes.pan.swing.text, fast.weight.draft), ("alarm / 50", "alarm + ("))
        np.testing.assert_array_equal(evaluate(after).layers["sway"], evaluate(shot).layers["sway"])
        for name in ("alarm", "sin"):
            with self.assertRaises((EditError, ValidationError)):
                edited(after, {"type": "add_dial", "name": name})

    def test_removed_with_its_value_left_behind(self) -> None:
        shot = with_dial({"type": "connect_dial", "dial": "panic", "at": [PAN], "low": 0.0, "high": 2.0}, RISING)
        with self.assertRaisesRegex(EditError, "read by “Sway”"):
            edited(shot, {"type": "remove_dial", "dial": "panic"})
        after = edited(shot, {"type": "remove_dial", "dial": "panic", "leave": True, "frame": 101.0})
        self.assertEqual((after.dials, next(after.layers())[1].axes.pan.swing.at(after.scope(1.0))), ((), 1.0))
        self.assertEqual(edited(with_dial(), {"type": "remove_dial", "dial": "panic"}).dials, ())

    def test_new_limits_bring_the_value_in(self) -> None:
        shot = edited(with_dial(RISING), {"type": "set_dial", "dial": "panic", "maximum": 40.0, "unit": "m"})
        self.assertEqual((shot.dials[0].unit, max(shot.dials[0].value.set_values())), ("m", 40.0))
        with self.assertRaisesRegex(EditError, "minimum of a dial"):
            edited(shot, {"type": "set_dial", "dial": "panic", "minimum": 40.0})


class Untouched(unittest.TestCase):
    """A formula is touched only by what scales or shifts it exactly."""

    def dial(self, *commands: dict[str, object]) -> Dial:
        shot = edited(
            shot_with(),
            {"type": "add_dial", "name": "panic"},
            {"type": "set_formula", "formulas": [{"at": "dial:panic.value", "text": "15 + 3*sin(t)"}]},
        )
        return edited(shot, *commands).dials[0]

    def test_unit_name_and_limits_leave_the_formula_of_a_dial_as_it_is_written(self) -> None:
        for fields in ({"unit": "cm"}, {"name": "alarm"}, {"minimum": 10.0, "maximum": 12.0}):
            changed = self.dial({"type": "set_dial", "dial": "panic", **fields})
            self.assertEqual(changed.value.text, "15 + 3*sin(t)")  # type: ignore[attr-defined]
        narrow = self.dial({"type": "set_dial", "dial": "panic", "minimum": 10.0, "maximum": 16.0})
        self.assertLessEqual(float(narrow.sample(shot_with().scope(np.arange(1.0, 200.0))).max()), 16.0)

    def test_renamed_again_and_again_it_stays(self) -> None:
        names = [f"name{n}" for n in range(80)]
        renames = [
            {"type": "set_dial", "dial": old, "name": new} for old, new in zip(["panic", *names], names, strict=False)
        ]
        self.assertEqual(self.dial(*renames).value.text, "15 + 3*sin(t)")  # type: ignore[attr-defined]

    def test_keys_and_fixed_values_come_within_new_limits(self) -> None:
        shot = edited(
            shot_with(),
            {"type": "add_dial", "name": "panic"},
            RISING,
            {"type": "set_dial", "dial": "panic", "minimum": 20.0, "maximum": 60.0},
        )
        self.assertEqual(shot.dials[0].value.set_values(), (20.0, 60.0))

    def test_scaled_a_hundred_times_it_is_scaled_once(self) -> None:
        shot = edited(shot_with(layer()), formula("layer:sway.axes.pan.swing", "0.4 + 0.1 * sin(t)"))
        for factor in (1.5, 2 / 3) * 60:
            shot = edited(shot, {"type": "scale_swings", "layers": ["sway"], "factor": factor})
        swing = next(layer for _, layer in shot.layers()).axes.pan.swing
        self.assertEqual(swing.text, "0.4 + 0.1 * sin(t)")  # type: ignore[attr-defined]
        louder = edited(shot, *[{"type": "scale_swings", "layers": ["sway"], "factor": 1.1}] * 3)
        text = next(layer for _, layer in louder.layers()).axes.pan.swing.text  # type: ignore[attr-defined]
        self.assertRegex(text, r"^\(0\.4 \+ 0\.1 \* sin\(t\)\) \* 1\.331\d*$")
        np.testing.assert_allclose(
            evaluate(louder).layers["sway"][:, 0], 1.331 * evaluate(shot).layers["sway"][:, 0], atol=1e-12
        )

    def test_brackets_of_its_own_are_not_taken_for_a_factor(self) -> None:
        for text in ("(t) * 2 + (u) * 3", "(1 + u) * 2", "(t + 1) - 3", "(sin(t)) * (cos(t))", "(u)"):
            shot = edited(shot_with(layer()), formula("layer:sway.axes.pan.swing", text))
            scaled = edited(shot, {"type": "scale_swings", "layers": ["sway"], "factor": 0.5})
            np.testing.assert_allclose(
                evaluate(scaled).layers["sway"][:, 0],
                0.5 * evaluate(shot).layers["sway"][:, 0],
                atol=1e-9,
                err_msg=text,
            )

    def test_dials_know_that_the_hold_reads_them(self) -> None:
        shot = edited(
            shot_with(subject=Subject.at("Post", (0.0, 1.0, -5.0)), hold=HoldFraming()),
            {"type": "add_dial", "name": "panic"},
        )
        shot = shot.replace(hold=HoldFraming(across_percent=by_formula("40 + panic / 10", fixed(50.0))))
        with self.assertRaisesRegex(EditError, "hold on the framing"):
            edited(shot, {"type": "remove_dial", "dial": "panic"})
        renamed = edited(shot, {"type": "set_dial", "dial": "panic", "name": "alarm"})
        self.assertEqual(renamed.hold.across_percent.text, "40 + alarm / 10")  # type: ignore[union-attr]
        left = edited(shot, {"type": "remove_dial", "dial": "panic", "leave": True, "frame": 1.0})
        self.assertEqual(left.hold.across_percent.text, "40 + 0.0 / 10")  # type: ignore[union-attr]


class Many(unittest.TestCase):
    def test_forty_dials_that_read_two_each_are_worked_out_once_each(self) -> None:
        dials = [
            Dial(name="d0", maximum=1e9, value=fixed(1.0)),
            Dial(name="d1", maximum=1e9, value=by_formula("d0 + t", fixed(0.0))),
        ]
        dials += [
            Dial(name=f"d{n}", maximum=1e9, value=by_formula(f"(d{n - 1} + d{n - 2}) / 2", fixed(0.0)))
            for n in range(2, 41)
        ]
        shot = edited(shot_with(layer(), dials=tuple(dials)), formula("layer:sway.weight", "d40 / 10"))
        weights = evaluate(shot).weights["sway"]
        values = [np.ones(240), 1.0 + np.arange(240) / 24]
        for _ in range(2, 41):
            values.append((values[-1] + values[-2]) / 2)
        np.testing.assert_allclose(weights, values[-1] / 10, rtol=1e-9)
        np.testing.assert_allclose(evaluate(shot, np.array([7.0])).weights["sway"], weights[6:7], atol=1e-12)

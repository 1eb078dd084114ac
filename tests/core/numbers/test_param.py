import ast
import unittest
from pathlib import Path
from typing import Annotated

import numpy as np
from pydantic import TypeAdapter, ValidationError

import zittern
from tests.core.making import layer, over, shot_with
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Curve, Key
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Fixed, Keyed, Number, Param, keyed, on_curve
from zittern.core.sources.wave import Wave

PARAM: TypeAdapter[Fixed | Keyed] = TypeAdapter(Param)
SHARE: TypeAdapter[Fixed | Keyed] = TypeAdapter(Annotated[Param, bounded(0.0, 1.0)])


class States(unittest.TestCase):
    def test_a_number_stands_for_a_fixed_one(self) -> None:
        self.assertEqual(PARAM.validate_python(2), Fixed(value=2.0))

    def test_json_keeps_the_state(self) -> None:
        for param in (Fixed(value=0.25), keyed((1, 0.0), (10, 1.0))):
            self.assertEqual(PARAM.validate_json(PARAM.dump_json(param)), param)

    def test_unknown_state_and_truth_values_are_refused(self) -> None:
        for wrong in ({"state": "guess", "value": 1}, True, "1", None, {"value": 1}):
            with self.subTest(wrong), self.assertRaises(ValidationError):
                PARAM.validate_python(wrong)

    def test_a_formula_has_a_text_that_can_be_read_or_what_was_before(self) -> None:
        before = {"state": "fixed", "value": 2.0}
        for fields in ({"text": ""}, {"text": "sine("}, {"text": "sine(", "before": before}):
            with self.assertRaises(ValidationError):
                PARAM.validate_python({"state": "formula", **fields})
        self.assertEqual(
            PARAM.validate_python({"state": "formula", "text": "", "before": before, "draft": "sine("}).constant, 2.0
        )

    def test_bounds_hold_for_every_key(self) -> None:
        SHARE.validate_python(0.5)
        for wrong in (1.5, keyed((1, 0.5), (2, -0.1))):
            with self.subTest(wrong), self.assertRaisesRegex(ValidationError, "expected 0 to 1"):
                SHARE.validate_python(wrong)

    def test_constant_only_when_it_never_changes(self) -> None:
        self.assertEqual(Fixed(value=3.0).constant, 3.0)
        self.assertEqual(keyed((5, 2.0)).constant, 2.0)
        self.assertIsNone(keyed((5, 2.0), (6, 2.0)).constant)

    def test_samples(self) -> None:
        frames = np.array([1.0, 5.5, 10.0])
        np.testing.assert_array_equal(Fixed(value=3.0).sample(over(frames)), [3, 3, 3])
        np.testing.assert_allclose(keyed((1, 0.0), (10, 1.0), interp="linear").sample(over(frames)), [0, 0.5, 1])


class Limits(unittest.TestCase):
    """They hold at every sampled frame, not only at keys."""

    def share(self, curve: Curve) -> Number:
        return SHARE.validate_python(on_curve(curve))

    def test_what_goes_on_outside_the_keys_stays_within(self) -> None:
        rising = Curve.of([(1, 0.2), (10, 0.8)], "linear").replace(before="continue", after="continue")
        values = self.share(rising).sample(over(np.arange(-200.0, 200.0)))
        self.assertEqual((values.min(), values.max()), (0.0, 1.0))
        self.assertAlmostEqual(self.share(rising).sample(over(4.0))[0], 0.4)

    def test_a_handle_that_reaches_out_stays_within(self) -> None:
        keys = (
            Key(frame=1, value=0.5, interp="free", handle_out=(5, 40.0)),
            Key(frame=20, value=0.5, handle_in=(-5, -40.0)),
        )
        values = self.share(Curve(keys=keys)).sample(over(np.linspace(1, 20, 200)))
        self.assertEqual((values.min(), values.max()), (0.0, 1.0))

    def test_a_lens_never_turns_inside_out(self) -> None:
        focal = on_curve(Curve.of([(1, 85.0), (24, 24.0)], "linear").replace(after="continue"))
        motion = evaluate(shot_with(layer(), focal_mm=focal))
        self.assertGreaterEqual(motion.pose.focal_mm.min(), 1.0)
        self.assertGreaterEqual(motion.bare.focal_mm.min(), 1.0)

    def test_a_swing_stays_within_what_its_axis_can(self) -> None:
        wide = on_curve(Curve.of([(1, 1.0), (10, 80.0)], "linear").replace(after="continue"))
        board = {"tilt": {"swing": wide.model_dump()}}
        motion = evaluate(shot_with(layer(source=Wave(rate_hz=0.5), axes=board)))
        self.assertLessEqual(np.abs(motion.total[:, 1]).max(), 0.5 * 90.0 * np.sqrt(2) + 1e-9)

    def test_limits_are_of_the_field_and_no_part_of_the_value(self) -> None:
        plain, limited = keyed((1, 0.0), (9, 1.0)), self.share(keyed((1, 0.0), (9, 1.0)).curve)
        self.assertEqual((plain, plain.fingerprint), (limited, limited.fingerprint))
        self.assertEqual((plain.limits, limited.limits), ((-np.inf, np.inf), (0.0, 1.0)))


class Asking(unittest.TestCase):
    def test_mapping_bends_handles_along(self) -> None:
        curve = Curve(
            keys=(
                Key(frame=1, value=1.0, interp="free", handle_out=(3, 2.0)),
                Key(frame=9, value=4.0, handle_in=(-3, -1.0)),
            )
        )
        frames = over(np.linspace(1, 9, 50))
        np.testing.assert_allclose(
            on_curve(curve).map(lambda v: 3 * v + 1).sample(frames), 3 * on_curve(curve).sample(frames) + 1, atol=1e-12
        )
        self.assertEqual(Fixed(value=2.0).map(lambda v: -v), Fixed(value=-2.0))

    def test_breaks_reads_and_keys(self) -> None:
        number = keyed((3, 1.0), (9, 2.0))
        np.testing.assert_array_equal(number.breaks, [3, 9])
        self.assertEqual((Fixed(value=1.0).breaks.size, Fixed(value=1.0).curve, number.reads), (0, None, frozenset()))
        self.assertEqual(number.at(over(3.0)), 1.0)


class Closed(unittest.TestCase):
    """Which states there are is known in one module of the core."""

    def test_nothing_else_names_the_states(self) -> None:
        root = Path(zittern.__file__).parent
        for path in root.rglob("*.py"):
            if path.name != "param.py":
                names = {
                    alias.name
                    for node in ast.walk(ast.parse(path.read_text()))
                    if isinstance(node, ast.ImportFrom)
                    for alias in node.names
                }
                self.assertFalse(names & {"Fixed", "Keyed"}, path)
                self.assertNotRegex(path.read_text(), r"\bstate\b\W+(fixed|keyed)\b", str(path))

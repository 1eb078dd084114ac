import doctest
import os
import tempfile
import unittest
from fractions import Fraction
from pathlib import Path

import numpy as np

import zittern
from zittern.core.motion.evaluate import evaluate
from zittern.core.shot.upgrades import read_shot
from zittern.scripting import shot as module


def walk(**fields: object) -> zittern.Shot:
    return zittern.new("Walk", last_frame=96, seed=1, **fields).key("mount:camera.z_m", {1: 0.0, 96: -4.0})  # type: ignore[arg-type]


class Edits(unittest.TestCase):
    def test_nothing_is_changed_in_place(self) -> None:
        shot = walk()
        shaken = shot.add_preset("brisk-walk")
        self.assertEqual((len(shot.layers), shot), (0, walk()))
        self.assertGreater(len(shaken.layers), 1)
        self.assertNotEqual(shot, shaken)

    def test_keys_interpolate_as_asked(self) -> None:
        for interp, middle in (("linear", 0.5), ("hold", 0.0)):
            shot = zittern.new("A", last_frame=3, seed=0).key("mount:camera.x_m", {1: 0.0, 3: 1.0}, interp=interp)  # type: ignore[arg-type]
            np.testing.assert_allclose(shot.evaluate().pose["x_m"], [0.0, middle, 1.0])

    def test_a_preset_over_a_range_with_less_strength(self) -> None:
        motion = walk().add_preset("small-boat", amount=0.5, axes="rotations", first_frame=20, last_frame=40).evaluate()
        whole = walk().add_preset("small-boat", axes="rotations", first_frame=20, last_frame=40).evaluate()
        np.testing.assert_allclose(motion.axes["tilt"], 0.5 * whole.axes["tilt"], atol=1e-9)
        self.assertEqual(set(np.flatnonzero(whole.axes["tilt"]) + 1) - set(range(20, 42)), set())
        self.assertFalse(np.any(whole.axes["pedestal"]))

    def test_the_seed_decides(self) -> None:
        one, same, other = (
            zittern.new("A", seed=seed).add_preset("shoulder-standing").evaluate().axes["pan"] for seed in (1, 1, 2)
        )
        np.testing.assert_array_equal(one, same)
        self.assertGreater(np.abs(one - other).max(), 0.01)
        drawn = [zittern.new("A").add_preset("shoulder-standing").evaluate().axes["pan"] for _ in range(2)]
        self.assertGreater(np.abs(drawn[0] - drawn[1]).max(), 0.01)

    def test_wrong_input_says_what_and_where(self) -> None:
        shot = walk()
        for words, call in (
            ("no preset is named 'brisk'; near it are brisk-walk", lambda: shot.add_preset("brisk")),
            ("mount:camera.nope", lambda: shot.get("mount:camera.nope")),
            ("mount:camera.roll_deg", lambda: shot.formula("mount:camera.roll_deg", "sin(")),
            ("`wobble` is not known", lambda: shot.formula("mount:camera.roll_deg", "wobble * 2")),
            ("dance", lambda: shot.edit("dance")),
            ("fps", lambda: zittern.new("A", fps="many")),
            ("last", lambda: zittern.new("A", first_frame=10, last_frame=1)),
            ("seed", lambda: zittern.new("A", seed=-1)),
            ("choose glb or gltf", lambda: shot.export("a.csv", reduce="0.5px")),
            ("cannot read", lambda: zittern.open("none.csv")),
            ("there is no check", lambda: shot.check(["nothing"])),
            ("finite frames", lambda: shot.evaluate([float("nan")])),
            ("finite frames", lambda: shot.evaluate([[1.0], [2.0]])),
            ("finite frames", lambda: shot.evaluate(["one"])),
        ):
            with self.subTest(words), self.assertRaisesRegex(zittern.ZitternError, words):
                call()


class Files(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def test_a_document_comes_back_as_it_was(self) -> None:
        shot = walk(fps=Fraction(24000, 1001)).add_preset("brisk-walk")
        path = self.folder / "walk.shot.json"
        self.assertIsNone(shot.export(path))
        again = zittern.open(path, seed=1)
        self.assertEqual(again.fps, Fraction(24000, 1001))
        for name, values in shot.evaluate([1, 2.5, 96]).pose.items():
            np.testing.assert_array_equal(again.evaluate([1, 2.5, 96]).pose[name], values)
        document = read_shot(path.read_bytes())
        np.testing.assert_array_equal(evaluate(document).pose.angles_deg[:, 0], shot.evaluate().pose["pan_deg"])

    def test_a_camera_path_in_and_out(self) -> None:
        shot = walk().add_preset("washboard")
        loss = shot.export(self.folder / "a.glb", reduce="0.2px", one_camera=True)
        self.assertRegex(str(loss), "^2 channels of 96 frames")
        shot.export(self.folder / "a.csv", step=0.5)
        for name in ("a.glb", "a.csv"):
            back = zittern.open(self.folder / name).evaluate().pose
            np.testing.assert_allclose(back["tilt_deg"], shot.evaluate().pose["tilt_deg"], atol=0.02)
        self.assertEqual(sorted(path.name for path in self.folder.iterdir()), ["a.csv", "a.glb"])


class Motion(unittest.TestCase):
    def test_names_stand_for_the_columns_of_the_evaluation(self) -> None:
        shot = walk().add_preset("brisk-walk")
        motion, own = shot.evaluate(), evaluate(shot._document)
        np.testing.assert_array_equal(motion.pose["y_m"], own.pose.position_m[:, 1])
        np.testing.assert_array_equal(motion.bare["z_m"], own.bare.position_m[:, 2])
        np.testing.assert_array_equal(motion.pose["focal_mm"], own.pose.focal_mm)
        self.assertEqual(set(motion.layers), set(shot.layers))
        for axis, values in motion.axes.items():
            np.testing.assert_allclose(sum(each[axis] for each in motion.layers.values()), values, atol=1e-12)


class Examples(unittest.TestCase):
    def test_examples_in_docstrings_and_in_the_document(self) -> None:
        before = Path.cwd()
        guide = Path(__file__).parents[2] / "docs/scripting.md"
        with tempfile.TemporaryDirectory() as folder:
            self.addCleanup(os.chdir, before)
            os.chdir(folder)
            names = {name: getattr(module, name) for name in module.__all__}
            results = [doctest.testmod(module, extraglobs=names), doctest.testfile(str(guide), module_relative=False)]
            os.chdir(before)
        self.assertEqual([result.failed for result in results], [0, 0])
        self.assertGreater(min(result.attempted for result in results), 5)

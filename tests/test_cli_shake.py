"""Camera files in and out, by the command as people start it."""

import subprocess
import tempfile
import unittest
from pathlib import Path

import numpy as np

from tests.forked import zittern

HEADER = "frame,time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm\n"


def path_csv(first: int = 1, count: int = 48) -> str:
    rows = (f"{first + n},{n / 24:.9f},{n * 0.02},1.6,0,10,-5,0,35\n" for n in range(count))
    return HEADER + "".join(rows)


class Shake(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        (self.folder / "out").mkdir()
        for name in ("a.csv", "b.csv"):
            (self.folder / name).write_text(path_csv(1001))

    def shake(self, *arguments: str) -> subprocess.CompletedProcess[str]:
        return zittern("shake", *arguments, folder=self.folder)

    def rows(self, name: str) -> np.ndarray:
        return np.loadtxt(self.folder / name, delimiter=",", skiprows=1)

    def refused(self, words: str, *arguments: str) -> None:
        before = {path: path.read_bytes() for path in self.folder.rglob("*") if path.is_file()}
        out = self.shake(*arguments)
        self.assertEqual((out.returncode, len(out.stderr.strip().splitlines())), (2, 1), out.stderr)
        self.assertIn(words, out.stderr)
        self.assertEqual(before, {path: path.read_bytes() for path in self.folder.rglob("*") if path.is_file()})

    def test_several_files_shake_each_in_its_way_and_the_same_again(self) -> None:
        out = self.shake("a.csv", "b.csv", "-o", "out/{name}.csv", "--preset", "brisk-walk")
        self.assertEqual((out.returncode, out.stdout), (0, "out/a.csv\nout/b.csv\n"), out.stderr)
        first, second, bare = (self.rows(name) for name in ("out/a.csv", "out/b.csv", "a.csv"))
        np.testing.assert_array_equal(first[:, 0], np.arange(1001, 1049))
        self.assertGreater(np.abs(first[:, 5:8] - bare[:, 5:8]).max(), 0.05)
        self.assertGreater(np.abs(first[:, 5:8] - second[:, 5:8]).max(), 0.05)
        self.shake("a.csv", "-o", "again.csv", "--preset", "brisk-walk")
        np.testing.assert_array_equal(self.rows("again.csv"), first)
        self.shake("a.csv", "-o", "other.csv", "--preset", "brisk-walk", "--seed", "5")
        self.assertGreater(np.abs(self.rows("other.csv") - first).max(), 0.01)

    def test_amount_axes_range_and_few_keys(self) -> None:
        options = ("--preset", "small-boat", "--axes", "rotations", "--range", "1010-1030")
        out = self.shake("a.csv", "-o", "half.glb", *options, "--amount", "50%", "--reduce", "0.01px", "--one-camera")
        self.assertRegex(out.stdout, r"^2 channels of 48 frames → \d+ keys, up to 0\.0\d px, 0\.\d\d mm\nhalf\.glb\n$")
        self.shake("a.csv", "-o", "whole.csv", *options)
        zittern("import", "half.glb", "-o", "half.shot.json", "--fps", "24", folder=self.folder)
        zittern("bake", "half.shot.json", "-o", "half.csv", folder=self.folder)
        half, whole, bare = (self.rows(name) for name in ("half.csv", "whole.csv", "a.csv"))
        np.testing.assert_allclose(whole[:, 2:5], bare[:, 2:5], atol=1e-9)
        np.testing.assert_allclose(2.0 * (half - bare)[:, 5:8], (whole - bare)[:, 5:8], atol=2e-3)
        self.assertEqual(np.abs((whole - bare)[:9, 5:8]).max(), 0.0)
        self.assertGreater(np.abs((whole - bare)[9:30, 5:8]).max(), 0.01)

    def test_one_failure_does_not_stop_the_rest(self) -> None:
        (self.folder / "broken.csv").write_text(HEADER + "1,0,0,nan,0,0,0,0,35\n")
        out = self.shake("broken.csv", "a.csv", "-o", "out/{name}.csv", "--preset", "washboard")
        self.assertEqual((out.returncode, out.stdout), (1, "out/a.csv\n"))
        self.assertIn("broken.csv: line 2, column y_m", out.stderr)
        self.assertFalse((self.folder / "out/broken.csv").exists())

    def test_what_cannot_be_is_refused_before_anything_is_written(self) -> None:
        preset = ("--preset", "washboard")
        for words, arguments in (
            ("several inputs need {name}", ("a.csv", "b.csv", "-o", "x.csv", *preset)),
            ("is used already", ("a.csv", "-o", "a.csv", *preset)),
            ("is used already", ("a.csv", "a.csv", "-o", "out/{name}.csv", *preset)),
            ("near it are washboard", ("a.csv", "-o", "x.csv", "--preset", "washbord")),
            ("cannot read none.preset.json", ("a.csv", "-o", "x.csv", "--preset", "none.preset.json")),
            ("expected an amount", ("a.csv", "-o", "x.csv", *preset, "--amount", "-5%")),
            ("expected an amount", ("a.csv", "-o", "x.csv", *preset, "--amount", "1e309%")),
            ("expected axes among", ("a.csv", "-o", "x.csv", *preset, "--axes", "yaw")),
            ("moves none of these axes", ("a.csv", "-o", "x.csv", *preset, "--axes", "focus")),
            ("A-B, as 1-96", ("a.csv", "-o", "x.csv", *preset, "--range", "9")),
            ("the last frame comes after", ("a.csv", "-o", "x.csv", *preset, "--range", "9-9")),
            ("choose glb, gltf or usd", ("a.csv", "-o", "x.csv", *preset, "--one-camera")),
            ("there is no folder", ("a.csv", "-o", "none/x.csv", *preset)),
            ("unknown file ending", ("a.csv", "-o", "x.mov", *preset)),
        ):
            with self.subTest(arguments):
                self.refused(words, *arguments)

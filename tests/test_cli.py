import csv
import json
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.formats.making import GltfMaker

WALK = GltfMaker({"camera": 0, "name": "A"}, {"camera": 0, "name": "B"}).animate(1, "translation", [0, 1], [[0, 0, 0], [3, 0, 0]])


class Commands(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.holder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.holder.cleanup)
        cls.folder = Path(cls.holder.name)
        cls.made = cls.zittern("demo", "--setup-only", "--data", str(cls.folder / "data"))

    @classmethod
    def zittern(cls, *arguments: str) -> subprocess.CompletedProcess[str]:
        return subprocess.run([sys.executable, "-m", "zittern.cli", *arguments], capture_output=True, text=True, cwd=cls.folder, check=False)

    def refused(self, pattern: str, *arguments: str) -> None:
        out = self.zittern(*arguments)
        self.assertEqual(out.returncode, 2, out.stderr)
        self.assertEqual(len(out.stderr.strip().splitlines()), 1, out.stderr)
        self.assertRegex(out.stderr, pattern)

    def test_demo_is_made_once(self) -> None:
        self.assertEqual(self.made.returncode, 0, self.made.stderr)
        self.assertIn("made", self.made.stdout)
        again = self.zittern("demo", "--setup-only", "--data", "data")
        self.assertIn("is there", again.stdout)

    def test_shots_are_json_lines(self) -> None:
        rows = [json.loads(line) for line in self.zittern("shots", "--data", "data").stdout.splitlines()]
        self.assertEqual([row["slug"] for row in rows], ["empty-dune", "jetty-walk", "jetty-walk-handheld", "lamp-close"])
        self.assertEqual(set(rows[1]), {"id", "slug", "name", "project", "frames", "fps"})
        self.assertEqual((rows[1]["project"], rows[1]["frames"], rows[1]["fps"]), ("Saltmarsh Post", 192, "24"))

    def test_bake_by_slug_id_and_file_agree(self) -> None:
        identity = json.loads(self.zittern("shots", "--data", "data").stdout.splitlines()[2])["id"]
        for key, name in (("jetty-walk-handheld", "slug.csv"), (identity, "id.csv"), ("jetty-walk-handheld", "copy.shot.json")):
            self.assertEqual(self.zittern("bake", key, "-o", name, "--data", "data").returncode, 0)
        self.assertEqual(self.zittern("bake", "copy.shot.json", "-o", "file.csv").returncode, 0)
        contents = {(self.folder / name).read_text() for name in ("slug.csv", "id.csv", "file.csv")}
        self.assertEqual(len(contents), 1)

    def test_bake_with_a_step(self) -> None:
        self.zittern("bake", "jetty-walk", "-o", "quarter.csv", "--step", "0.25", "--data", "data")
        rows = list(csv.DictReader((self.folder / "quarter.csv").read_text().splitlines()))
        self.assertEqual([row["frame"] for row in rows[:3]], ["1", "1.25", "1.5"])

    def test_import_then_bake(self) -> None:
        (self.folder / "walk.glb").write_bytes(WALK.glb())
        out = self.zittern("import", "walk.glb", "-o", "walk.shot.json", "--fps", "25", "--camera", "B")
        self.assertEqual((out.returncode, out.stderr), (0, ""))
        self.assertEqual(json.loads((self.folder / "walk.shot.json").read_text())["last_frame"], 26)
        self.assertEqual(self.zittern("bake", "walk.shot.json", "-o", "walk.csv").returncode, 0)
        last = list(csv.DictReader((self.folder / "walk.csv").read_text().splitlines()))[-1]
        self.assertAlmostEqual(float(last["x_m"]), 3.0, places=6)

    def test_schema_is_json_schema_of_the_shot(self) -> None:
        schema = json.loads(self.zittern("schema").stdout)
        self.assertIn("mounts", schema["properties"])
        self.assertIn("2020-12", schema["$schema"])

    def test_bench_has_its_figures(self) -> None:
        figures = json.loads(self.zittern("bench").stdout)
        for name in ("full_ms", "full_to_sin", "one_layer_to_full", "growth", "export_glb_ms"):
            self.assertGreater(figures[name], 0, name)

    def test_bad_input_is_one_line_and_exit_code_2(self) -> None:
        (self.folder / "bad.csv").write_text("frame,x_m,y_m,z_m\n1,0,0,nan\n")
        (self.folder / "bad.shot.json").write_text('{"schema_name": "zittern.shot", "schema_version": 1, "name": "A", "mounts": [], "wobble": 1}')
        (self.folder / "walk.glb").write_bytes(WALK.glb())
        for pattern, *arguments in (
            ("no shot 'none'", "bake", "none", "-o", "a.csv", "--data", "data"),
            ("unknown file ending", "bake", "jetty-walk", "-o", "a.xyz", "--data", "data"),
            ("between 0.001", "bake", "jetty-walk", "-o", "a.csv", "--step", "0", "--data", "data"),
            ("cannot write", "bake", "jetty-walk", "-o", "no/such/a.csv", "--data", "data"),
            ("mounts|wobble", "bake", "bad.shot.json", "-o", "a.csv"),
            ("line 2, column z_m", "import", "bad.csv", "-o", "a.shot.json"),
            ("cannot read", "import", "gone.glb", "-o", "a.shot.json"),
            ("above 0", "import", "walk.glb", "-o", "a.shot.json", "--fps", "0"),
            ("no camera 'C'", "import", "walk.glb", "-o", "a.shot.json", "--camera", "C"),
            ("ends in .shot.json", "import", "walk.glb", "-o", "a.csv"),
            ("[Mm]issing", "bake"),
            ("[Nn]o such", "dance"),
            ("valid", "serve", "--port", "many"),
            ("port", "serve", "--port", "99999"),
        ):
            with self.subTest(pattern):
                self.refused(pattern, *arguments)

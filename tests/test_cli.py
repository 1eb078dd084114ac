import csv
import json
import sqlite3
import subprocess
import sys
import tempfile
import unittest
from contextlib import closing
from pathlib import Path

import numpy as np
from pydantic import TypeAdapter

from tests.forked import zittern
from tests.formats.making import GltfMaker
from tools.demo.cuts import CUT
from tools.demo.shots import SHOTS
from zittern.core.edits.table import Command
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed
from zittern.core.shot.lanes import lanes_with
from zittern.core.shot.upgrades import read_shot, write_shot
from zittern.demo.build import SLUGS
from zittern.store.library import Library

WALK = GltfMaker({"camera": 0, "name": "A"}, {"camera": 0, "name": "B"}).animate(
    1, "translation", [0, 1], [[0, 0, 0], [3, 0, 0]]
)


class Commands(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.holder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.holder.cleanup)
        cls.folder = Path(cls.holder.name)
        # Started as people start it; what follows has everything imported already.
        command = [sys.executable, "-m", "zittern.cli", "demo", "--setup-only", "--data", "data"]
        cls.made = subprocess.run(command, capture_output=True, text=True, cwd=cls.folder, check=False)

    @classmethod
    def zittern(cls, *arguments: str) -> subprocess.CompletedProcess[str]:
        return zittern(*arguments, folder=cls.folder)

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
        self.assertEqual(
            [row["slug"] for row in rows],
            [
                "empty-dune",
                "jetty-walk",
                "jetty-walk-handheld",
                "kite-pass",
                "lamp-close",
                "mast-fall",
                "signal-run",
                "sled-run",
                "surge-plates",
            ],
        )
        self.assertEqual(set(rows[1]), {"id", "slug", "name", "project", "frames", "fps"})
        self.assertEqual((rows[1]["project"], rows[1]["frames"], rows[1]["fps"]), ("Saltmarsh Post", 192, "24"))

    def test_bake_by_slug_id_and_file_agree(self) -> None:
        identity = json.loads(self.zittern("shots", "--data", "data").stdout.splitlines()[2])["id"]
        for key, name in (
            ("jetty-walk-handheld", "slug.csv"),
            (identity, "id.csv"),
            ("jetty-walk-handheld", "copy.shot.json"),
        ):
            self.assertEqual(self.zittern("bake", key, "-o", name, "--data", "data").returncode, 0)
        self.assertEqual(self.zittern("bake", "copy.shot.json", "-o", "file.csv").returncode, 0)
        contents = {(self.folder / name).read_text() for name in ("slug.csv", "id.csv", "file.csv")}
        self.assertEqual(len(contents), 1)

    def test_bake_of_a_variant_by_name(self) -> None:
        for name, variant in (
            ("one.csv", ()),
            ("main.csv", ("--variant", "Main")),
            ("run.csv", ("--variant", "Stand to run")),
        ):
            made = self.zittern("bake", "signal-run", "-o", name, "--data", "data", *variant)
            self.assertEqual(made.returncode, 0, made.stderr)
        one, main, run = ((self.folder / name).read_text() for name in ("one.csv", "main.csv", "run.csv"))
        self.assertEqual(one, main)
        self.assertNotEqual(one, run)
        gone = self.zittern("bake", "signal-run", "-o", "gone.csv", "--data", "data", "--variant", "Wild")
        self.assertEqual((gone.returncode, (self.folder / "gone.csv").exists()), (2, False))

    def test_bake_in_a_format_by_name(self) -> None:
        name = self.zittern("bake", "jetty-walk", "-o", "shift.csv", "--format", "csv-shift", "--data", "data")
        self.assertEqual(name.returncode, 0, name.stderr)
        self.assertTrue((self.folder / "shift.csv").read_text().split("\n", 1)[0].endswith("shift_y_percent"))
        for wrong, why in (
            ("cues", "is written to files that end in"),
            ("glb", "end in .glb"),
            ("usd", "unknown format"),
        ):
            made = self.zittern("bake", "jetty-walk", "-o", "wrong.csv", "--format", wrong, "--data", "data")
            self.assertNotEqual(made.returncode, 0)
            self.assertIn(why, made.stderr)
            self.assertFalse((self.folder / "wrong.csv").exists())

    def test_bake_with_handles_and_numbers(self) -> None:
        handles = ("--range", "-7-200", "--first-number", "993")
        made = self.zittern("bake", "jetty-walk", "-o", "handles.csv", "--data", "data", *handles)
        self.assertEqual(made.returncode, 0, made.stderr)
        rows = np.loadtxt(self.folder / "handles.csv", delimiter=",", skiprows=1)
        np.testing.assert_array_equal(rows[:, 0], np.arange(993, 1201))
        self.refused("as 1-96", "bake", "jetty-walk", "-o", "x.csv", "--data", "data", "--range", "all")
        self.refused("on, got 3", "bake", "jetty-walk", "-o", "x.csv", "--data", "data", "--range", "9-3")

    def test_bake_with_few_keys(self) -> None:
        few_keys = ("--reduce", "0.5px,2mm", "--one-camera")
        made = self.zittern("bake", "jetty-walk", "-o", "few.glb", "--data", "data", *few_keys)
        self.assertRegex(made.stdout, r"^2 channels of 192 frames → \d+ keys, up to 0\.\d\d px, [01]\.\d\d mm\n$")
        self.zittern("import", "few.glb", "-o", "few.shot.json")
        for name, shot in (("few.csv", "few.shot.json"), ("all.csv", "jetty-walk")):
            self.assertEqual(self.zittern("bake", shot, "-o", name, "--data", "data").returncode, 0)
        few, every = (np.loadtxt(self.folder / name, delimiter=",", skiprows=1) for name in ("few.csv", "all.csv"))
        self.assertLess(np.max(np.linalg.norm(few[:, 2:5] - every[:, 2:5], axis=1)), 2.1e-3)
        self.refused("choose glb or gltf", "bake", "jetty-walk", "-o", "few.csv", "--data", "data", "--reduce", "0.5px")
        self.refused("such as 0.5px", "bake", "jetty-walk", "-o", "x.glb", "--data", "data", "--reduce", "half")
        self.assertFalse((self.folder / "x.glb").exists())

    def test_bake_with_a_step(self) -> None:
        self.zittern("bake", "jetty-walk", "-o", "quarter.csv", "--step", "0.25", "--data", "data")
        rows = list(csv.DictReader((self.folder / "quarter.csv").read_text().splitlines()))
        self.assertEqual([row["frame"] for row in rows[:3]], ["1", "1.25", "1.5"])

    def test_a_project_goes_to_another_folder_as_one_file(self) -> None:
        packed = self.zittern("pack", "saltmarsh-post", "-o", "post.zittern", "--data", "data")
        self.assertEqual((packed.returncode, packed.stdout, packed.stderr), (0, "", ""))
        made = self.zittern("unpack", "post.zittern", "--data", "elsewhere", "--name", "Post")
        self.assertEqual(made.stdout.split()[0], "post")
        self.assertEqual(sorted(made.stdout.split()[1:]), sorted(SLUGS))
        for data in ("data", "elsewhere"):
            self.zittern("bake", "sled-run", "-o", f"{data}.csv", "--data", data)
        self.assertEqual(*((self.folder / f"{data}.csv").read_bytes() for data in ("data", "elsewhere")))
        self.refused("no project", "pack", "none", "-o", "none.zittern", "--data", "data")
        self.refused("ends in .zittern", "pack", "saltmarsh-post", "-o", "post.zip", "--data", "data")
        self.refused("no zip", "unpack", "data.csv", "--data", "elsewhere")
        self.refused("cannot read", "unpack", "none.zittern", "--data", "elsewhere")
        self.assertFalse((self.folder / "none.zittern").exists())

    def test_import_then_bake(self) -> None:
        (self.folder / "walk.glb").write_bytes(WALK.glb())
        out = self.zittern("import", "walk.glb", "-o", "walk.shot.json", "--fps", "25", "--camera", "B")
        self.assertEqual((out.returncode, out.stderr), (0, ""))
        self.assertEqual(json.loads((self.folder / "walk.shot.json").read_text())["last_frame"], 26)
        self.assertEqual(self.zittern("bake", "walk.shot.json", "-o", "walk.csv").returncode, 0)
        last = list(csv.DictReader((self.folder / "walk.csv").read_text().splitlines()))[-1]
        self.assertAlmostEqual(float(last["x_m"]), 3.0, places=6)

    def test_retime_puts_frames_in_and_takes_them_out(self) -> None:
        def rows(shot: str, out: str) -> list[dict[str, str]]:
            self.assertEqual(self.zittern("bake", shot, "-o", out, "--data", "data").returncode, 0)
            return list(csv.DictReader((self.folder / out).read_text().splitlines()))

        done = self.zittern(
            "retime", "mast-fall", "--insert", "24@40", "--take-out", "60-69", "-o", "late.shot.json", "--data", "data"
        )
        self.assertEqual(done.returncode, 0, done.stderr)
        self.assertIn("Insert 24 frames at frame 40", done.stderr)
        before, after = rows("mast-fall", "before.csv"), rows("late.shot.json", "after.csv")
        self.assertEqual(len(after), len(before) + 14)
        self.assertEqual(before[:39], after[:39])
        self.refused(
            "expected frames@frame", "retime", "mast-fall", "--insert", "24", "-o", "x.shot.json", "--data", "data"
        )
        cut = self.zittern(
            "retime", "mast-fall", "--cut", str(CUT), "--handles", "4", "-o", "cut.shot.json", "--data", "data"
        )
        self.assertEqual(cut.returncode, 0, cut.stderr)
        self.assertIn("time runs at 50 %: 30 frames last 60", cut.stderr)
        self.assertEqual(len(rows("cut.shot.json", "cut.csv")), 68)
        self.refused(
            "no clip of this cut", "retime", "lamp-close", "--cut", str(CUT), "-o", "x.shot.json", "--data", "data"
        )
        self.refused(
            "the only one",
            "retime",
            "mast-fall",
            "--cut",
            str(CUT),
            "--insert",
            "1@2",
            "-o",
            "x.shot.json",
            "--data",
            "data",
        )
        self.zittern("retime", "jetty-walk", "--reverse", "20-90", "-o", "back.shot.json", "--data", "data")
        shot, back = SHOTS["jetty-walk"](), read_shot((self.folder / "back.shot.json").read_bytes())
        was, now = (evaluate(each).bare.position_m for each in (shot, back))
        np.testing.assert_allclose(now[19:90], was[19:90][::-1], atol=1e-9)
        for words, options in (
            ("expected first-last", ("--reverse", "20")),
            ("frame 500", ("--reverse", "20-500")),
            ("must be the only one", ("--reverse", "20-30", "--insert", "2@3")),
        ):
            self.refused(words, "retime", "jetty-walk", *options, "-o", "x.shot.json", "--data", "data")
        self.refused("nothing to do", "retime", "mast-fall", "-o", "x.shot.json", "--data", "data")
        self.refused("ends in .shot.json", "retime", "mast-fall", "--insert", "2@3", "-o", "x.csv", "--data", "data")

    def test_check_prints_findings_and_mends_them(self) -> None:
        sound = self.zittern("check", "jetty-walk", "kite-pass", "signal-run", "--data", "data")
        self.assertEqual((sound.returncode, sound.stdout), (0, ""), sound.stderr)
        broken = SHOTS["jetty-walk-handheld"]()
        layer = next(layer for _, layer in broken.layers()).id
        broken = broken.replace(
            lanes=lanes_with(broken.lanes, lambda each: each.replace(weight=fixed(0.0)) if each.id == layer else each)
        )
        (self.folder / "broken.shot.json").write_text(write_shot(broken))
        found = self.zittern("check", "broken.shot.json", "jetty-walk", "--data", "data")
        self.assertEqual(found.returncode, 1, found.stderr)
        rows = [json.loads(line) for line in found.stdout.splitlines()]
        self.assertEqual(
            [(row["shot"], row["check"], row["at"]) for row in rows if row["weight"]],
            [("broken.shot.json", "silent", f"layer:{layer}")],
        )
        self.assertEqual(
            set(rows[0]),
            {"shot", "check", "weight", "at", "frames", "stretches", "amount", "unit", "px", "says", "fix"},
        )
        only = self.zittern("check", "broken.shot.json", "--only", "kink,blur", "--data", "data")
        self.assertEqual((only.returncode, only.stdout), (0, ""))
        mended = self.zittern(
            "check", "broken.shot.json", "--fix", "silent", "-o", "mended.shot.json", "--data", "data"
        )
        self.assertEqual(mended.returncode, 0, mended.stderr)
        self.assertEqual(self.zittern("check", "mended.shot.json", "--data", "data").returncode, 0)
        self.refused("there is no check", "check", "jetty-walk", "--only", "nothing", "--data", "data")
        self.refused("name it with -o", "check", "broken.shot.json", "--fix", "silent", "--data", "data")

    def test_add_takes_every_format_that_can_be_imported(self) -> None:
        (self.folder / "walk.glb").write_bytes(WALK.glb())
        (self.folder / "walk.gltf").write_bytes(WALK.gltf())
        self.zittern("bake", "lamp-close", "-o", "lamp.shot.json", "--data", "data")
        self.zittern("bake", "lamp-close", "-o", "lamp.csv", "--data", "data")
        self.zittern("demo", "--setup-only", "--data", "added")
        for file, slug in (
            ("walk.glb", "walk"),
            ("walk.gltf", "walk-2"),
            ("lamp.csv", "lamp"),
            ("lamp.shot.json", "lamp-close-2"),
        ):
            out = self.zittern("add", file, "--project", "saltmarsh-post", "--data", "added")
            self.assertEqual((out.returncode, out.stdout.strip()), (0, slug), out.stderr)
        named = self.zittern(
            "add", "lamp.shot.json", "--project", "saltmarsh-post", "--name", "Night watch", "--data", "added"
        ).stdout.strip()
        self.zittern("bake", named, "-o", "again.csv", "--data", "added")
        self.assertEqual(
            (named, (self.folder / "again.csv").read_text()), ("night-watch", (self.folder / "lamp.csv").read_text())
        )
        self.refused("no project 'none'", "add", "walk.glb", "--project", "none", "--data", "added")

    def test_schema_is_json_schema_of_the_shot(self) -> None:
        schema = json.loads(self.zittern("schema").stdout)
        self.assertIn("mounts", schema["properties"])
        self.assertIn("2020-12", schema["$schema"])
        self.assertIn("keep_seeds", json.loads(self.zittern("schema", "--of", "preset").stdout)["properties"])

    def test_bench_has_its_figures(self) -> None:
        figures = json.loads(self.zittern("bench", "--rounds", "1").stdout)
        for name in (
            "full_ms",
            "full_to_sin",
            "one_layer_to_full",
            "growth",
            "export_glb_ms",
            "drag_ms",
            "long_100000_s",
            "use_rig_to_full",
        ):
            self.assertGreater(figures[name], 0, name)

    def test_an_edit_is_repeated_on_other_shots(self) -> None:
        self.zittern("demo", "--setup-only", "--data", "again")
        with closing(Library(self.folder / "again")) as library:
            state = library.state("jetty-walk")
            layer = TypeAdapter(Command).validate_python({"type": "add_layer", "source": "noise"})
            made = library.edit("jetty-walk", state.revision, layer)
            before = {slug: len(list(library.state(slug).document.layers())) for slug in ("lamp-close", "empty-dune")}
        done = self.zittern(
            "repeat", "jetty-walk", "--on", "lamp-close", "--on", "empty-dune", "--data", "again"
        )  # fmt: skip
        self.assertRegex(done.stdout, r"^lamp-close: Add noise layer \(revision \d+\)\nempty-dune: Add noise layer")
        with closing(Library(self.folder / "again")) as library:
            for slug, count in before.items():
                now = library.state(slug)
                self.assertEqual(len(list(now.document.layers())), count + 1)
                undone = library.undo(slug, now.revision)
                self.assertEqual(len(list(undone.document.layers())), count)
        for pattern, revision, onto in (
            ("made by no edit", state.revision, "lamp-close"),
            ("has no revision 99999", 99999, "lamp-close"),
            ("no shot 'gone'", made.revision, "gone"),
        ):
            self.refused(
                pattern, "repeat", "jetty-walk", "--revision", str(revision), "--on", onto, "--data", "again"
            )  # fmt: skip

    def test_tidy_says_how_much_and_does_it(self) -> None:
        with closing(Library(self.folder / "data")) as library:
            state = library.state("empty-dune")
            for i in range(6):
                state = library.edit(
                    "empty-dune", state.revision, SetValues(values=(Assignment(at="shot.name", value=f"N{i}"),))
                )
        planned = self.zittern("tidy", "empty-dune", "--keep", "2", "--dry-run", "--data", "data").stdout
        self.assertRegex(planned, "^empty-dune: 5 of 7 revisions go, 0.0 MB\n$")
        done = self.zittern("tidy", "--keep", "2", "--data", "data").stdout
        self.assertIn("empty-dune: 5 of 7 revisions go", done)
        self.assertRegex(done, "5 revisions removed; the database went from [0-9.]+ to [0-9.]+ MB")
        with closing(Library(self.folder / "data")) as library:
            self.assertEqual(
                (library.history("empty-dune").count, library.state("empty-dune").document.name), (2, "N5")
            )

    def test_one_document_that_cannot_be_read_takes_no_command_down(self) -> None:
        self.zittern("demo", "--setup-only", "--data", "broken")
        with closing(sqlite3.connect(self.folder / "broken/zittern.db")) as connection:
            connection.execute(
                "UPDATE revisions SET document = x'00' WHERE shot_id = (SELECT id FROM shots WHERE slug = 'jetty-walk')"
            )
            connection.commit()
        rows = {
            row["slug"]: row for row in map(json.loads, self.zittern("shots", "--data", "broken").stdout.splitlines())
        }
        self.assertEqual(
            (len(rows), [slug for slug, row in rows.items() if "problem" in row]), (len(SLUGS), ["jetty-walk"])
        )
        self.assertEqual(self.zittern("bake", "lamp-close", "-o", "lamp.csv", "--data", "broken").returncode, 0)
        self.assertEqual(self.zittern("demo", "--setup-only", "--data", "broken").returncode, 0)
        self.assertEqual(self.zittern("tidy", "--data", "broken").returncode, 0)
        self.refused("cannot be read: the stored bytes", "bake", "jetty-walk", "-o", "a.csv", "--data", "broken")

    def test_a_data_folder_that_cannot_be_used(self) -> None:
        (self.folder / "a-file").write_text("x")
        (self.folder / "no-database").mkdir(mode=0o700, exist_ok=True)
        (self.folder / "no-database/zittern.db").write_bytes(b"something else" * 100)
        for pattern, folder, *command in (
            ("is below a file, or is one", "a-file", "shots"),
            ("is below a file", "a-file/below", "serve", "--port", "0", "--no-browser"),
            ("not a database", "no-database", "demo", "--setup-only"),
            ("too long", "x" * 300, "tidy"),
        ):
            with self.subTest(folder=folder[:20]):
                self.refused(f"{pattern}.*--data", *command, "--data", folder)

    def test_a_file_is_whole_or_as_it_was(self) -> None:
        (self.folder / "kept.csv").write_text("precious")
        self.refused("cannot write", "bake", "jetty-walk", "-o", "kept.csv/a.csv", "--data", "data")
        self.assertEqual((self.folder / "kept.csv").read_text(), "precious")
        self.assertEqual([path.name for path in self.folder.glob(".*part")], [])

    def test_bad_input_is_one_line_and_exit_code_2(self) -> None:
        (self.folder / "bad.csv").write_text("frame,x_m,y_m,z_m\n1,0,0,nan\n")
        (self.folder / "bad.shot.json").write_text(
            '{"schema_name": "zittern.shot", "schema_version": 1, "name": "A", "mounts": [], "wobble": 1}'
        )
        (self.folder / "walk.glb").write_bytes(WALK.glb())
        for pattern, *arguments in (
            ("no shot 'none'", "bake", "none", "-o", "a.csv", "--data", "data"),
            ("unknown file ending", "bake", "jetty-walk", "-o", "a.xyz", "--data", "data"),
            ("of 0.001 to 1000", "bake", "jetty-walk", "-o", "a.csv", "--step", "0", "--data", "data"),
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
            ("is not UTF-8 text", "bake", "\udcff", "-o", "a.csv", "--data", "data"),
            ("greater than or equal to 1", "tidy", "--keep", "0", "--data", "data"),
        ):
            with self.subTest(pattern):
                self.refused(pattern, *arguments)

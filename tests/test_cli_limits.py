"""The shell at its limits: numbers too large, disks that are full, interrupts, private files."""

import json
import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from tests.demo.template import demo_data
from tests.forked import zittern

COMMAND = [sys.executable, "-m", "zittern.cli"]


class Limits(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        cls.holder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.holder.cleanup)
        cls.folder = Path(cls.holder.name)
        demo_data(cls.folder / "data")

    def refused(self, pattern: str, *arguments: str) -> None:
        out = zittern(*arguments, folder=self.folder)
        self.assertEqual(out.returncode, 2, out.stderr)
        self.assertEqual(len(out.stderr.strip().splitlines()), 1, out.stderr)
        self.assertRegex(out.stderr, pattern)

    def test_numbers_that_no_column_holds(self) -> None:
        for value in ("1" + "0" * 30, str(2**63), "-1"):
            self.refused(
                "--revision", "repeat", "jetty-walk", "--on", "kite-pass", "--revision", value, "--data", "data"
            )
            self.refused("--keep", "tidy", "--keep", value, "--data", "data")

    def test_commands_that_read_want_a_folder_that_is_there(self) -> None:
        for command in (
            ("shots",), ("tidy",), ("bake", "jetty-walk", "-o", "a.csv"), ("check", "jetty-walk"),
            ("repeat", "jetty-walk", "--on", "kite-pass"), ("movie", "jetty-walk", "-o", "a.mp4"),
        ):  # fmt: skip
            self.refused("expected a data folder, found none at nowhere", *command, "--data", "nowhere")
            self.assertFalse((self.folder / "nowhere").exists())

    def test_what_cannot_work_is_refused_before_the_work(self) -> None:
        (self.folder / "walk.csv").write_text("frame,x_m\n1,0\n2,1\n")
        self.refused(
            "expected a name, got an empty text",
            "add",
            "walk.csv",
            "--project",
            "saltmarsh-post",
            "--name",
            " ",
            "--data",
            "data",
        )
        self.refused("there is no folder missing", "movie", "jetty-walk", "-o", "missing/m.mp4", "--data", "data")
        (self.folder / "folder.mp4").mkdir()
        self.refused("Is a directory", "movie", "jetty-walk", "-o", "folder.mp4", "--data", "data")

    def test_output_that_nobody_can_write_or_wants(self) -> None:
        with open("/dev/full", "w") as full:
            done = subprocess.run(
                [*COMMAND, "shots", "--data", "data"], stdout=full, stderr=subprocess.PIPE, text=True, cwd=self.folder
            )
        self.assertEqual(
            (done.returncode, done.stderr), (2, "error: cannot write the output: No space left on device\n")
        )
        reader, writer = os.pipe()
        os.close(reader)
        done = subprocess.run([*COMMAND, "schema"], stdout=writer, stderr=subprocess.PIPE, text=True, cwd=self.folder)
        os.close(writer)
        self.assertIn(done.returncode, (1, 141))
        self.assertEqual(done.stderr, "")

    def test_an_interrupt_while_modules_load_says_nothing(self) -> None:
        # As early as the entry point: the first import that it makes is interrupted. A shell may start tests in its
        # background with interrupts ignored.
        code = (
            "import builtins, os, signal\n"
            "signal.signal(signal.SIGINT, signal.default_int_handler)\n"
            "from zittern.cli import main\n"
            "real = builtins.__import__\n"
            "def load(name, *rest):\n"
            "    if name.startswith('zittern.cli.'): os.kill(os.getpid(), signal.SIGINT)\n"
            "    return real(name, *rest)\n"
            "builtins.__import__ = load\n"
            "main()\n"
        )
        done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
        self.assertEqual((done.returncode, done.stderr), (130, ""))


class Private(unittest.TestCase):
    def test_what_is_made_is_private_and_what_is_written_for_people_is_theirs(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name)
            made = subprocess.run(
                [*COMMAND, "demo", "--setup-only", "--data", "new/data"], capture_output=True, text=True, cwd=folder
            )
            self.assertEqual((made.returncode, made.stderr), (0, ""))
            modes = {path.relative_to(folder).as_posix(): path.stat().st_mode & 0o777 for path in folder.rglob("*")}
            for path, mode in modes.items():
                self.assertEqual(mode, 0o700 if (folder / path).is_dir() else 0o600, path)
            umask = os.umask(0o022)
            self.addCleanup(os.umask, umask)
            subprocess.run(
                [*COMMAND, "bake", "jetty-walk", "-o", "a.csv", "--data", "new/data"], cwd=folder, check=True
            )
            self.assertEqual((folder / "a.csv").stat().st_mode & 0o777, 0o644)

    def test_an_existing_folder_keeps_its_mode_and_is_warned_of(self) -> None:
        with tempfile.TemporaryDirectory() as name:
            folder = Path(name) / "open"
            folder.mkdir()
            folder.chmod(0o755)
            out = zittern("demo", "--setup-only", "--data", "open", folder=Path(name))
            self.assertIn("note: other users of this machine can read open (mode 755)", out.stderr)
            self.assertEqual(folder.stat().st_mode & 0o777, 0o755)
            self.assertEqual((folder / "zittern.db").stat().st_mode & 0o777, 0o600)
            rows = [
                json.loads(row) for row in zittern("shots", "--data", "open", folder=Path(name)).stdout.splitlines()
            ]
            self.assertEqual(len(rows), 9)

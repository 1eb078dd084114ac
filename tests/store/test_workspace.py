import os
import shutil
import subprocess
import sys
import tempfile
import time
import unittest
from pathlib import Path

from zittern.core.errors import StoreError
from zittern.store.workspace import Workspace

HOLD = """
import sys
from pathlib import Path
from zittern.store.workspace import Workspace
space = Workspace(Path(sys.argv[1]))
space.new_path(".part").write_bytes(b"half")
print("made", flush=True)
sys.stdin.read()
"""


class Parts(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def made(self) -> list[Path]:
        return sorted((self.folder / "work").glob("*/*.part"))

    def test_what_a_killed_process_left_is_removed_and_a_living_one_keeps_its_own(self) -> None:
        other = subprocess.Popen(
            [sys.executable, "-c", HOLD, str(self.folder)], stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True
        )
        assert other.stdout is not None and other.stdin is not None
        other.stdout.readline()
        mine = Workspace(self.folder)
        mine.clean()
        self.assertEqual(len(self.made()), 1)
        other.kill()
        other.wait()
        other.stdin.close()
        other.stdout.close()
        self.assertEqual((mine.clean(), self.made()), (1, []))

    def test_parts_of_older_versions_and_folders_being_made(self) -> None:
        (self.folder / "sets").mkdir()
        (self.folder / "sets/dune.part").write_bytes(b"half")
        fresh, old = self.folder / "work/fresh", self.folder / "work/old"
        for folder in (fresh, old):
            folder.mkdir(parents=True)
        (old / "in-use").touch()
        os.utime(old, (time.time() - 7200,) * 2)
        self.assertEqual(Workspace(self.folder).clean(), 2)
        self.assertEqual(
            (fresh.is_dir(), old.exists(), (self.folder / "sets/dune.part").exists()), (True, False, False)
        )

    def test_closing_takes_all_of_it_away(self) -> None:
        space = Workspace(self.folder)
        path = space.new_path(".part")
        path.write_bytes(b"x")
        space.close()
        self.assertFalse(path.parent.exists())

    def test_a_folder_that_cannot_be_written(self) -> None:
        (self.folder / "work").write_bytes(b"a file in the way")
        with self.assertRaisesRegex(StoreError, "file"):
            Workspace(self.folder).new_path(".part")

    def test_a_folder_that_was_taken_away_is_made_again(self) -> None:
        space = Workspace(self.folder)
        first = space.new_path(".part")
        shutil.rmtree(self.folder / "work")
        second = space.new_path(".part")
        second.write_bytes(b"x")
        self.assertNotEqual(first.parent, second.parent)
        other = Workspace(self.folder)
        self.assertEqual((other.clean(), second.exists()), (0, True), "it is locked again")
        space.close()

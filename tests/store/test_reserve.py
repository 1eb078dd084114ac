"""A full disk is a real one here: a small file system in memory, where this machine lets us have one."""

import subprocess
from contextlib import closing
from pathlib import Path

from tests.core.making import layer, shot_with
from tests.store.making import InFolder
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.errors import StoreFull
from zittern.store.library import Library
from zittern.store.reserve import Reserve

SIZE = 2 * 2**20


class Kept(InFolder):
    def test_it_is_laid_by_given_and_laid_by_again(self) -> None:
        reserve = Reserve(self.folder, SIZE)
        path = self.folder / "reserve"
        self.assertEqual(path.stat().st_size, SIZE)
        with self.assertRaises(KeyError), reserve.released():
            self.assertFalse(path.exists())
            raise KeyError("whatever happens meanwhile")
        self.assertEqual(path.stat().st_size, SIZE)

    def test_without_room_there_is_none(self) -> None:
        self.assertFalse(Reserve(self.folder, 2**62).keep())
        self.assertFalse((self.folder / "reserve").exists())
        self.assertFalse(Reserve(self.folder / "nowhere", SIZE).keep())


class Full(InFolder):
    def disk(self, size_mb: int) -> Path:
        folder = self.folder / "disk"
        folder.mkdir()
        if subprocess.run(
            ["mount", "-t", "tmpfs", "-o", f"size={size_mb}m", "tmpfs", str(folder)], capture_output=True, check=False
        ).returncode:
            self.skipTest("no small file system can be mounted here")
        self.addCleanup(subprocess.run, ["umount", str(folder)], check=True)
        return folder

    def test_a_shot_is_tidied_and_deleted_on_a_full_disk(self) -> None:
        folder = self.disk(40)
        with closing(Library(folder)) as library:
            library.add_project("Post")
            state = library.add_shot("post", shot_with(layer()))
            other = library.add_shot("post", shot_with(layer()), slug="other")
            for n in range(30):
                state = library.edit(
                    state.slug, state.revision, SetValues(values=(Assignment(at="shot.name", value=f"Name {n}"),))
                )
            room = folder / "filler"
            with self.assertRaises(OSError), room.open("wb", buffering=0) as file:
                while True:
                    file.write(b"x" * 4096)
            with self.assertRaisesRegex(StoreFull, "Make room"):
                for n in range(2000):  # what is left in the log's pages runs out
                    state = library.edit(
                        state.slug, state.revision, SetValues(values=(Assignment(at="shot.name", value=f"Full {n}"),))
                    )
            self.assertGreater(library.tidy(state.slug, 5).revisions, 20)
            self.assertEqual(library.tidying(state.slug, 5).revisions, 0)
            library.remove_shot(other.slug)
            self.assertEqual(library.slugs(), {state.slug})

import subprocess
import sys
import tempfile
import unittest
from pathlib import Path

from sqlalchemy import text

from tests.core.making import layer, shot_with
from zittern.store.engine import open_engine
from zittern.store.library import Library
from zittern.store.listing import listed_in

LIST = """
import sys
from pathlib import Path
from zittern.store.listing import listed_in
print(*[(entry.slug, entry.card.frames) for entry in listed_in(Path(sys.argv[1]))])
print(*[name for name in sys.modules if name.split(".")[0] in ("numpy", "scipy", "zittern")])
"""
HEAVY = ("numpy", "scipy", "zittern.core.shot", "zittern.core.edits")


class ListedIn(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)
        library = Library(self.folder)
        library.add_project("Saltmarsh Post")
        for last in (24, 48):
            shot = shot_with(layer(), last_frame=last)
            library.add_shot("saltmarsh-post", shot.model_copy(update={"name": f"Walk {last}"}))
        self.expected = library.shots()
        library.close()

    def test_same_shots_as_the_library_by_slug(self) -> None:
        found = listed_in(self.folder)
        self.assertEqual([entry.slug for entry in found], ["walk-24", "walk-48"])
        self.assertEqual(found, self.expected)

    def test_nothing_that_evaluates_or_edits_is_imported(self) -> None:
        command = [sys.executable, "-c", LIST, str(self.folder)]
        shown = subprocess.run(command, capture_output=True, text=True, check=True)
        shots, modules = shown.stdout.splitlines()
        self.assertEqual(shots, "('walk-24', 24) ('walk-48', 48)")
        heavy = [name for name in modules.split() if name.startswith(HEAVY)]
        self.assertEqual(heavy, [])

    def test_a_missing_card_is_made_and_kept(self) -> None:
        engine = open_engine(self.folder)
        with engine.begin() as connection:
            connection.execute(text("UPDATE shots SET card_of = NULL WHERE slug = 'walk-24'"))
        self.assertEqual([entry.card for entry in listed_in(self.folder)], [entry.card for entry in self.expected])
        with engine.connect() as connection:
            self.assertEqual(connection.execute(text("SELECT COUNT(*) FROM shots WHERE card_of IS NULL")).scalar(), 0)
        engine.dispose()

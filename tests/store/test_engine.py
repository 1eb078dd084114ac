import sqlite3
import time
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path

from alembic import command
from alembic.config import Config
from sqlalchemy import create_engine

from tests.core.making import layer, shot_with
from tests.store.making import InFolder
from zittern.core.errors import StoreBusy, StoreError
from zittern.store.documents import pack
from zittern.store.engine import HEAD, MIGRATIONS, open_engine
from zittern.store.library import Library
from zittern.store.writers import PATIENCE_S, waiting_since


def old_database(folder: Path, version: str) -> sqlite3.Connection:
    """A database as an older Zittern left it."""
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    engine = create_engine(f"sqlite:///{folder / 'zittern.db'}")
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, version)
    engine.dispose()
    return sqlite3.connect(folder / "zittern.db")


class Migration(InFolder):
    def test_an_old_database_keeps_its_history_and_gets_cards(self) -> None:
        shot, when = shot_with(layer()), datetime.now(UTC).isoformat(sep=" ")
        with closing(old_database(self.folder, "0002")) as old:
            old.execute("INSERT INTO projects VALUES (3, 'post', 'Post', ?)", (when,))
            old.execute("INSERT INTO shots (id, project_id, slug, updated_at) VALUES ('abc', 3, 'walk', ?)", (when,))
            rows = [(7, None, 8, "New shot", None), (8, 7, None, "Rename", "before the gull")]
            documents = [pack(shot), pack(shot.replace(name="Renamed"))]
            for (id_, parent, redo, label, name), document in zip(rows, documents, strict=True):
                values = (id_, "abc", parent, redo, label, name, None, document, when)
                old.execute(
                    "INSERT INTO revisions (id, shot_id, parent_id, redo_id, label, name, command, document, "
                    "created_at) VALUES (?,?,?,?,?,?,?,?,?)",
                    values,
                )
            old.execute("UPDATE shots SET head_id = 8")
            old.commit()
        with closing(Library(self.folder)) as library:
            state = library.state("walk")
            self.assertEqual((state.document.name, state.revision, state.undo_label), ("Renamed", 8, "Rename"))
            self.assertEqual(
                [(each.revision, each.name) for each in library.history("walk").rows],
                [(8, "before the gull"), (7, None)],
            )
            entry = library.shots()[0]
            self.assertEqual((entry.card.name, entry.card.layers, entry.card.problem), ("Renamed", 1, None))
            self.assertGreater(len(library.scribble("walk")), 100)
            self.assertEqual(library.undo("walk", 8).document, shot)
            self.assertGreater(library.add_shot("post", shot).revision, 8)

    def test_a_step_that_fails_leaves_the_database_as_it_was(self) -> None:
        with closing(old_database(self.folder, "0002")) as old:
            old.execute("CREATE TABLE revisions_new (x)")  # in the way of the step
            old.commit()
            before = old.execute("SELECT name, sql FROM sqlite_master ORDER BY name").fetchall()
        with self.assertRaises(StoreError):
            open_engine(self.folder)
        with closing(sqlite3.connect(self.folder / "zittern.db")) as after:
            self.assertEqual(after.execute("SELECT name, sql FROM sqlite_master ORDER BY name").fetchall(), before)


class Refusals(InFolder):
    def refused(self, pattern: str, kind: type[StoreError] = StoreError) -> None:
        with self.assertRaisesRegex(kind, pattern):
            open_engine(self.folder)

    def test_a_newer_database(self) -> None:
        open_engine(self.folder).dispose()
        with closing(sqlite3.connect(self.folder / "zittern.db")) as connection:
            connection.execute("UPDATE alembic_version SET version_num = '0999'")
            connection.commit()
        self.refused("written by a newer Zittern .*0999.*--data")

    def test_what_is_no_database_of_ours(self) -> None:
        (self.folder / "zittern.db").write_bytes(b"not a database at all" * 200)
        self.refused("not a database of Zittern")
        (self.folder / "zittern.db").unlink()
        with closing(sqlite3.connect(self.folder / "zittern.db")) as other:
            other.execute("CREATE TABLE recipes (x)")
        self.refused("database of another program")

    def test_a_truncated_one(self) -> None:
        open_engine(self.folder).dispose()
        whole = (self.folder / "zittern.db").read_bytes()
        (self.folder / "zittern.db").write_bytes(whole[: len(whole) // 2])
        for rest in self.folder.glob("zittern.db-*"):
            rest.unlink()
        with self.assertRaisesRegex(StoreError, "damaged|cannot be used"), closing(Library(self.folder)) as library:
            library.shots()

    def test_a_locked_one(self) -> None:
        open_engine(self.folder).dispose()
        with (
            closing(sqlite3.connect(self.folder / "zittern.db", isolation_level=None)) as holder,
            closing(Library(self.folder)) as library,
        ):
            holder.execute("BEGIN EXCLUSIVE")
            long_ago = time.monotonic() - PATIENCE_S
            with self.assertRaisesRegex(StoreBusy, "busy; nothing was changed"), waiting_since(long_ago):
                library.add_project("Post")

    def test_head_is_the_newest_script(self) -> None:
        self.assertEqual(max(path.name[:4] for path in (MIGRATIONS / "versions").glob("0*.py")), HEAD)

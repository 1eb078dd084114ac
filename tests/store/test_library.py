import subprocess
import sys
import threading
import zlib
from contextlib import closing
from unittest import mock

from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import text

from tests.core.making import command, layer, shot_with
from tests.store.making import WithLibrary
from zittern.core.edits import table
from zittern.core.errors import BadInput, Conflict, DocumentError, EditError, NotFound
from zittern.core.shot.shot import Shot, new_shot
from zittern.store.documents import pack
from zittern.store.engine import HEAD, MIGRATIONS
from zittern.store.library import Library
from zittern.store.naming import slug_of
from zittern.store.tables import Base

ADD = command(type="add_handheld")


def rename(name: str) -> object:
    return command(type="set_values", values=[{"at": "shot.name", "value": name}])


class WithPost(WithLibrary):
    def setUp(self) -> None:
        super().setUp()
        self.library.add_project("Post")

    def reopen(self) -> None:
        self.library.close()
        self.library = Library(self.folder)


class Projects(WithPost):
    def test_slugs_are_readable_and_unique(self) -> None:
        self.assertEqual(slug_of("  Größe & Ähre! "), "groe-ahre")
        self.assertEqual(slug_of("渡し"), "untitled")
        self.assertEqual(self.library.add_project("Post").slug, "post-2")

    def test_rename_keeps_the_slug(self) -> None:
        self.assertEqual(self.library.rename_project("post", "Mail").slug, "post")
        self.assertEqual([p.name for p in self.library.projects()], ["Mail"])

    def test_only_empty_projects_go(self) -> None:
        state = self.library.add_shot("post", new_shot("A"))
        with self.assertRaisesRegex(BadInput, "still has shots"):
            self.library.remove_project("post")
        self.library.remove_shot(state.slug)
        self.library.remove_project("post")
        self.assertEqual(self.library.projects(), [])

    def test_what_is_not_there(self) -> None:
        for call in (
            lambda: self.library.project("x"),
            lambda: self.library.state("x"),
            lambda: self.library.add_shot("x", new_shot("A")),
        ):
            with self.assertRaises(NotFound):
                call()
        for name in ("", "   ", "x" * 121):
            with self.assertRaises(BadInput):
                self.library.add_project(name)


class Revisions(WithPost):
    def setUp(self) -> None:
        super().setUp()
        self.start = self.library.add_shot("post", shot_with(layer()))

    def test_each_edit_is_a_revision_that_undo_takes_back(self) -> None:
        one = self.library.edit("test", self.start.revision, rename("B"))
        two = self.library.edit("test", one.revision, ADD)
        self.assertEqual((two.undo_label, two.redo_label), ("Add handheld feel", None))
        back = self.library.undo("test", two.revision)
        self.assertEqual(back.document, one.document)
        start = self.library.undo("test", back.revision)
        self.assertEqual((start.document, start.undo_label, start.redo_label), (self.start.document, None, "Set name"))
        self.assertEqual(self.library.undo("test", start.revision).revision, start.revision)

    def test_undo_and_redo_survive_a_restart(self) -> None:
        one = self.library.edit("test", self.start.revision, rename("B"))
        self.library.undo("test", one.revision)
        self.reopen()
        state = self.library.state("test")
        self.assertEqual((state.document, state.redo_label), (self.start.document, "Set name"))
        self.assertEqual(self.library.redo("test", state.revision).document, one.document)

    def test_an_edit_after_undo_loses_nothing(self) -> None:
        one = self.library.edit("test", self.start.revision, rename("B"))
        self.library.undo("test", one.revision)
        other = self.library.edit("test", self.start.revision, rename("C"))
        self.assertIsNone(other.redo_label)
        self.assertEqual(self.library.document("test", one.revision).name, "B")
        history = self.library.history("test").rows
        self.assertEqual(
            [(each.label, each.current, each.line) for each in history],
            [("Set name", True, True), ("Set name", False, False), ("New shot", False, True)],
        )

    def test_any_revision_can_be_named_and_returned_to(self) -> None:
        one = self.library.edit("test", self.start.revision, rename("B"))
        two = self.library.edit("test", one.revision, ADD)
        self.library.name_revision("test", one.revision, " before the gull ")
        back = self.library.go_to("test", two.revision, one.revision)
        self.assertEqual((back.document, back.redo_label), (one.document, "Add handheld feel"))
        self.assertEqual(
            [(each.name, each.current) for each in self.library.history("test").rows],
            [(None, False), ("before the gull", True), (None, False)],
        )
        self.assertEqual(self.library.go_to("test", one.revision, two.revision).document, two.document)
        self.library.name_revision("test", one.revision, "")
        self.assertIsNone(self.library.history("test").rows[1].name)
        other = self.library.add_shot("post", new_shot("Other"))
        for call in (
            lambda: self.library.go_to("test", two.revision, other.revision),
            lambda: self.library.name_revision("test", other.revision, "x"),
        ):
            with self.assertRaises(NotFound):
                call()

    def test_the_late_writer_is_told_who_was_first(self) -> None:
        first = self.library.edit("test", self.start.revision, rename("B"))
        for late in (
            lambda: self.library.edit("test", self.start.revision, ADD),
            lambda: self.library.undo("test", self.start.revision),
            lambda: self.library.redo("test", self.start.revision),
        ):
            with self.assertRaisesRegex(Conflict, "changed elsewhere") as caught:
                late()
            self.assertEqual(caught.exception.details["current_revision"], first.revision)
            self.assertEqual(caught.exception.details["current_label"], "Set name")
        self.assertEqual(self.library.state("test").document, first.document)

    def test_an_edit_that_cannot_be_done_changes_nothing(self) -> None:
        with self.assertRaises(EditError):
            self.library.edit("test", self.start.revision, command(type="remove_layers", layers=["gone"]))
        self.assertEqual(self.library.history("test").count, 1)

    def test_many_writers_at_once_make_one_line(self) -> None:
        done: list[str] = []

        def write(name: str) -> None:
            while True:
                try:
                    self.library.edit("test", self.library.state("test").revision, rename(name))
                    done.append(name)
                    return
                except Conflict:
                    continue

        threads = [threading.Thread(target=write, args=(f"N{i}",)) for i in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        history = self.library.history("test").rows
        self.assertEqual((len(done), len(history)), (8, 9))
        self.assertTrue(all(each.line for each in history))

    def test_removing_a_shot_takes_its_history(self) -> None:
        self.library.edit("test", self.start.revision, ADD)
        self.library.remove_shot("test")
        self.assertEqual(self.library.shots(), [])
        with self.library._engine.connect() as connection:
            self.assertEqual(connection.execute(text("SELECT count(*) FROM revisions")).scalar(), 0)

    def test_an_edit_that_changes_nothing_is_no_revision(self) -> None:
        one = self.library.edit("test", self.start.revision, rename("B"))
        self.assertEqual(self.library.edit("test", one.revision, rename("B")), one)
        self.assertEqual(self.library.history("test").count, 2)
        with self.assertRaises(Conflict):
            self.library.edit("test", self.start.revision, rename("B"))

    def test_history_comes_in_pages_and_named_ones_are_found_wherever_they_stand(self) -> None:
        state = self.start
        revisions = [state.revision]
        for i in range(9):
            state = self.library.edit("test", state.revision, rename(f"N{i}"))
            revisions.append(state.revision)
        self.library.name_revision("test", revisions[1], "before the gull")
        pages, before = [], None
        while True:
            page = self.library.history("test", before, most=4)
            pages.append([each.revision for each in page.rows])
            before = page.older
            if before is None:
                break
        self.assertEqual([len(page) for page in pages], [4, 4, 2])
        self.assertEqual([each for page in pages for each in page], revisions[::-1])
        self.assertEqual([each.name for each in self.library.history("test", named=True).rows], ["before the gull"])

    def test_nothing_is_locked_while_a_command_is_worked_out(self) -> None:
        other = self.library.add_shot("post", new_shot("Other"))
        inside, go_on = threading.Event(), threading.Event()
        work = table.apply

        def slow(shot: Shot, command: object) -> Shot:
            if shot.name == "Test":
                inside.set()
                go_on.wait(30)
            return work(shot, command)  # type: ignore[arg-type]

        self.enterContext(mock.patch.object(table, "apply", slow))
        late = threading.Thread(target=lambda: self.library.edit("test", self.start.revision, rename("Slow")))
        late.start()
        self.assertTrue(inside.wait(30))
        self.assertEqual(self.library.edit(other.slug, other.revision, rename("Fast")).document.name, "Fast")
        self.assertEqual(len(self.library.shots()), 2)
        go_on.set()
        late.join()
        self.assertEqual(self.library.state("test").document.name, "Slow")


class Identity(WithPost):
    """What one process removed and another made is never taken for what was there before."""

    def test_ids_are_never_used_again(self) -> None:
        gone = self.library.add_shot("post", new_shot("Gone"))
        self.library.remove_shot("gone")
        with closing(Library(self.folder)) as other:
            came = other.add_shot("post", new_shot("Came"), slug="came")
        self.assertGreater(came.revision, gone.revision)
        self.assertEqual(self.library.state("came").document.name, "Came")
        self.assertEqual(self.library.edit("came", came.revision, ADD).document.name, "Came")
        with self.assertRaises(NotFound):
            self.library.document("came", gone.revision)

    def test_a_cache_never_answers_for_another_document(self) -> None:
        state = self.library.add_shot("post", new_shot("Before"))
        self.library.state("before")
        with self.library._engine.begin() as connection:
            connection.exec_driver_sql(
                "UPDATE revisions SET document = ? WHERE id = ?", (pack(new_shot("After")), state.revision)
            )
        self.assertEqual(self.library.state("before").document.name, "After")
        self.assertEqual(self.library.shots()[0].card.name, "After")
        self.assertIsNone(self.library.shots()[0].scribble)

    def test_two_processes_on_one_folder_are_both_right(self) -> None:
        self.library.add_shot("post", new_shot("Walk"))
        script = (
            "import sys; from pathlib import Path; from zittern.store.library import Library; from "
            "zittern.core.errors import Conflict\n"
            "from zittern.core.edits.values import Assignment, SetValues\n"
            "library, done = Library(Path(sys.argv[1])), 0\n"
            "while done < 25:\n"
            "    state = library.state('walk')\n"
            "    command = SetValues(values=(Assignment(at='shot.name', value=f'{sys.argv[2]} {done} after "
            "{state.document.name[:20]}'),))\n"
            "    try:\n"
            "        after = library.edit('walk', state.revision, command)\n"
            "    except Conflict:\n"
            "        continue\n"
            "    assert after.document.name.startswith(sys.argv[2]) and after.revision > state.revision\n"
            "    done += 1\n"
        )
        others = [subprocess.Popen([sys.executable, "-c", script, str(self.folder), name]) for name in ("A", "B")]
        self.assertEqual([other.wait(60) for other in others], [0, 0])
        history = self.library.history("walk")
        self.assertEqual((history.count, all(each.line for each in history.rows)), (51, True))


class Unreadable(WithPost):
    """One document that cannot be read takes nothing else down."""

    def setUp(self) -> None:
        super().setUp()
        self.good = self.library.add_shot("post", new_shot("Good"))
        for slug, document in (
            ("bytes", b"\0\1"),
            ("newer", zlib.compress(b'{"schema_name": "zittern.shot", "schema_version": 99}')),
        ):
            state = self.library.edit(slug, self.library.add_shot("post", new_shot(slug)).revision, rename("Later"))
            with self.library._engine.begin() as connection:
                connection.exec_driver_sql("UPDATE revisions SET document = ? WHERE id = ?", (document, state.revision))

    def test_it_is_listed_with_what_is_wrong_and_the_rest_as_ever(self) -> None:
        for _ in range(2):
            problems = {entry.slug: entry.card.problem for entry in self.library.shots()}
            self.assertIsNone(problems["good"])
            self.assertRegex(problems["bytes"] or "", "damaged")
            self.assertRegex(problems["newer"] or "", "a newer Zittern")
        with self.assertRaisesRegex(DocumentError, "cannot be read: .*Export it raw"):
            self.library.state("bytes")
        self.assertEqual([each.shots for each in self.library.projects()], [3])

    def test_it_can_be_saved_as_it_is_gone_back_from_and_removed(self) -> None:
        self.assertEqual(self.library.raw("bytes"), ("bytes", b"\0\1"))
        self.assertIn(b"99", self.library.raw("newer")[1])
        head = self.library.history("newer").rows[0].revision
        self.assertEqual(self.library.undo("newer", head).document.name, "newer")
        self.library.remove_shot("bytes")
        self.assertEqual([entry.card.problem for entry in self.library.shots()], [None, None])


class Schema(WithPost):
    def test_reading_waits_for_no_writer_and_sees_nothing_half_done(self) -> None:
        before = self.library.add_shot("post", shot_with(layer()))
        with self.library._engine.connect() as writer, writer.begin() as change:
            writer.exec_driver_sql("UPDATE shots SET slug = 'half-done', card_of = NULL, scribble_of = NULL")
            self.assertEqual(self.library.state(before.slug), before)
            self.assertEqual([each.slug for each in self.library.shots()], [before.slug])
            change.rollback()

    def test_write_ahead_log_and_full_sync(self) -> None:
        with self.library._engine.connect() as connection:
            self.assertEqual(connection.execute(text("PRAGMA journal_mode")).scalar(), "wal")
            self.assertEqual(connection.execute(text("PRAGMA synchronous")).scalar(), 2)
            self.assertEqual(connection.execute(text("PRAGMA foreign_keys")).scalar(), 1)

    def test_migrations_lead_to_the_tables_of_the_code(self) -> None:
        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS))
        self.assertEqual(ScriptDirectory.from_config(config).get_current_head(), HEAD)
        with self.library._engine.connect() as connection:
            self.assertEqual(compare_metadata(MigrationContext.configure(connection), Base.metadata), [])

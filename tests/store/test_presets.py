from contextlib import closing
from unittest import mock

from sqlalchemy import text

from tests.store.making import WithLibrary
from zittern.core.errors import BadInput, Conflict, NotFound
from zittern.core.presets.preset import Preset
from zittern.store import presets
from zittern.store.library import Library
from zittern.store.shipped import shipped_presets

RUN = shipped_presets()["run"]
MINE = RUN.replace(name="Mine", tags=("run",))


class OnAShelf(WithLibrary):
    def setUp(self) -> None:
        super().setUp()
        self.shelf = self.library.presets

    def names(self) -> list[str]:
        return [kept.preset.name for kept in self.shelf.all().presets if kept.preset]


class Keeping(OnAShelf):
    def test_what_was_saved_is_there_for_everybody_and_after_a_restart(self) -> None:
        kept = self.shelf.add(MINE)
        with closing(Library(self.folder)) as other:
            self.assertEqual(other.presets.get(kept.key).preset, MINE)
            changed = other.presets.change(kept.key, kept.content, MINE.replace(line="Fast"))
            self.assertEqual(other.presets.all().undo_label, "Change preset “Mine”")
        self.assertEqual(self.shelf.get(kept.key), changed)
        with self.assertRaisesRegex(Conflict, "changed elsewhere"):
            self.shelf.change(kept.key, kept.content, MINE.replace(line="Slow"))
        with self.assertRaises(Conflict):
            self.shelf.remove(kept.key, kept.content)
        self.shelf.remove(kept.key, changed.content)
        for late in (
            lambda: self.shelf.get(kept.key),
            lambda: self.shelf.remove(kept.key, changed.content),
            lambda: self.shelf.raw(kept.key),
        ):
            with self.assertRaisesRegex(NotFound, "may have been deleted"):
                late()

    def test_names_are_not_taken_twice_whatever_their_case(self) -> None:
        kept = self.shelf.add(MINE)
        other = self.shelf.add(MINE.replace(name="Other"))
        for name in ("mine", "Small boat", "SMALL BOAT"):
            with self.assertRaisesRegex(BadInput, "called “.*” already"):
                self.shelf.add(MINE.replace(name=name))
            with self.assertRaisesRegex(BadInput, "called “.*” already"):
                self.shelf.change(other.key, other.content, MINE.replace(name=name))
        self.assertEqual(
            self.shelf.change(kept.key, kept.content, MINE.replace(name="MINE")).preset, MINE.replace(name="MINE")
        )
        for expected in ("mine 2", "mine 3"):
            self.assertEqual(
                self.shelf.add(MINE.replace(name="mine"), "Import", rename=True).preset, MINE.replace(name=expected)
            )
        long = "x" * 120
        self.assertEqual(
            [self.shelf.add(MINE.replace(name=long), rename=True).preset.name for _ in "ab"], [long, f"{'x' * 110} 2"]
        )  # type: ignore[union-attr]

    def test_shipped_ones_are_found_as_well(self) -> None:
        self.assertEqual(self.shelf.get("run").preset, RUN)
        self.assertIn('"Run"', self.shelf.raw("run"))

    def test_one_that_cannot_be_read_is_listed_with_what_is_wrong(self) -> None:
        kept = self.shelf.add(MINE)
        with self.library._writing() as connection:
            connection.execute(text("UPDATE presets SET document = '{'"))
        found = self.shelf.all().presets[0]
        self.assertEqual((found.key, found.preset), (kept.key, None))
        self.assertIn("not JSON", found.problem or "")
        self.assertEqual(self.shelf.raw(kept.key), "{")
        self.shelf.remove(kept.key, found.content)
        self.assertEqual((self.shelf.all().presets, self.shelf.all().undo_label), ((), f"Delete preset “{kept.key}”"))
        self.shelf.undo()
        self.assertEqual(self.shelf.raw(kept.key), "{")

    def test_there_is_an_end_to_how_many(self) -> None:
        most, presets.MOST_PRESETS = presets.MOST_PRESETS, 2
        self.addCleanup(setattr, presets, "MOST_PRESETS", most)
        for n in range(2):
            self.shelf.add(MINE.replace(name=f"{n}"))
        with self.assertRaisesRegex(BadInput, "there are 2 custom presets already"):
            self.shelf.add(MINE)


class Undoing(OnAShelf):
    def test_every_step_back_and_forth(self) -> None:
        shelf = self.shelf
        shelf.undo()
        kept = shelf.add(MINE)
        changed = shelf.change(kept.key, kept.content, MINE.replace(name="Yours"))
        self.assertEqual(shelf.change(kept.key, changed.content, MINE.replace(name="Yours")), changed)
        shelf.remove(kept.key, changed.content)
        steps = [([], None, "Save preset “Mine”"), (["Mine"], "Save preset “Mine”", "Change preset “Yours”")]
        steps += [(["Yours"], "Change preset “Yours”", "Delete preset “Yours”"), ([], "Delete preset “Yours”", None)]

        def stands() -> tuple[list[str], str | None, str | None]:
            return self.names(), shelf.all().undo_label, shelf.all().redo_label

        for n in (3, 2, 1, 0):
            self.assertEqual(stands(), steps[n])
            shelf.undo()
        self.assertEqual(stands(), steps[0])
        for n in (1, 2, 3, 3):
            shelf.redo()
            self.assertEqual(stands(), steps[n])

    def test_a_new_step_ends_what_could_be_redone(self) -> None:
        self.shelf.add(MINE)
        self.shelf.undo()
        self.shelf.add(MINE.replace(name="Other"))
        self.assertIsNone(self.shelf.all().redo_label)
        self.shelf.redo()
        self.assertEqual(self.names(), ["Other"])

    def test_the_oldest_steps_are_let_go_and_nothing_else(self) -> None:
        kept_steps, presets._KEPT_STEPS = presets._KEPT_STEPS, 3
        self.addCleanup(setattr, presets, "_KEPT_STEPS", kept_steps)
        for n in range(5):
            self.shelf.add(MINE.replace(name=f"{n}"))
        for _ in range(5):
            self.shelf.undo()
        self.assertEqual(self.names(), ["0", "1"])

    def test_a_preset_as_document(self) -> None:
        self.assertEqual(Preset.model_validate_json(self.shelf.raw(self.shelf.add(MINE).key)), MINE)


class Room(OnAShelf):
    def test_all_together_have_a_limit(self) -> None:
        kept = self.shelf.add(MINE)
        with mock.patch.object(presets, "MOST_BYTES", len(self.shelf.raw(kept.key)) + 40):
            with self.assertRaisesRegex(BadInput, "delete some first"):
                self.shelf.add(MINE.replace(name="Other"))
            changed = self.shelf.change(kept.key, kept.content, MINE.replace(line="Fast"))
            with self.assertRaisesRegex(BadInput, "delete some first"):
                self.shelf.change(kept.key, changed.content, MINE.replace(line="Fast " * 30))
        self.assertEqual(self.names(), ["Mine"])
        self.assertEqual(self.shelf.raw(kept.key).count("Fast"), 1)

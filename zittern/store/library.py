"""Projects and shots: the one door to the database. Each change is one transaction; an acknowledged one is on disk.

Whatever takes long (reading a document, applying a command, packing) happens outside the transaction, which only
compares the head and appends. Several processes may use one data folder: SQLite keeps their transactions apart, ids are
never used again, and what is remembered is named by its content.
"""

from __future__ import annotations

import secrets
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from dataclasses import replace
from pathlib import Path
from typing import TYPE_CHECKING, TypeVar

from sqlalchemy import Connection, Engine, delete, insert, select, update

from zittern.core.edits.notices import added_addresses, notice
from zittern.core.errors import BadInput, DocumentError, NotFound, StoreFull
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import as_stored, through_variant
from zittern.store import revisions, tidy
from zittern.store.cards import Card, card_of, digest_of, write_card
from zittern.store.documents import Documents, pack, raw
from zittern.store.engine import READS, open_engine
from zittern.store.faults import faults_of
from zittern.store.listing import PROJECTS, Project, ShotEntry, listed, project_of, shot_rows
from zittern.store.naming import clean_name, free_slug, slug_of
from zittern.store.pictures import pictures_in, sweep
from zittern.store.presets import PresetShelf
from zittern.store.reserve import Reserve
from zittern.store.revisions import Head, History, State
from zittern.store.scribbles import packed_scribble
from zittern.store.shipped import shipped_rigs
from zittern.store.tables import ProjectRow, RevisionRow, ShotRow, now
from zittern.store.tidy import Tidying
from zittern.store.workspace import Workspace
from zittern.store.writers import Writers

if TYPE_CHECKING:
    from zittern.core.edits.table import Command

__all__ = ["Library"]

_T = TypeVar("_T")
# A page of the history.
HISTORY_ROWS = 200


class Library:
    """All projects and shots of a data folder. Raises StoreError wherever the folder or the database cannot be used."""

    def __init__(self, data_dir: Path) -> None:
        self.data_dir = data_dir
        self._engine: Engine = open_engine(data_dir)
        self._documents = Documents()
        self._writers = Writers(self._engine)
        self._reserve = Reserve(data_dir)
        self.workspace = Workspace(data_dir)
        self.workspace.clean()
        self.presets = PresetShelf(self._reading, self._writing)

    def close(self) -> None:
        """Close the database and remove temporary files."""
        self._engine.dispose()
        self.workspace.close()

    @contextmanager
    def _reading(self) -> Iterator[Connection]:
        with faults_of(self.data_dir), self._engine.connect().execution_options(**{READS: True}) as connection:
            yield connection

    @contextmanager
    def _writing(self) -> Iterator[Connection]:
        with faults_of(self.data_dir), self._writers.transaction() as connection:
            yield connection

    def _remember(self, shot_id: str, **values: object) -> None:
        """Store derived values of a document with the shot, unless another writer is active.

        They can be derived again.
        """
        with faults_of(self.data_dir):
            self._writers.at_once(
                lambda connection: connection.execute(update(ShotRow).where(ShotRow.id == shot_id).values(**values))
            )

    # projects

    def projects(self) -> list[Project]:
        """All projects by name."""
        with self._reading() as connection:
            return [Project(*row) for row in connection.execute(PROJECTS.order_by(ProjectRow.name))]

    def add_project(self, name: str, slug: str | None = None) -> Project:
        """Return a new project. Raises BadInput for an empty name."""
        name = clean_name(name)
        with self._writing() as connection:
            free = free_slug(connection, ProjectRow, slug or slug_of(name))
            connection.execute(insert(ProjectRow).values(slug=free, name=name, created_at=now()))
            return Project(free, name, 0)

    def project(self, slug: str) -> Project:
        """Return a project by slug. Raises NotFound."""
        with self._reading() as connection:
            return project_of(connection, slug)

    def rename_project(self, slug: str, name: str) -> Project:
        """Rename it; the slug stays, so that links remain valid."""
        name = clean_name(name)
        with self._writing() as connection:
            connection.execute(update(ProjectRow).where(ProjectRow.slug == slug).values(name=name))
            return project_of(connection, slug)

    def remove_project(self, slug: str) -> None:
        """Remove a project that has no shots. Raises BadInput when it has some."""
        with self._writing() as connection:
            project = project_of(connection, slug)
            if project.shots:
                raise BadInput(f"the project “{project.name}” still has shots; remove them first")
            connection.execute(delete(ProjectRow).where(ProjectRow.slug == slug))

    # shots

    def shots(self, project_slug: str | None = None) -> list[ShotEntry]:
        """Shots of a project, or of all, by slug. One that cannot be read is listed with what is wrong."""
        with self._reading() as connection:
            rows = shot_rows(connection, project_slug)
        return listed(rows, self._card)

    def _card(self, id_: str, slug: str, packed: bytes) -> Card:
        try:
            card = card_of(self._documents.get(packed))
        except DocumentError as error:
            card = Card(slug, problem=str(error))
        self._remember(id_, card=write_card(card), card_of=digest_of(packed))
        return card

    def slugs(self) -> set[str]:
        """Slugs of all shots."""
        with self._reading() as connection:
            return set(connection.scalars(select(ShotRow.slug)))

    def size_bytes(self) -> int:
        """Size of the database on disk."""
        return sum(path.stat().st_size for path in self.data_dir.glob("zittern.db*"))

    def scribble(self, key: str) -> bytes:
        """Return a shot's scribble, computed and stored if the stored one is of another document.

        Raises NotFound, DocumentError.
        """
        with self._reading() as connection:
            head = revisions.find_head(connection, key)
            kept, kept_of = connection.execute(
                select(ShotRow.scribble, ShotRow.scribble_of).where(ShotRow.id == head.shot_id)
            ).one()
        digest = digest_of(head.packed)
        if kept is not None and kept_of == digest:
            return bytes(kept)
        made = packed_scribble(self._document(head))
        self._remember(head.shot_id, scribble=made, scribble_of=digest)
        return made

    def add_shot(self, project_slug: str, shot: Shot, label: str = "New shot", slug: str | None = None) -> State:
        """Return a new shot in a project."""
        shot = as_stored(shot)
        packed, drawn, id_ = pack(shot), packed_scribble(shot), secrets.token_hex(6)
        with self._writing() as connection:
            project = connection.execute(select(ProjectRow.id).where(ProjectRow.slug == project_slug)).scalar()
            if project is None:
                raise NotFound(f"there is no project {project_slug!r}")
            free = free_slug(connection, ShotRow, slug or slug_of(shot.name))
            row = {
                "id": id_,
                "project_id": project,
                "slug": free,
                "updated_at": now(),
                "scribble": drawn,
                "scribble_of": digest_of(packed),
            }
            connection.execute(insert(ShotRow).values(**row))
            revisions.append(connection, id_, None, shot, packed, label, None)
            head = revisions.find_head(connection, id_)
        self._documents.put(packed, shot)
        return head.state(shot)

    def _freeing(self, free: Callable[[], _T]) -> _T:
        """Run an action that releases space; on a full disk with the reserved space."""
        try:
            return free()
        except StoreFull:
            with self._reserve.released():
                return free()

    def remove_shot(self, key: str) -> None:
        """Remove a shot with its history, readable or not, also on a full disk. Raises NotFound."""
        self._freeing(lambda: self._remove_shot(key))

    def _remove_shot(self, key: str) -> None:
        with self._writing() as connection:
            id_ = _shot_id(connection, key)
            # Links between rows that all go need not be undone one by one.
            connection.exec_driver_sql("PRAGMA defer_foreign_keys=ON")
            connection.execute(delete(RevisionRow).where(RevisionRow.shot_id == id_))
            connection.execute(delete(ShotRow).where(ShotRow.id == id_))

    def state(self, key: str, variant: str | None = None) -> State:
        """Return a shot by id or slug, through a variant (the main one where none is named).

        Raises NotFound, or DocumentError when its document cannot be read.
        """
        with self._reading() as connection:
            head = revisions.find_head(connection, key)
        return head.state(self._document(head)).through_variant(variant)

    def newest_revision(self, key: str) -> int:
        """Return the number of a shot's present revision; its document is not read. Raises NotFound."""
        with self._reading() as connection:
            head = select(RevisionRow.id).join(ShotRow, ShotRow.head_id == RevisionRow.id)
            return connection.execute(head.where(ShotRow.id == _shot_id(connection, key))).scalar_one()

    def raw(self, key: str) -> tuple[str, bytes]:
        """Slug and stored document of a shot, whether it can be read or not.

        Its JSON, or the bytes as they lie when that is damaged.
        """
        with self._reading() as connection:
            head = revisions.find_head(connection, key)
        try:
            return head.slug, raw(head.packed)
        except DocumentError:
            return head.slug, head.packed

    def document(self, key: str, revision: int, variant: str | None = None) -> Shot:
        """Return the document of one revision of a shot, through a variant. Raises NotFound, DocumentError."""
        with self._reading() as connection:
            head = revisions.find_head(connection, key)
            packed = revisions.packed_document(connection, head.shot_id, head.slug, revision)
        found = self._documents.get(packed)
        return found if variant is None else through_variant(found, variant)

    def known_document(self, shot_id: str, revision: int, variant: str) -> Shot | None:
        """Return the document of a revision through a variant, where it is there and can be read."""
        try:
            return self.document(shot_id, revision, variant)
        except (NotFound, DocumentError):
            return None

    def edit(self, key: str, base_revision: int, command: Command, variant: str | None = None) -> State:
        """Commit a command on a variant, by default the main one; without a change there is no revision.

        Raises Conflict, NotFound or EditError; then nothing has changed.
        """
        head, stored = self._based(key, base_revision)
        before = stored if variant is None else through_variant(stored, variant)
        from zittern.core.edits.table import apply  # commands that only read do without all edits

        changed = apply(before, command)
        if changed == before:
            return head.state(before)
        after = as_stored(changed)
        packed, label = pack(after), f"{command.label(before)}{_of_variant(before, changed, command)}"
        with self._writing() as connection:
            revision = revisions.append(
                connection, head.shot_id, base_revision, after, packed, label, command.model_dump_json()
            )
        self._documents.put(packed, after)
        return replace(
            head.state(changed), revision=revision, label=label, undo_label=label, redo_label=None,
            made=added_addresses(before, changed), said=notice(before, changed),
        )  # fmt: skip

    def repeat(self, key: str, revision: int | None, onto: str) -> State:
        """Repeat the edit of a revision of a shot, by default the present one, on another.

        Raises NotFound, BadInput, EditError.
        """
        with self._reading() as connection:
            head = revisions.find_head(connection, key)
            text = revisions.command_of(
                connection, head.shot_id, head.slug, head.revision if revision is None else revision
            )
            base = revisions.find_head(connection, onto).revision
        from zittern.core.edits.upgrades import read_command

        return self.edit(onto, base, read_command(text, shipped_rigs()))

    def undo(self, key: str, base_revision: int) -> State:
        """One step back. Raises Conflict."""
        return self._travel(key, base_revision, lambda head: head.parent)

    def redo(self, key: str, base_revision: int) -> State:
        """One step forward. Raises Conflict."""
        return self._travel(key, base_revision, lambda head: head.redo)

    def go_to(self, key: str, base_revision: int, revision: int) -> State:
        """Restore any revision as the present one; none is lost. Raises Conflict, NotFound."""
        return self._travel(key, base_revision, lambda _: revision)

    def _travel(self, key: str, base: int, where: Callable[[Head], int | None]) -> State:
        """Make the revision that `where` returns the head.

        Without one, or at the head, nothing changes.
        """
        with self._reading() as connection:
            head = _checked(revisions.find_head(connection, key), base)
            target = where(head)
            packed = (
                None
                if target is None or target == base
                else revisions.packed_document(connection, head.shot_id, head.slug, target)
            )
        if packed is None or target is None:
            return head.state(self._document(head))
        document = self._documents.get(packed)
        with self._writing() as connection:
            revisions.move_head(connection, head.shot_id, base, target, document, packed)
            return revisions.find_head(connection, head.shot_id).state(document)

    def _based(self, key: str, base: int) -> tuple[Head, Shot]:
        with self._reading() as connection:
            head = _checked(revisions.find_head(connection, key), base)
        return head, self._document(head)

    def _document(self, head: Head) -> Shot:
        try:
            return self._documents.get(head.packed)
        except DocumentError as error:
            advice = (
                f"the shot {head.slug!r} cannot be read: {error.message}. Export it raw, undo to an earlier revision, "
                f"or remove it"
            )
            raise DocumentError(advice, error.where) from error

    def name_revision(self, key: str, revision: int, name: str | None) -> None:
        """Name a revision; an empty name removes it. Raises NotFound."""
        clean = clean_name(name) if name and name.strip() else None
        with self._writing() as connection:
            revisions.name_revision(connection, _shot_id(connection, key), key, revision, clean)

    def history(self, key: str, before: int | None = None, most: int = HISTORY_ROWS, named: bool = False) -> History:
        """Newest first, page by page: older than `before`; optionally only named ones."""
        with self._reading() as connection:
            return revisions.history(connection, revisions.find_head(connection, key), before, most, named)

    def tidying(self, key: str, keep: int = tidy.KEEP) -> Tidying:
        """Return what `tidy` would remove: old revisions without a name. Raises NotFound."""
        with self._reading() as connection:
            return tidy.plan(connection, revisions.find_head(connection, key), keep)

    def tidy(self, key: str, keep: int = tidy.KEEP) -> Tidying:
        """Remove old unnamed revisions permanently and release the space, also on a full disk.

        Return the amount removed. Raises NotFound.
        """
        return self._freeing(lambda: self._tidy(key, keep))

    def sweep_pictures(self) -> int:
        """Remove unused pictures, unless they are new; return the number of files."""
        named: set[str] = set()
        with self._reading() as connection:
            for (document,) in connection.execute(select(RevisionRow.document)):
                with suppress(DocumentError):
                    named |= pictures_in(raw(document))
        return sweep(self.data_dir, named)

    def _tidy(self, key: str, keep: int) -> Tidying:
        with self._reading() as connection:
            head = revisions.find_head(connection, key)
            planned = tidy.plan(connection, head, keep)
        gone = 0
        for ids in tidy.batches(planned.ids):
            with self._writing() as connection:
                gone += tidy.remove(connection, head.shot_id, ids)
        if gone:
            with faults_of(self.data_dir), self._writers.alone():
                tidy.give_back(self._engine)
        return Tidying(planned.slug, gone, planned.of, planned.bytes, planned.ids)


def _of_variant(before: Shot, after: Shot, command: Command) -> str:
    """Behind a label: which variant was changed, where it is not the main one."""
    if before.variant in (before.main, after.main) or command.everywhere or before.variants != after.variants:
        return ""
    return f" · {next(each.name for each in before.variants if each.id == before.variant)}"


def _shot_id(connection: Connection, key: str) -> str:
    """By id or else by slug, whether its document can be read or not. Raises NotFound."""
    for column in (ShotRow.id, ShotRow.slug):
        found: str | None = connection.execute(select(ShotRow.id).where(column == key)).scalar()
        if found is not None:
            return found
    raise NotFound(f"there is no shot {key!r}")


def _checked(head: Head, base: int) -> Head:
    if head.revision != base:
        raise revisions.conflict(head.revision, head.label, base)
    return head

"""Projects and shots: the one door to the database. Each method is one transaction; an acknowledged one is on disk."""

from __future__ import annotations

import re
import secrets
import unicodedata
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path

from sqlalchemy import Engine, delete, select, update
from sqlalchemy.orm import Session

from zittern.core.edits.table import Command
from zittern.core.errors import BadInput, NotFound
from zittern.core.shot.shot import Shot
from zittern.store import revisions
from zittern.store.documents import Documents
from zittern.store.engine import READS, open_engine
from zittern.store.revisions import RevisionInfo, State
from zittern.store.tables import ProjectRow, RevisionRow, ShotRow

__all__ = ["Library", "Project", "ShotEntry", "slug_of"]


@dataclass(frozen=True, slots=True)
class Project:
    """A project and how many shots it has."""

    id: int
    slug: str
    name: str
    created_at: datetime


@dataclass(frozen=True, slots=True)
class ShotEntry:
    """A shot as listed."""

    id: str
    slug: str
    project: str
    project_slug: str
    updated_at: datetime
    document: Shot
    revision: int


class Library:
    """All projects and shots of a data folder."""

    def __init__(self, data_dir: Path) -> None:
        self.data_dir = data_dir
        self._engine: Engine = open_engine(data_dir)
        self._documents = Documents()

    def close(self) -> None:
        """Lets go of the database."""
        self._engine.dispose()

    @contextmanager
    def _reading(self) -> Iterator[Session]:
        with Session(self._engine.execution_options(**{READS: True}), expire_on_commit=False) as session, session.begin():
            yield session

    @contextmanager
    def _session(self) -> Iterator[Session]:
        with Session(self._engine, expire_on_commit=False) as session, session.begin():
            yield session

    # projects

    def projects(self) -> list[Project]:
        """All projects by name."""
        with self._reading() as session:
            return [_project(row) for row in session.scalars(select(ProjectRow).order_by(ProjectRow.name))]

    def add_project(self, name: str, slug: str | None = None) -> Project:
        """A new project. Raises BadInput for an empty name."""
        name = _clean_name(name)
        with self._session() as session:
            row = ProjectRow(slug=_free_slug(session, ProjectRow.slug, slug or slug_of(name)), name=name)
            session.add(row)
            session.flush()
            return _project(row)

    def project(self, slug: str) -> Project:
        """A project by slug. Raises NotFound."""
        with self._reading() as session:
            return _project(_project_row(session, slug))

    def rename_project(self, slug: str, name: str) -> Project:
        """Another name; the slug stays, so that links hold."""
        with self._session() as session:
            row = _project_row(session, slug)
            row.name = _clean_name(name)
            return _project(row)

    def remove_project(self, slug: str) -> None:
        """Removes a project that has no shots. Raises BadInput when it has some."""
        with self._session() as session:
            row = _project_row(session, slug)
            if session.scalars(select(ShotRow.id).where(ShotRow.project_id == row.id).limit(1)).first() is not None:
                raise BadInput(f"the project “{row.name}” still has shots; remove them first")
            session.delete(row)

    # shots

    def shots(self, project_slug: str | None = None) -> list[ShotEntry]:
        """Shots of a project, or of all, by slug."""
        with self._reading() as session:
            query = (
                select(ShotRow, ProjectRow, RevisionRow)
                .join(ProjectRow, ShotRow.project_id == ProjectRow.id)
                .join(RevisionRow, ShotRow.head_id == RevisionRow.id)
            )
            if project_slug is not None:
                query = query.where(ProjectRow.slug == project_slug)
            return [
                ShotEntry(shot.id, shot.slug, project.name, project.slug, shot.updated_at, self._documents.get(head.id, head.document), head.id)
                for shot, project, head in session.execute(query.order_by(ShotRow.slug))
            ]

    def add_shot(self, project_slug: str, shot: Shot, label: str = "New shot", slug: str | None = None) -> State:
        """A new shot in a project."""
        with self._session() as session:
            project = _project_row(session, project_slug)
            row = ShotRow(id=secrets.token_hex(6), project_id=project.id, slug=_free_slug(session, ShotRow.slug, slug or slug_of(shot.name)))
            session.add(row)
            session.flush()
            revisions.add_revision(session, self._documents, row, shot, label, None)
            return revisions.load_state(session, self._documents, row)

    def remove_shot(self, key: str) -> None:
        """Removes a shot with its history."""
        with self._session() as session:
            row = _shot_row(session, key)
            row.head_id = None
            session.flush()
            session.execute(update(RevisionRow).where(RevisionRow.shot_id == row.id).values(parent_id=None, redo_id=None))
            session.execute(delete(RevisionRow).where(RevisionRow.shot_id == row.id))
            session.delete(row)

    def state(self, key: str) -> State:
        """A shot by id or slug. Raises NotFound."""
        with self._reading() as session:
            return revisions.load_state(session, self._documents, _shot_row(session, key))

    def document(self, key: str, revision: int) -> Shot:
        """The document of one revision of a shot. Raises NotFound."""
        with self._reading() as session:
            found = session.get(RevisionRow, revision)
            if found is None or found.shot_id != _shot_row(session, key).id:
                raise NotFound(f"the shot {key!r} has no revision {revision}")
            return self._documents.get(found.id, found.document)

    def edit(self, key: str, base_revision: int, command: Command) -> State:
        """Commits a command. Raises Conflict or EditError; then nothing has changed."""
        with self._session() as session:
            return revisions.commit_edit(session, self._documents, _shot_row(session, key), base_revision, command)

    def undo(self, key: str, base_revision: int) -> State:
        """One step back. Raises Conflict."""
        with self._session() as session:
            return revisions.undo(session, self._documents, _shot_row(session, key), base_revision)

    def redo(self, key: str, base_revision: int) -> State:
        """One step forward. Raises Conflict."""
        with self._session() as session:
            return revisions.redo(session, self._documents, _shot_row(session, key), base_revision)

    def go_to(self, key: str, base_revision: int, revision: int) -> State:
        """Makes any revision the present one; none is lost. Raises Conflict, NotFound."""
        with self._session() as session:
            return revisions.go_to(session, self._documents, _shot_row(session, key), base_revision, revision)

    def name_revision(self, key: str, revision: int, name: str | None) -> None:
        """Names a revision; an empty name takes it away. Raises NotFound."""
        with self._session() as session:
            revisions.name_revision(session, _shot_row(session, key), revision, _clean_name(name) if name and name.strip() else None)

    def history(self, key: str) -> list[RevisionInfo]:
        """Newest first."""
        with self._reading() as session:
            return revisions.history(session, _shot_row(session, key))


def slug_of(name: str) -> str:
    """A name for addresses: lower case, letters, digits and dashes."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return re.sub(r"[^a-z0-9]+", "-", plain).strip("-")[:60] or "untitled"


def _clean_name(name: str) -> str:
    cleaned = name.strip()
    if not cleaned or len(cleaned) > 120:
        raise BadInput("a name has 1 to 120 characters", "name")
    return cleaned


def _free_slug(session: Session, column: object, wanted: str) -> str:
    slug, n = wanted, 1
    while session.execute(select(column).where(column == slug)).first() is not None:  # type: ignore[call-overload]
        n += 1
        slug = f"{wanted}-{n}"
    return slug


def _project(row: ProjectRow) -> Project:
    return Project(row.id, row.slug, row.name, row.created_at)


def _project_row(session: Session, slug: str) -> ProjectRow:
    row = session.scalars(select(ProjectRow).where(ProjectRow.slug == slug)).first()
    if row is None:
        raise NotFound(f"there is no project {slug!r}")
    return row


def _shot_row(session: Session, key: str) -> ShotRow:
    row = session.get(ShotRow, key) or session.scalars(select(ShotRow).where(ShotRow.slug == key)).first()
    if row is None:
        raise NotFound(f"there is no shot {key!r}")
    return row

"""Lists of projects and shots."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from contextlib import closing
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from sqlalchemy import Connection, func, select

from zittern.core.errors import NotFound
from zittern.store.cards import Card, digest_of, read_card
from zittern.store.engine import READS, open_engine
from zittern.store.faults import faults_of
from zittern.store.tables import ProjectRow, RevisionRow, ShotRow

__all__ = ["PROJECTS", "Project", "ShotEntry", "ShotRows", "listed", "listed_in", "project_of", "shot_rows"]

ShotRows = Sequence[Any]


@dataclass(frozen=True, slots=True)
class Project:
    """A project and how many shots it has."""

    slug: str
    name: str
    shots: int


@dataclass(frozen=True, slots=True)
class ShotEntry:
    """A shot in a list. scribble: signed bytes, pan and tilt in turn; None when it must be computed first."""

    id: str
    slug: str
    project: str
    project_slug: str
    updated_at: datetime
    card: Card
    scribble: bytes | None


_SHOTS = (
    select(
        ShotRow.id, ShotRow.slug, ProjectRow.name, ProjectRow.slug, ShotRow.updated_at, ShotRow.card, ShotRow.card_of,
        ShotRow.scribble, ShotRow.scribble_of, RevisionRow.document,
    )
    .join(ProjectRow, ShotRow.project_id == ProjectRow.id)
    .join(RevisionRow, ShotRow.head_id == RevisionRow.id)
    .order_by(ShotRow.slug)
)  # fmt: skip
PROJECTS = (
    select(ProjectRow.slug, ProjectRow.name, func.count(ShotRow.id))
    .outerjoin(ShotRow, ShotRow.project_id == ProjectRow.id)
    .group_by(ProjectRow.id)
)


def project_of(connection: Connection, slug: str) -> Project:
    """Return a project by slug. Raises NotFound."""
    row = connection.execute(PROJECTS.where(ProjectRow.slug == slug)).first()
    if row is None:
        raise NotFound(f"there is no project {slug!r}")
    return Project(*row)


def shot_rows(connection: Connection, project_slug: str | None = None) -> ShotRows:
    """Return the rows of all shots, or of those of a project, by slug."""
    query = _SHOTS if project_slug is None else _SHOTS.where(ProjectRow.slug == project_slug)
    return connection.execute(query).all()


def listed(rows: ShotRows, made: Callable[[str, str, bytes], Card]) -> list[ShotEntry]:
    """Return the shots of these rows.

    made: creates the card of a shot without a current one, from id, slug and packed document.
    """
    entries = []
    for id_, slug, project, project_slug, updated, card, card_of, scribble, scribble_of, packed in rows:
        digest = digest_of(packed)
        known = read_card(card) if card is not None and card_of == digest else made(id_, slug, packed)
        entries.append(
            ShotEntry(id_, slug, project, project_slug, updated, known, scribble if scribble_of == digest else None)
        )
    return entries


def listed_in(data_dir: Path) -> list[ShotEntry]:
    """All shots of a data folder, for commands that only list.

    The library, with all that edits need, is imported only where a card is missing. Raises StoreError.
    """
    engine = open_engine(data_dir)
    try:
        with faults_of(data_dir), engine.connect().execution_options(**{READS: True}) as connection:
            return listed(shot_rows(connection), _missing)
    except _NoCard:
        from zittern.store.library import Library

        with closing(Library(data_dir)) as library:
            return library.shots()
    finally:
        engine.dispose()


class _NoCard(Exception):
    """A shot has no card of its document."""


def _missing(id_: str, slug: str, packed: bytes) -> Card:
    raise _NoCard(slug)

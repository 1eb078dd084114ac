"""Projects and shots as they are listed."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Connection, func, select

from zittern.core.errors import NotFound
from zittern.store.cards import Card
from zittern.store.tables import ProjectRow, RevisionRow, ShotRow

__all__ = ["ENTRIES", "PROJECTS", "Project", "ShotEntry", "project_of"]


@dataclass(frozen=True, slots=True)
class Project:
    """A project and how many shots it has."""

    slug: str
    name: str
    shots: int


@dataclass(frozen=True, slots=True)
class ShotEntry:
    """A shot as listed. scribble: signed bytes, pan and tilt in turn; None when it has to be made anew first."""

    id: str
    slug: str
    project: str
    project_slug: str
    updated_at: datetime
    card: Card
    scribble: bytes | None


ENTRIES = (
    select(
        ShotRow.id, ShotRow.slug, ProjectRow.name, ProjectRow.slug, ShotRow.updated_at, ShotRow.card, ShotRow.card_of,
        ShotRow.scribble,
        ShotRow.scribble_of, RevisionRow.document,
    )
    .join(ProjectRow, ShotRow.project_id == ProjectRow.id)
    .join(RevisionRow, ShotRow.head_id == RevisionRow.id)
)  # fmt: skip
PROJECTS = (
    select(ProjectRow.slug, ProjectRow.name, func.count(ShotRow.id))
    .outerjoin(ShotRow, ShotRow.project_id == ProjectRow.id)
    .group_by(ProjectRow.id)
)


def project_of(connection: Connection, slug: str) -> Project:
    """A project by slug. Raises NotFound."""
    row = connection.execute(PROJECTS.where(ProjectRow.slug == slug)).first()
    if row is None:
        raise NotFound(f"there is no project {slug!r}")
    return Project(*row)

"""The tables. A change here needs a migration. Ids count up and are never used again (AUTOINCREMENT)."""

from __future__ import annotations

from datetime import UTC, datetime

from sqlalchemy import Boolean, DateTime, ForeignKey, LargeBinary, String, Text
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column

__all__ = ["Base", "PresetRow", "PresetStepRow", "ProjectRow", "RevisionRow", "ShotRow", "now"]

_NEVER_AGAIN = {"sqlite_autoincrement": True}


def now() -> datetime:
    """Return the present time, UTC."""
    return datetime.now(UTC)


class Base(DeclarativeBase):
    """Base of all tables."""


class ProjectRow(Base):
    """A project: a list of shots."""

    __tablename__ = "projects"
    __table_args__ = _NEVER_AGAIN

    id: Mapped[int] = mapped_column(primary_key=True)
    slug: Mapped[str] = mapped_column(String(80), unique=True)
    name: Mapped[str] = mapped_column(String(120))
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class ShotRow(Base):
    """A shot: the head of its history, and the properties of its card.

    `card_of` and `scribble_of` are digests of the packed document that they were derived from: for another head, they
    are rebuilt.
    """

    __tablename__ = "shots"

    id: Mapped[str] = mapped_column(String(32), primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("projects.id"), index=True)
    slug: Mapped[str] = mapped_column(String(80), unique=True)
    head_id: Mapped[int | None] = mapped_column(ForeignKey("revisions.id", use_alter=True), nullable=True)
    updated_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)
    card: Mapped[str | None] = mapped_column(Text, nullable=True)
    card_of: Mapped[str | None] = mapped_column(String(32), nullable=True)
    scribble: Mapped[bytes | None] = mapped_column(LargeBinary, nullable=True)
    scribble_of: Mapped[str | None] = mapped_column(String(32), nullable=True)


class RevisionRow(Base):
    """A document after an edit. Revisions form a tree: redo_id is the child that redo goes to."""

    __tablename__ = "revisions"
    __table_args__ = _NEVER_AGAIN

    id: Mapped[int] = mapped_column(primary_key=True)
    shot_id: Mapped[str] = mapped_column(ForeignKey("shots.id"), index=True)
    parent_id: Mapped[int | None] = mapped_column(ForeignKey("revisions.id"), nullable=True, index=True)
    redo_id: Mapped[int | None] = mapped_column(ForeignKey("revisions.id"), nullable=True, index=True)
    label: Mapped[str] = mapped_column(String(300))
    name: Mapped[str | None] = mapped_column(String(120), nullable=True)
    command: Mapped[str | None] = mapped_column(Text, nullable=True)
    document: Mapped[bytes] = mapped_column(LargeBinary)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)


class PresetRow(Base):
    """A preset of the user's own, as JSON of the version that wrote it.

    Its name once more, so that names are compared without reading them.
    """

    __tablename__ = "presets"

    key: Mapped[str] = mapped_column(String(64), primary_key=True)
    name: Mapped[str] = mapped_column(String(120))
    document: Mapped[str] = mapped_column(Text)


class PresetStepRow(Base):
    """A change of one preset, so that it can be undone: its document before (None: it was not there) and after (None.

    removed).
    """

    __tablename__ = "preset_steps"
    __table_args__ = _NEVER_AGAIN

    id: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str] = mapped_column(String(64))
    label: Mapped[str] = mapped_column(String(300))
    before: Mapped[str | None] = mapped_column(Text, nullable=True)
    after: Mapped[str | None] = mapped_column(Text, nullable=True)
    undone: Mapped[bool] = mapped_column(Boolean, default=False)
    created_at: Mapped[datetime] = mapped_column(DateTime(timezone=True), default=now)

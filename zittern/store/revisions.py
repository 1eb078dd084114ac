"""Edits, undo, redo and history of one shot. Every committed edit is a revision; the tree of revisions is never pruned."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from zittern.core.edits.table import Command, apply
from zittern.core.errors import Conflict, NotFound
from zittern.core.shot.shot import Shot
from zittern.store.documents import Documents, pack
from zittern.store.tables import ProjectRow, RevisionRow, ShotRow, now

__all__ = ["RevisionInfo", "State", "add_revision", "commit_edit", "go_to", "history", "load_state", "name_revision", "redo", "undo"]


@dataclass(frozen=True, slots=True)
class State:
    """A shot as it stands: document, revision, and what undo and redo would do."""

    shot_id: str
    slug: str
    project: str
    project_slug: str
    document: Shot
    revision: int
    label: str
    undo_label: str | None
    redo_label: str | None


@dataclass(frozen=True, slots=True)
class RevisionInfo:
    """A row of the history, newest first. `line`: on the way from the start to here, or what redo would bring back."""

    revision: int
    parent: int | None
    label: str
    name: str | None
    created_at: datetime
    current: bool
    line: bool


def load_state(session: Session, documents: Documents, row: ShotRow) -> State:
    """The present state."""
    head = _head(session, row)
    project = session.get_one(ProjectRow, row.project_id)
    following = session.get(RevisionRow, head.redo_id) if head.redo_id else None
    return State(
        shot_id=row.id,
        slug=row.slug,
        project=project.name,
        project_slug=project.slug,
        document=documents.get(head.id, head.document),
        revision=head.id,
        label=head.label,
        undo_label=head.label if head.parent_id is not None else None,
        redo_label=following.label if following else None,
    )


def add_revision(session: Session, documents: Documents, row: ShotRow, shot: Shot, label: str, command: str | None) -> None:
    """Puts a document on top of the history."""
    revision = RevisionRow(shot_id=row.id, parent_id=row.head_id, label=label[:300], command=command, document=pack(shot))
    session.add(revision)
    session.flush()
    if row.head_id is not None:
        _head(session, row).redo_id = revision.id
    row.head_id = revision.id
    row.updated_at = now()
    session.flush()
    documents.put(revision.id, shot)


def commit_edit(session: Session, documents: Documents, row: ShotRow, base_revision: int, command: Command) -> State:
    """Applies a command to the head. Raises Conflict when the head is not `base_revision`, EditError when it cannot be done."""
    _check_base(session, row, base_revision)
    before = load_state(session, documents, row).document
    after = apply(before, command)
    add_revision(session, documents, row, after, command.label(before), command.model_dump_json())
    return load_state(session, documents, row)


def undo(session: Session, documents: Documents, row: ShotRow, base_revision: int) -> State:
    """One step back; nothing happens at the start. Raises Conflict."""
    _check_base(session, row, base_revision)
    head = _head(session, row)
    if head.parent_id is not None:
        parent = session.get_one(RevisionRow, head.parent_id)
        parent.redo_id = head.id
        row.head_id = parent.id
        row.updated_at = now()
        session.flush()
    return load_state(session, documents, row)


def redo(session: Session, documents: Documents, row: ShotRow, base_revision: int) -> State:
    """One step forward again; nothing happens at the end. Raises Conflict."""
    _check_base(session, row, base_revision)
    head = _head(session, row)
    if head.redo_id is not None:
        row.head_id = head.redo_id
        row.updated_at = now()
        session.flush()
    return load_state(session, documents, row)


def go_to(session: Session, documents: Documents, row: ShotRow, base_revision: int, revision: int) -> State:
    """Makes any revision the present one; the others stay, later ones too. Raises Conflict, NotFound."""
    _check_base(session, row, base_revision)
    target = _own(session, row, revision)
    row.head_id = target.id
    row.updated_at = now()
    session.flush()
    return load_state(session, documents, row)


def name_revision(session: Session, row: ShotRow, revision: int, name: str | None) -> None:
    """Gives a revision a name, or takes it away. Raises NotFound."""
    _own(session, row, revision).name = name
    session.flush()


def _own(session: Session, row: ShotRow, revision: int) -> RevisionRow:
    found = session.get(RevisionRow, revision)
    if found is None or found.shot_id != row.id:
        raise NotFound(f"the shot {row.slug!r} has no revision {revision}")
    return found


def history(session: Session, row: ShotRow, most: int = 500) -> list[RevisionInfo]:
    """The newest revisions first."""
    fields = (RevisionRow.id, RevisionRow.parent_id, RevisionRow.redo_id, RevisionRow.label, RevisionRow.name, RevisionRow.created_at)
    rows = session.execute(select(*fields).where(RevisionRow.shot_id == row.id)).all()
    by_id = {each.id: each for each in rows}
    line: set[int] = set()
    for step in ("parent_id", "redo_id"):
        at = row.head_id
        while at is not None and at in by_id:
            line.add(at)
            at = getattr(by_id[at], step)
    newest = sorted(rows, key=lambda each: each.id, reverse=True)[:most]
    return [RevisionInfo(each.id, each.parent_id, each.label, each.name, each.created_at, each.id == row.head_id, each.id in line) for each in newest]


def _head(session: Session, row: ShotRow) -> RevisionRow:
    head = session.get(RevisionRow, row.head_id) if row.head_id is not None else None
    if head is None:
        raise NotFound(f"the shot {row.slug!r} has no document")
    return head


def _check_base(session: Session, row: ShotRow, base_revision: int) -> None:
    if row.head_id == base_revision:
        return
    head = _head(session, row)
    raise Conflict(
        f"this shot was changed elsewhere meanwhile (“{head.label}”); your change was not applied",
        {"current_revision": head.id, "current_label": head.label, "base_revision": base_revision},
    )

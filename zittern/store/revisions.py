"""Edits, undo, redo and history of one shot. Every committed edit is a revision in a tree; only `tidy` takes some away.

Functions that write take a connection in a write transaction and only compare and append: documents are computed
is computed before.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import datetime

from sqlalchemy import Connection, func, select, update

from zittern.core.errors import Conflict, NotFound
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import through_variant
from zittern.store.cards import card_of, digest_of, write_card
from zittern.store.tables import RevisionRow, now

__all__ = [
    "Head",
    "History",
    "RevisionInfo",
    "State",
    "append",
    "command_of",
    "find_head",
    "history",
    "move_head",
    "name_revision",
    "packed_document",
]

_LABEL_LENGTH = 300


@dataclass(frozen=True, slots=True)
class State:
    """The state of a shot.

    Document (through one of its variants), revision, labels of undo and redo, and after an edit the addresses of added
    parts and its notice.
    """

    shot_id: str
    slug: str
    project: str
    project_slug: str
    document: Shot
    revision: int
    label: str
    undo_label: str | None
    redo_label: str | None
    made: tuple[str, ...] = ()
    said: str = ""

    @property
    def variant(self) -> str:
        """Id of the variant that it is seen through."""
        return self.document.variant

    def through_variant(self, variant: str | None) -> State:
        """Return the state through another variant, by id or name; unchanged without a name. Raises NotFound."""
        return self if variant is None else replace(self, document=through_variant(self.document, variant))

    def through_what_is_left(self, variant: str | None) -> State:
        """Return the state through another variant; through the main one if it was removed."""
        there = variant is not None and any(variant in (each.id, each.name) for each in self.document.variants)
        return self.through_variant(variant if there else None)


@dataclass(frozen=True, slots=True)
class Head:
    """Head of a shot's history, with a packed document."""

    shot_id: str
    slug: str
    project: str
    project_slug: str
    revision: int
    parent: int | None
    redo: int | None
    label: str
    redo_label: str | None
    packed: bytes

    def state(self, document: Shot) -> State:
        """Return the state with the document unpacked."""
        undo_label = self.label if self.parent is not None else None
        return State(
            self.shot_id,
            self.slug,
            self.project,
            self.project_slug,
            document,
            self.revision,
            self.label,
            undo_label,
            self.redo_label,
        )


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


@dataclass(frozen=True, slots=True)
class History:
    """A page of the history, newest first.

    older: argument for the next page; named: all named revisions.
    """

    rows: tuple[RevisionInfo, ...]
    older: int | None
    count: int


# Statements of every edit are plain SQL: building and compiling expressions took five times as long as running them.
_HEAD = """
SELECT shots.id, shots.slug, projects.name, projects.slug,
  head.id, head.parent_id, head.redo_id, head.label, following.label, head.document
FROM shots JOIN projects ON projects.id = shots.project_id JOIN revisions AS head ON head.id = shots.head_id
LEFT JOIN revisions AS following ON following.id = head.redo_id WHERE shots.{column} = ?
"""
_HEADS = (_HEAD.format(column="id"), _HEAD.format(column="slug"))
_PRESENT = "SELECT head.id, head.label FROM shots JOIN revisions AS head ON head.id = shots.head_id WHERE shots.id = ?"
_INSERT = "INSERT INTO revisions (shot_id, parent_id, label, command, document, created_at) VALUES (?, ?, ?, ?, ?, ?)"
_SET_REDO = "UPDATE revisions SET redo_id = ? WHERE id = ?"
_SET_HEAD = "UPDATE shots SET head_id = ?, updated_at = ?, card = ?, card_of = ? WHERE id = ?"
# Format of SQLAlchemy's DateTime.
_TIME = "%Y-%m-%d %H:%M:%S.%f"


def find_head(connection: Connection, key: str) -> Head:
    """Return a shot's head, by id or else by slug. Raises NotFound."""
    for query in _HEADS:
        found = connection.exec_driver_sql(query, (key,)).first()
        if found is not None:
            return Head(*tuple(found))
    raise NotFound(f"there is no shot {key!r}")


def append(
    connection: Connection, shot_id: str, base: int | None, shot: Shot, packed: bytes, label: str, command: str | None
) -> int:
    """Append a document to revision `base`; return the number of the new one.

    Raises Conflict when another revision is the head.
    """
    if base is not None:
        _check_head(connection, shot_id, base)
    row = (shot_id, base, label[:_LABEL_LENGTH], command, packed, now().strftime(_TIME))
    revision = int(connection.exec_driver_sql(_INSERT, row).lastrowid)
    if base is not None:
        connection.exec_driver_sql(_SET_REDO, (revision, base))
    _set_head(connection, shot_id, revision, shot, packed)
    return revision


def move_head(connection: Connection, shot_id: str, base: int, target: int, shot: Shot, packed: bytes) -> None:
    """Make another revision the head; redo returns to the previous one if it is a child of the target.

    Raises Conflict, NotFound.
    """
    _check_head(connection, shot_id, base)
    if (
        connection.execute(
            select(RevisionRow.id).where(RevisionRow.id == target, RevisionRow.shot_id == shot_id)
        ).first()
        is None
    ):
        raise NotFound(f"there is no revision {target}; history was cleaned up")
    left = connection.execute(select(RevisionRow.parent_id).where(RevisionRow.id == base)).scalar()
    if left == target:
        connection.exec_driver_sql(_SET_REDO, (base, target))
    _set_head(connection, shot_id, target, shot, packed)


def _check_head(connection: Connection, shot_id: str, base: int) -> None:
    found = connection.exec_driver_sql(_PRESENT, (shot_id,)).first()
    if found is None:
        raise NotFound("this shot was removed")
    head, label = found
    if head != base:
        raise conflict(head, label, base)


def conflict(head: int, label: str, base: int) -> Conflict:
    """Return the error for a concurrent change."""
    return Conflict(
        f"this shot was changed elsewhere (“{label}”); your change was not applied",
        {"current_revision": head, "current_label": label, "base_revision": base},
    )


def _set_head(connection: Connection, shot_id: str, revision: int, shot: Shot, packed: bytes) -> None:
    connection.exec_driver_sql(
        _SET_HEAD, (revision, now().strftime(_TIME), write_card(card_of(shot)), digest_of(packed), shot_id)
    )


def packed_document(connection: Connection, shot_id: str, slug: str, revision: int) -> bytes:
    """Return the packed document of a revision. Raises NotFound."""
    found = connection.execute(
        select(RevisionRow.document).where(RevisionRow.id == revision, RevisionRow.shot_id == shot_id)
    ).first()
    if found is None:
        raise NotFound(f"the shot {slug!r} has no revision {revision}")
    return bytes(found[0])


def command_of(connection: Connection, shot_id: str, slug: str, revision: int) -> str:
    """Return the command that made a revision, as JSON.

    Raises NotFound for a revision that is not there, or made by none.
    """
    own = (RevisionRow.id == revision, RevisionRow.shot_id == shot_id)
    found = connection.execute(select(RevisionRow.command, RevisionRow.label).where(*own)).first()
    if found is None:
        raise NotFound(f"the shot {slug!r} has no revision {revision}")
    if found[0] is None:
        raise NotFound(f"revision {revision} (“{found[1]}”) was made by no edit that could be repeated")
    return str(found[0])


def name_revision(connection: Connection, shot_id: str, slug: str, revision: int, name: str | None) -> None:
    """Name a revision, or remove its name. Raises NotFound."""
    own = (RevisionRow.id == revision, RevisionRow.shot_id == shot_id)
    if connection.execute(update(RevisionRow).where(*own).values(name=name)).rowcount == 0:
        raise NotFound(f"the shot {slug!r} has no revision {revision}")


def history(connection: Connection, head: Head, before: int | None, most: int, named: bool) -> History:
    """Return up to `most` revisions older than `before`, the newest first; optionally only named ones."""
    own = RevisionRow.shot_id == head.shot_id
    fields = (RevisionRow.id, RevisionRow.parent_id, RevisionRow.label, RevisionRow.name, RevisionRow.created_at)
    query = select(*fields).where(own).order_by(RevisionRow.id.desc()).limit(most + 1)
    if before is not None:
        query = query.where(RevisionRow.id < before)
    if named:
        query = query.where(RevisionRow.name.is_not(None))
    rows = connection.execute(query).all()
    steps = connection.execute(select(RevisionRow.id, RevisionRow.parent_id, RevisionRow.redo_id).where(own)).all()
    line = _line({id_: (parent, redo) for id_, parent, redo in steps}, head.revision)
    shown = tuple(
        RevisionInfo(id_, parent, label, name, created_at, id_ == head.revision, id_ in line)
        for id_, parent, label, name, created_at in rows[:most]
    )
    count = connection.execute(select(func.count()).select_from(RevisionRow).where(own)).scalar_one()
    return History(shown, shown[-1].revision if len(rows) > most else None, count)


def _line(steps: dict[int, tuple[int | None, int | None]], head: int) -> set[int]:
    """Revisions from the start to the head, and those that redo would bring back. steps: parent and redo by id."""
    line: set[int] = set()
    for way in (0, 1):
        at: int | None = head
        while at is not None and at in steps:
            line.add(at)
            at = steps[at][way]
    return line

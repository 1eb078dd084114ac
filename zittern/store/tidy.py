"""Thinning of a shot's history.

Old unnamed revisions are removed, the remaining ones are linked, the space is released.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from sqlalchemy import Connection, Engine, delete, func, select, update

from zittern.store.revisions import Head
from zittern.store.tables import RevisionRow, ShotRow

__all__ = ["KEEP", "Tidying", "batches", "give_back", "plan", "remove"]

# Default number of newest revisions to keep.
KEEP = 100
# Number of removals per transaction, which limits the wait of other writers.
BATCH = 200
_PAGES = 2000


@dataclass(frozen=True, slots=True)
class Tidying:
    """Amount to remove: number of revisions and their total, and their stored bytes."""

    slug: str
    revisions: int
    of: int
    bytes: int
    ids: tuple[int, ...] = ()


def plan(connection: Connection, head: Head, keep: int) -> Tidying:
    """Everything but the present revision, the newest `keep` and those with a name."""
    size = func.length(RevisionRow.document) + func.coalesce(func.length(RevisionRow.command), 0)
    own = RevisionRow.shot_id == head.shot_id
    rows = connection.execute(
        select(RevisionRow.id, RevisionRow.name, size).where(own).order_by(RevisionRow.id.desc())
    ).all()
    gone = [(id_, bytes_) for id_, name, bytes_ in rows[keep:] if name is None and id_ != head.revision]
    return Tidying(head.slug, len(gone), len(rows), sum(bytes_ for _, bytes_ in gone), tuple(id_ for id_, _ in gone))


def remove(connection: Connection, shot_id: str, ids: tuple[int, ...]) -> int:
    """Remove revisions from the tree; their children are attached to the nearest remaining one.

    How many went: the present one never does.
    """
    own = RevisionRow.shot_id == shot_id
    rows = connection.execute(
        select(RevisionRow.id, RevisionRow.parent_id, RevisionRow.redo_id, RevisionRow.name).where(own)
    ).all()
    steps = {id_: (parent, redo) for id_, parent, redo, _ in rows}
    named = {id_ for id_, _, _, name in rows if name is not None}
    gone = {id_ for id_ in ids if id_ in steps and id_ not in named} - {_present(connection, shot_id)}
    for id_, (parent, redo) in steps.items():
        if id_ not in gone and (parent in gone or redo in gone):
            links = {
                "parent_id": _next_remaining(steps, gone, parent, 0),
                "redo_id": _next_remaining(steps, gone, redo, 1),
            }
            connection.execute(update(RevisionRow).where(RevisionRow.id == id_).values(**links))
    if gone:
        connection.exec_driver_sql("PRAGMA defer_foreign_keys=ON")
        connection.execute(delete(RevisionRow).where(RevisionRow.id.in_(gone)))
    return len(gone)


def batches(ids: tuple[int, ...]) -> Iterator[tuple[int, ...]]:
    """Yield ids in batches, the oldest first."""
    rising = tuple(sorted(ids))
    for start in range(0, len(rising), BATCH):
        yield rising[start : start + BATCH]


def _present(connection: Connection, shot_id: str) -> int | None:
    head: int | None = connection.execute(select(ShotRow.head_id).where(ShotRow.id == shot_id)).scalar()
    return head


def _next_remaining(
    steps: dict[int, tuple[int | None, int | None]], gone: set[int], at: int | None, way: int
) -> int | None:
    while at is not None and at in gone:
        at = steps[at][way]
    return at


def give_back(engine: Engine) -> None:
    """Release free pages to the disk, a few at a time where the database can.

    One made by an older Zittern is rewritten once.
    """
    raw = engine.raw_connection()
    try:
        cursor = raw.cursor()
        if cursor.execute("PRAGMA auto_vacuum").fetchone()[0] != 2:
            cursor.execute("PRAGMA auto_vacuum=INCREMENTAL")
            cursor.execute("VACUUM")
        while cursor.execute("PRAGMA freelist_count").fetchone()[0]:
            cursor.execute(f"PRAGMA incremental_vacuum({_PAGES})").fetchall()
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)").fetchall()
        cursor.close()
    finally:
        raw.close()

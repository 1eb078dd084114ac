"""Ids that are never reused, indexes for removal, cards of shots."""

from alembic import op

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None

# SQLite cannot add AUTOINCREMENT to a table: each is rebuilt from the old one, with the same ids.
_PROJECTS = """CREATE TABLE {name} (
    id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
    slug VARCHAR(80) NOT NULL,
    name VARCHAR(120) NOT NULL,
    created_at DATETIME NOT NULL,
    UNIQUE (slug)
)"""
_REVISIONS = """CREATE TABLE {name} (
    id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
    shot_id VARCHAR(32) NOT NULL REFERENCES shots (id),
    parent_id INTEGER REFERENCES {name} (id),
    redo_id INTEGER REFERENCES {name} (id),
    label VARCHAR(300) NOT NULL,
    name VARCHAR(120),
    command TEXT,
    document BLOB NOT NULL,
    created_at DATETIME NOT NULL
)"""
_COLUMNS = {
    "projects": "id, slug, name, created_at",
    "revisions": "id, shot_id, parent_id, redo_id, label, name, command, document, created_at",
}


def upgrade() -> None:
    """Rebuild the tables with permanent ids and cards."""
    for table, create in (("projects", _PROJECTS), ("revisions", _REVISIONS)):
        op.execute(create.format(name=f"{table}_new"))
        op.execute(f"INSERT INTO {table}_new ({_COLUMNS[table]}) SELECT {_COLUMNS[table]} FROM {table}")
        op.execute(f"DROP TABLE {table}")
        op.execute(f"ALTER TABLE {table}_new RENAME TO {table}")
    for column in ("shot_id", "parent_id", "redo_id"):
        op.execute(f"CREATE INDEX ix_revisions_{column} ON revisions ({column})")
    for column in ("card TEXT", "card_of VARCHAR(32)", "scribble BLOB", "scribble_of VARCHAR(32)"):
        op.execute(f"ALTER TABLE shots ADD COLUMN {column}")

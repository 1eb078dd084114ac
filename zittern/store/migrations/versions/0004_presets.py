"""Custom presets, and the steps of their history."""

from alembic import op

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None

_PRESETS = """CREATE TABLE presets (
    key VARCHAR(64) PRIMARY KEY NOT NULL,
    name VARCHAR(120) NOT NULL,
    document TEXT NOT NULL
)"""
_STEPS = """CREATE TABLE preset_steps (
    id INTEGER PRIMARY KEY AUTOINCREMENT NOT NULL,
    key VARCHAR(64) NOT NULL,
    label VARCHAR(300) NOT NULL,
    before TEXT,
    after TEXT,
    undone BOOLEAN NOT NULL,
    created_at DATETIME NOT NULL
)"""


def upgrade() -> None:
    """Create the tables of presets."""
    op.execute(_PRESETS)
    op.execute(_STEPS)

"""Projects, shots, revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Create the tables."""
    op.create_table(
        "projects",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("slug", sa.String(80), nullable=False, unique=True),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "shots",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("project_id", sa.Integer, sa.ForeignKey("projects.id"), nullable=False, index=True),
        sa.Column("slug", sa.String(80), nullable=False, unique=True),
        sa.Column("head_id", sa.Integer, sa.ForeignKey("revisions.id"), nullable=True),
        sa.Column("updated_at", sa.DateTime(timezone=True), nullable=False),
    )
    op.create_table(
        "revisions",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("shot_id", sa.String(32), sa.ForeignKey("shots.id"), nullable=False, index=True),
        sa.Column("parent_id", sa.Integer, sa.ForeignKey("revisions.id"), nullable=True),
        sa.Column("redo_id", sa.Integer, sa.ForeignKey("revisions.id"), nullable=True),
        sa.Column("label", sa.String(300), nullable=False),
        sa.Column("command", sa.Text, nullable=True),
        sa.Column("document", sa.LargeBinary, nullable=False),
        sa.Column("created_at", sa.DateTime(timezone=True), nullable=False),
    )

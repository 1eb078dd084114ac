"""Names of revisions."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the name of a revision."""
    op.add_column("revisions", sa.Column("name", sa.String(120), nullable=True))

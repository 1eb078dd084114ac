"""Alembic's entry point: runs the scripts in versions/ in one transaction on the connection given."""

from alembic import context

from zittern.store.tables import Base

context.configure(
    connection=context.config.attributes["connection"],
    target_metadata=Base.metadata,
    render_as_batch=True,
    transactional_ddl=True,
)
with context.begin_transaction():
    context.run_migrations()

"""Alembic's entry point: runs the scripts in versions/ on the engine given."""

from alembic import context

from zittern.store.tables import Base

with context.config.attributes["engine"].connect() as connection:
    context.configure(connection=connection, target_metadata=Base.metadata, render_as_batch=True)
    with context.begin_transaction():
        context.run_migrations()
    connection.commit()

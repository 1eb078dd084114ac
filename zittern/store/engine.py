"""Connection to SQLite: write-ahead log, full sync, one writer at a time; migrations at start."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from sqlalchemy import URL, Connection, Engine, create_engine, event, inspect, text
from sqlalchemy.pool import NullPool

from zittern.core.errors import StoreError
from zittern.store.faults import faults_of

__all__ = ["AT_ONCE", "HEAD", "READS", "open_engine"]

# The newest migration; a test compares it with the scripts.
HEAD = "0004"
# Execution option of a connection that only reads.
READS = "zittern_reads"
# Execution option of a connection for optional writes: it does not wait for a lock.
AT_ONCE = "zittern_at_once"
MIGRATIONS = Path(__file__).parent / "migrations"
# Timeout of a writer that waits for another process.
_PATIENCE_S = 10
# One per server thread, so that no thread waits for a connection.
_CONNECTIONS = 48


def open_engine(data_dir: Path) -> Engine:
    """Return an engine on `zittern.db` in a folder, brought to the newest schema. Raises StoreError."""
    with faults_of(data_dir):
        url = URL.create("sqlite", database=str(data_dir / "zittern.db"))
        _migrate(url, data_dir)
        options = {"timeout": _PATIENCE_S, "check_same_thread": False}
        return _prepared(
            create_engine(url, connect_args=options, pool_size=_CONNECTIONS, max_overflow=0), foreign_keys=True
        )


def _prepared(engine: Engine, foreign_keys: bool) -> Engine:
    @event.listens_for(engine, "connect")
    def _on_connect(connection: Any, _record: Any) -> None:
        connection.isolation_level = None  # SQLAlchemy's BEGIN below, not the driver's own
        if not connection.execute("PRAGMA page_count").fetchone()[0]:
            connection.execute("PRAGMA auto_vacuum=INCREMENTAL")  # only possible in an empty database
        for pragma in (
            "journal_mode=WAL",
            "synchronous=FULL",
            "secure_delete=OFF",
            f"foreign_keys={'ON' if foreign_keys else 'OFF'}",
        ):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _on_begin(connection: Any) -> None:
        # A writer locks before it reads, so that no other writer interferes; a reader has a snapshot and never waits.
        options = connection.get_execution_options()
        patience_s = 0 if options.get(AT_ONCE, False) else _PATIENCE_S
        connection.exec_driver_sql(f"PRAGMA busy_timeout={patience_s * 1000}")
        connection.exec_driver_sql("BEGIN" if options.get(READS, False) else "BEGIN IMMEDIATE")

    return engine


def _migrate(url: URL, data_dir: Path) -> None:
    """Step missing in the database, all of them or none.

    Tables with references are rebuilt, so foreign keys are off during a migration.
    """
    engine = _prepared(
        create_engine(url, connect_args={"timeout": _PATIENCE_S}, poolclass=NullPool), foreign_keys=False
    )
    try:
        with engine.connect().execution_options(**{READS: True}) as connection:
            found = _version(connection, data_dir)
        if found == HEAD:
            return
        if found is not None and (not found.isdecimal() or int(found) > int(HEAD)):
            raise StoreError(
                f"the database in {data_dir} was written by a newer Zittern (its version is {found}); use that one, "
                f"or another folder with --data"
            )
        # Alembic is slow to import and needed once in the life of a database.
        from alembic import command
        from alembic.config import Config

        config = Config()
        config.set_main_option("script_location", str(MIGRATIONS).replace("%", "%%"))
        with engine.begin() as connection:
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
    finally:
        engine.dispose()


def _version(connection: Connection, data_dir: Path) -> str | None:
    """Return the newest step that the database has; nothing for an empty one."""
    tables = inspect(connection).get_table_names()
    if "alembic_version" in tables:
        version: str | None = connection.execute(text("SELECT version_num FROM alembic_version")).scalar()
        return version
    if tables:
        raise StoreError(
            f"{data_dir / 'zittern.db'} is a database of another program; move it away, or choose another folder with "
            f"--data"
        )
    return None

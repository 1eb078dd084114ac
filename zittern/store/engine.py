"""Connection to SQLite: write-ahead log, full sync, one writer at a time; migrations at start."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from sqlalchemy import Engine, create_engine, event, inspect, text

__all__ = ["HEAD", "READS", "open_engine"]

# The newest migration; a test compares it with the scripts.
HEAD = "0002"
# Execution option of a connection that only reads.
READS = "zittern_reads"
MIGRATIONS = Path(__file__).parent / "migrations"


def open_engine(data_dir: Path) -> Engine:
    """An engine on `zittern.db` in a folder, brought to the newest schema."""
    engine = create_engine(f"sqlite:///{data_dir / 'zittern.db'}", connect_args={"timeout": 30, "check_same_thread": False})

    @event.listens_for(engine, "connect")
    def _on_connect(connection: Any, _record: Any) -> None:
        connection.isolation_level = None  # SQLAlchemy's BEGIN below, not the driver's own
        for pragma in ("journal_mode=WAL", "synchronous=FULL", "foreign_keys=ON"):
            connection.execute(f"PRAGMA {pragma}")

    @event.listens_for(engine, "begin")
    def _on_begin(connection: Any) -> None:
        # A writer takes the lock before it reads, so that nobody can come between; a reader sees one state and waits for nobody.
        reads = connection.get_execution_options().get(READS, False)
        connection.exec_driver_sql("BEGIN" if reads else "BEGIN IMMEDIATE")

    _migrate(engine)
    return engine


def _migrate(engine: Engine) -> None:
    with engine.connect() as connection:
        if inspect(connection).has_table("alembic_version") and connection.execute(text("SELECT version_num FROM alembic_version")).scalar() == HEAD:
            return
    # Alembic is slow to import and needed once in the life of a database.
    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.attributes["engine"] = engine
    command.upgrade(config, "head")

import errno
import sqlite3
import unittest
from pathlib import Path

from sqlalchemy import create_engine, text

from zittern.core.errors import StoreBusy, StoreError, StoreFull
from zittern.store.faults import disk_fault, faults_of

FOLDER = Path("/srv/zittern")


def raised(error: Exception) -> StoreError:
    try:
        with faults_of(FOLDER):
            raise error
    except StoreError as told:
        return told


def sqlite_error(code: int, kind: type[sqlite3.Error] = sqlite3.OperationalError) -> sqlite3.Error:
    error = kind("what SQLite says")
    error.sqlite_errorcode = code
    return error


class Words(unittest.TestCase):
    def test_a_full_disk_and_a_locked_database_have_their_own_kinds(self) -> None:
        self.assertIsInstance(raised(sqlite_error(sqlite3.SQLITE_FULL)), StoreFull)
        self.assertIsInstance(raised(OSError(errno.ENOSPC, "no space")), StoreFull)
        for code in (sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED, sqlite3.SQLITE_BUSY | (2 << 8)):
            self.assertIsInstance(raised(sqlite_error(code)), StoreBusy)

    def test_each_says_where_and_what_to_do(self) -> None:
        for error in (
            OSError(errno.EROFS, "read-only"), OSError(errno.EACCES, "denied"), OSError(errno.ENOTDIR, "no folder"),
            OSError(errno.EIO, "broken"),
            sqlite_error(sqlite3.SQLITE_READONLY), sqlite_error(sqlite3.SQLITE_CANTOPEN),
            sqlite_error(sqlite3.SQLITE_NOTADB, sqlite3.DatabaseError),
            sqlite_error(sqlite3.SQLITE_CORRUPT, sqlite3.DatabaseError), sqlite_error(99),
        ):  # fmt: skip
            told = str(raised(error))
            self.assertIn("/srv/zittern", told)
            self.assertRegex(told, "--data|copy of it|permissions")
            self.assertNotIn("\n", told)

    def test_what_comes_through_the_database_layer_is_told_too(self) -> None:
        engine = create_engine("sqlite://")
        with (
            self.assertRaisesRegex(StoreError, r"cannot be used \(no such table: nowhere\)"),
            faults_of(FOLDER),
            engine.connect() as connection,
        ):
            connection.execute(text("SELECT * FROM nowhere"))
        engine.dispose()

    def test_other_faults_are_none_of_its_business(self) -> None:
        with self.assertRaises(KeyError), faults_of(FOLDER):
            raise KeyError("x")
        self.assertIn("what the system says", str(disk_fault(FOLDER, OSError(errno.EIO, "what the system says"))))

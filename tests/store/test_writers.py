import sqlite3
import threading
import time
from contextlib import closing

from tests.store.making import InFolder
from zittern.core.errors import StoreBusy
from zittern.store.engine import open_engine
from zittern.store.writers import PATIENCE_S, Writers, waiting_since


class Line(InFolder):
    def setUp(self) -> None:
        super().setUp()
        self.engine = open_engine(self.folder)
        self.addCleanup(self.engine.dispose)
        self.writers = Writers(self.engine)

    def locked(self) -> sqlite3.Connection:
        """Another process, as far as the database knows."""
        holder = sqlite3.connect(self.folder / "zittern.db", isolation_level=None, check_same_thread=False)
        self.addCleanup(holder.close)
        holder.execute("BEGIN IMMEDIATE")
        return holder

    def add(self, name: str) -> None:
        with self.writers.transaction() as connection:
            connection.exec_driver_sql(
                "INSERT INTO projects (slug, name, created_at) VALUES (?, ?, '2026-01-01 00:00:00.000000')",
                (name, name),
            )

    def names(self) -> set[str]:
        with closing(sqlite3.connect(self.folder / "zittern.db")) as reader:
            return {name for (name,) in reader.execute("SELECT name FROM projects")}

    def test_the_own_lock_is_free_while_somebody_waits_for_another_process(self) -> None:
        holder = self.locked()
        waiting = threading.Thread(target=self.add, args=("late",))
        waiting.start()
        free = 0
        while free < 20:  # it is let go between two tries
            with self.writers.alone():
                free += 1
        holder.execute("COMMIT")
        waiting.join()
        self.assertEqual(self.names(), {"late"})

    def test_patience_counts_from_when_somebody_came(self) -> None:
        holder = self.locked()
        with waiting_since(time.monotonic() - PATIENCE_S), self.assertRaisesRegex(StoreBusy, "nothing was changed"):
            self.add("too late")
        with self.writers.alone(), waiting_since(time.monotonic() - PATIENCE_S), self.assertRaises(StoreBusy):
            self.add("behind another")
        holder.execute("COMMIT")
        self.add("after")
        self.assertEqual(self.names(), {"after"})

    def test_what_can_wait_is_left_out_when_somebody_writes(self) -> None:
        wrote: list[str] = []
        holder = self.locked()
        self.writers.at_once(lambda _: wrote.append("beside another process"))
        holder.execute("COMMIT")
        with self.writers.alone():
            self.writers.at_once(lambda _: wrote.append("beside another thread"))
        self.assertEqual(wrote, [])
        self.writers.at_once(
            lambda connection: wrote.append("free" if connection.in_transaction() else "no transaction")
        )
        self.assertEqual(wrote, ["free"])

    def test_a_fault_within_takes_back_what_was_written(self) -> None:
        with self.assertRaises(KeyError), self.writers.transaction() as connection:
            connection.exec_driver_sql(
                "INSERT INTO projects (slug, name, created_at) VALUES ('x', 'x', '2026-01-01 00:00:00.000000')"
            )
            raise KeyError("a fault")
        self.add("next")
        self.assertEqual(self.names(), {"next"})

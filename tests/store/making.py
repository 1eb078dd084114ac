"""What tests of the store share: a data folder of their own, and a library in it."""

from __future__ import annotations

import tempfile
import unittest
from pathlib import Path

from zittern.store.library import Library


class InFolder(unittest.TestCase):
    """`self.folder` is gone after each test."""

    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)


class WithLibrary(InFolder):
    """`self.library` is a fresh one in the folder."""

    def setUp(self) -> None:
        super().setUp()
        self.library = Library(self.folder)
        self.addCleanup(lambda: self.library.close())

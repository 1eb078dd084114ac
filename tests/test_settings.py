import os
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from pydantic import ValidationError

from zittern.settings import Settings

_THREADS = "import zittern, numpy, os; a = numpy.ones((900, 900)); a @ a; print(len(os.listdir('/proc/self/task')))"


class Threads(unittest.TestCase):
    def test_numpy_takes_none_beside_the_one_that_asks_but_where_somebody_says_so(self) -> None:
        for said, threads in (({}, 1), ({"OPENBLAS_NUM_THREADS": "2"}, min(2, os.cpu_count() or 1))):
            environment = {key: value for key, value in os.environ.items() if key != "OPENBLAS_NUM_THREADS"} | said
            told = subprocess.run(
                [sys.executable, "-c", _THREADS], env=environment, capture_output=True, text=True, check=True
            )
            self.assertEqual(int(told.stdout), threads)


class Reading(unittest.TestCase):
    def test_defaults_stay_on_this_machine(self) -> None:
        with mock.patch.dict(os.environ, clear=True):
            settings = Settings()
        self.assertEqual((settings.host, settings.most_upload_mb), ("127.0.0.1", 64))

    def test_variables_and_arguments(self) -> None:
        with (
            tempfile.TemporaryDirectory() as folder,
            mock.patch.dict(os.environ, {"ZITTERN_PORT": "9000", "ZITTERN_DATA": f"{folder}/new"}),
        ):
            self.assertEqual(Settings().port, 9000)
            self.assertEqual(Settings(port=9001).port, 9001)
            self.assertTrue(Settings().data_dir.is_dir())
            self.assertEqual(Settings().data_dir, (Path(folder) / "new").resolve())

    def test_what_cannot_be(self) -> None:
        for wrong in ({"port": 70000}, {"port": -1}, {"most_upload_mb": 0}):
            with self.assertRaises(ValidationError):
                Settings(**wrong)

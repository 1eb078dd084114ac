"""The examples of requests in docs/scripting.md, against a server."""

import contextlib
import io
import json
import os
import re
import tempfile
import unittest
import urllib.request
from pathlib import Path

from tests.web.harness import serving

GUIDE = (Path(__file__).parents[2] / "docs/scripting.md").read_text().partition("## HTTP")[2]
ADDRESS = "http://127.0.0.1:8137"


class Requests(unittest.TestCase):
    def test_the_examples_run_as_they_are_written(self) -> None:
        with serving() as server, tempfile.TemporaryDirectory() as folder:
            address = server.url.rstrip("/")
            for url in re.findall(rf"curl ({ADDRESS}\S+)", GUIDE):
                with urllib.request.urlopen(url.replace(ADDRESS, address)) as answer:
                    self.assertTrue(json.load(answer), url)
            blocks = re.findall(r"```python\n(.*?)```", GUIDE, re.DOTALL)
            self.assertEqual(len(blocks), 2)
            self.addCleanup(os.chdir, Path.cwd())
            os.chdir(folder)
            printed, names = io.StringIO(), {"__name__": "example"}
            with contextlib.redirect_stdout(printed):
                for block in blocks:
                    exec(block.replace(ADDRESS, address), names)
            files = [path.name for path in Path(folder).iterdir()]
            self.assertTrue(Path(files[0]).read_bytes().startswith(b"glTF"))
        self.assertEqual(files, ["jetty-walk.glb"])
        self.assertRegex(printed.getvalue(), r"^\d+\n2 channels of 192 frames → \d+ keys")

"""`zittern movie`: a private server, an installed Chromium, a file."""

import hashlib
import io
import os
import subprocess
import sys
import tempfile
import unittest
import zipfile
from pathlib import Path
from unittest import mock

import av
import numpy as np
from PIL import Image

from tests.core.making import edited, shot_with
from tests.demo.template import demo_data
from tests.web.harness import CHROMIUM
from zittern.core.shot.through_variant import as_stored
from zittern.core.shot.upgrades import write_shot
from zittern.store.library import Library

SMALL = ("--size", "64x36", "--subframes", "2")


class Movie(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        holder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(holder.cleanup)
        cls.folder = Path(holder.name)
        demo_data(cls.folder / "data")

    def movie(self, *arguments: str, browser: str = CHROMIUM) -> subprocess.CompletedProcess[str]:
        return subprocess.run(
            [sys.executable, "-m", "zittern.cli", "movie", *arguments],
            capture_output=True,
            text=True,
            cwd=self.folder,
            env={**os.environ, "ZITTERN_CHROMIUM": browser},
            check=False,
        )

    def test_variants_of_a_stored_shot_beside_each_other(self) -> None:
        both = ("--variant", "Main", "--variant", "Stand to run")
        done = self.movie("signal-run", "-o", "a.mp4", "--data", "data", "--range", "20-24", "--strip", *both, *SMALL)
        self.assertEqual((done.returncode, done.stdout), (0, "a.mp4: 5 frames, 128×76 px\n"), done.stderr)
        with av.open(str(self.folder / "a.mp4")) as container:
            frames = list(container.decode(container.streams.video[0]))
        self.assertEqual((len(frames), frames[0].width, frames[0].height), (5, 128, 76))
        self.assertEqual([each.name for each in self.folder.glob(".*")], [])

    def test_a_shot_from_a_file(self) -> None:
        library = Library(self.folder / "data")
        self.addCleanup(library.close)
        (self.folder / "own.shot.json").write_text(write_shot(as_stored(library.state("jetty-walk").document)))
        done = self.movie("own.shot.json", "-o", "b.zip", "--range", "1-2", *SMALL)
        self.assertEqual((done.returncode, done.stdout), (0, "b.zip: 2 frames, 64×36 px\n"), done.stderr)

    def test_a_shot_from_a_file_shows_the_pictures_of_the_data_folder(self) -> None:
        red = io.BytesIO()
        Image.new("RGB", (64, 36), (220, 20, 30)).save(red, "WEBP", lossless=True)
        digest = hashlib.sha256(red.getvalue()).hexdigest()
        for name in (f"{digest}.webp", f"{digest}.small.webp"):
            (self.folder / "data" / "pictures").mkdir(exist_ok=True)
            (self.folder / "data" / "pictures" / name).write_bytes(red.getvalue())
        picture = {"name": "Red", "picture": digest, "width_px": 64, "height_px": 36}
        hang = {"type": "hang_plates", "plates": [picture], "distance_m": 2.0, "overscan_percent": 100.0}
        (self.folder / "red.shot.json").write_text(write_shot(edited(shot_with(set_id=None), hang)))
        for data, drawn in (("data", True), ("other", False)):
            (self.folder / data).mkdir(exist_ok=True)
            done = self.movie("red.shot.json", "-o", f"{data}.zip", "--range", "1-1", "--data", data, *SMALL)
            self.assertEqual(done.returncode, 0, done.stderr)
            self.assertEqual("the picture of “Red” is not in" in done.stderr, not drawn)
            with zipfile.ZipFile(self.folder / f"{data}.zip") as frames:
                image = np.asarray(Image.open(io.BytesIO(frames.read(frames.namelist()[0]))).convert("RGB"))
            middle = image[18, 32].astype(int)
            self.assertEqual(middle[0] > 150 and middle[1] < 80, drawn, middle)

    def test_what_is_wrong_is_said_in_a_line(self) -> None:
        for arguments, says in (
            (("signal-run", "-o", "a.gif"), "a movie ends in .mp4, .webm, .zip, got a.gif"),
            (("signal-run", "-o", "a.mp4", "--range", "9"), "--range: this is A-B, as 1-96; got '9'"),
            (("signal-run", "-o", "a.mp4", "--size", "big"), "--size: this is WxH, as 1280x720; got 'big'"),
            (("signal-run", "-o", "a.mp4", "--subframes", "0"), "subframes: "),
            (("signal-run", "-o", "a.mp4", "--variant", "Wild", "--data", "data"), "there is no variant 'Wild'"),
            (("nothing", "-o", "a.mp4", "--data", "data"), "there is no shot 'nothing'"),
        ):
            done = self.movie(*arguments)
            self.assertEqual(done.returncode, 2, arguments)
            self.assertIn(says, done.stderr)
            self.assertEqual(done.stderr.count("\n"), 1)

    def test_without_a_browser_it_says_what_to_install(self) -> None:
        asked = ("signal-run", "-o", "c.mp4", "--data", "data")
        for none, arguments in (
            ("'/nowhere/chromium'", ()),
            ("'/nowhere/other'", ("--browser", "/nowhere/other")),
            ("''", ("--browser", "")),
        ):
            done = self.movie(*asked, *arguments, browser="/nowhere/chromium")
            self.assertEqual(done.returncode, 2)
            self.assertIn(f"there is no program {none}; name an installed Chromium with --browser", done.stderr)
        with mock.patch.dict(os.environ, {"PATH": "/nowhere"}):
            done = self.movie(*asked, browser="")
        self.assertEqual(done.returncode, 2)
        self.assertIn("none is installed: install one", done.stderr)
        self.assertFalse((self.folder / "c.mp4").exists())

    def test_one_that_ends_by_itself_leaves_nothing(self) -> None:
        done = self.movie("signal-run", "-o", "d.mp4", "--data", "data", *SMALL, browser="/bin/true")
        self.assertIn("the browser ended at frame 0 of 192; nothing was kept", done.stderr)
        self.assertEqual(list(self.folder.glob("*d.mp4*")), [])

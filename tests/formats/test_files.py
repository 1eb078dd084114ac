import tempfile
import unittest
from pathlib import Path
from unittest import mock

import numpy as np

from tests.core.making import shot_with
from tests.formats.making import GltfMaker
from zittern.core.errors import FormatError
from zittern.core.shot.cues import Cue
from zittern.core.timebase import Fps
from zittern.formats import files
from zittern.formats.cue_csv import write_cues
from zittern.formats.gltf_read import read
from zittern.formats.table import FORMATS, PLACES, format_named, format_of, read_as, reader_of, write_as
from zittern.formats.take_file import write_take
from zittern.store.shipped import shipped_presets


class Sidecars(unittest.TestCase):
    def setUp(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name) / "shots"
        (self.folder / "data").mkdir(parents=True)
        (self.folder.parent / "secret.bin").write_bytes(b"secret")
        (self.folder / "data" / "a b.bin").write_bytes(b"here")
        self.read = files.sidecars_of(self.folder / "walk.gltf")

    def test_files_in_the_folder(self) -> None:
        self.assertEqual(self.read("data/a%20b.bin", "buffers[0].uri"), b"here")

    def test_nothing_else(self) -> None:
        (self.folder / "link.bin").symlink_to(self.folder.parent / "secret.bin")
        for uri in (
            "../secret.bin",
            "data/../../secret.bin",
            "%2e%2e/secret.bin",
            "/etc/hosts",
            "link.bin",
            "file:///etc/hosts",
            "http://x.invalid/a",
            "//x/a",
            "C:/a",
            "\\\\x\\a",
            "gone.bin",
        ):
            with self.subTest(uri), self.assertRaises(FormatError) as caught:
                self.read(uri, "buffers[0].uri")
            self.assertEqual(caught.exception.where, "buffers[0].uri")

    def test_a_gltf_with_its_bin(self) -> None:
        maker = GltfMaker({"camera": 0}).animate(0, "translation", [0, 1], [[0, 0, 0], [1, 0, 0]])
        (self.folder / "walk.bin").write_bytes(maker.data)
        import json

        file = read(json.dumps(maker.document("walk.bin")).encode(), self.read)
        self.assertEqual(file.read(None, Fps(num=24)).move.last_frame, 25)


class Reading(unittest.TestCase):
    def test_missing_folders_and_huge_files(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            for path in (Path(folder), Path(folder) / "gone.csv"):
                with self.assertRaisesRegex(FormatError, "cannot read"):
                    files.read_bytes(path)
            big = Path(folder) / "big.glb"
            big.write_bytes(b"12345")
            with mock.patch.object(files, "MOST_FILE_BYTES", 4), self.assertRaisesRegex(FormatError, "up to 0 MB"):
                files.read_bytes(big)


class Table(unittest.TestCase):
    def test_endings_pick_the_format(self) -> None:
        for name, expected in (("A.GLB", "glb"), ("a.b.gltf", "gltf"), ("a.csv", "csv"), ("a.shot.json", "shot")):
            self.assertEqual(format_of(name).name, expected)
        for row in FORMATS:
            self.assertIs(format_named(row.name), row)

    def test_unknown_ones_are_told_what_is_known(self) -> None:
        for ask in (lambda: format_of("a.xyz"), lambda: format_of("noending"), lambda: format_named("xyz")):
            with self.assertRaisesRegex(FormatError, "known are"):
                ask()
        with self.assertRaisesRegex(FormatError, "a.shot.json holds a shot: open it on the projects page"):
            reader_of("a.shot.json")

    def test_files_that_share_an_ending_are_known_by_what_they_begin_with(self) -> None:
        for name, data, expected in (
            (
                "a.csv",
                write_cues(shot_with(cues=(Cue(id="one", frame=3.0, place_m=(1.0, 0.0, 0.0)),))).encode(),
                "cues",
            ),
            ("a.csv", write_take(np.arange(3.0), {"pan_deg": np.arange(3.0)}).encode(), "take"),
            ("a.csv", b"\xef\xbb\xbfTime_s , roll_deg,zoom_percent\n", "take"),
            ("a.csv", b"frame,x_m,y_m,z_m,pan_deg,name\n1,0,0,0,0,first\n", "csv"),
            ("a.csv", b"\x00\xff", "csv"),
            ("a.csv", b"", "csv"),
            ("a.json", b'{"time_s": [0, 1], "pan_deg": [0, 1]}', "take-json"),
            ("a.shot.json", b"{}", "shot"),
            ("a.preset.json", b"{}", "preset"),
        ):
            self.assertEqual(format_of(name, data).name, expected, data[:40])
        with self.assertRaisesRegex(FormatError, "walk.csv holds a take: play it on a layer"):
            reader_of("walk.csv", b"time_s,pan_deg\n0,1\n")

    def test_every_row_says_what_it_is_for_and_where_it_belongs(self) -> None:
        self.assertEqual(len({row.name for row in FORMATS}), len(FORMATS))
        for row in FORMATS:
            self.assertTrue(row.title and row.carries and PLACES[row.kind], row.name)
            self.assertTrue(row.read or row.write, row.name)
            self.assertEqual(row.exports, row.kind in ("path", "shot"), row.name)
        with self.assertRaisesRegex(FormatError, "sea.png holds a picture: hang it as a plate"):
            reader_of("sea.png", b"")

    def test_texts_of_every_kind_come_back_as_they_were(self) -> None:
        shot = shot_with(cues=(Cue(id="one", frame=3.0, name="Door"),))
        (cue,) = read_as("cues", write_as("cues", shot).encode(), shot)
        self.assertEqual((cue.frame, cue.name), (3.0, "Door"))
        preset = shipped_presets()["run"]
        self.assertEqual(read_as("preset", write_as("preset", preset)), preset)
        take = read_as("take", write_as("take", np.arange(3.0), {"pan_deg": np.arange(3.0)}).encode(), "three")
        self.assertEqual((take.name, take.axes), ("three", ("pan",)))
        for name, ask in (("mp4", read_as), ("cut", write_as), ("set", write_as)):
            with self.assertRaisesRegex(FormatError, "is only"):
                ask(name, b"")

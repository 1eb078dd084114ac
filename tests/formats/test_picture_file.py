import io
import json
import tempfile
import unittest
import zipfile
from pathlib import Path

import numpy as np
from PIL import Image

from tests.formats.pictures import clear_half, encoded, huge_header, plain
from zittern.core.errors import FormatError
from zittern.core.shot.plates import Plate
from zittern.formats.picture_file import PictureFacts, read_picture
from zittern.formats.picture_reader import MOST_SHOWN_PX, TILE_PX


class Reading(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.shown, self.small, self.tiles = (Path(holder.name) / name for name in ("a.webp", "b.webp", "c.zip"))

    def read(self, data: bytes) -> PictureFacts:
        return read_picture(data, "sea.png", self.shown, self.small, self.tiles)

    def test_formats_and_kinds_of_samples(self) -> None:
        deep = Image.fromarray(np.full((60, 80), 40_000, dtype=np.uint16))
        for name, data, colour in (
            ("png", encoded(plain()), (40, 120, 160)),
            ("jpeg", encoded(plain(), "JPEG", quality=95), (40, 120, 160)),
            ("webp", encoded(plain(), "WEBP", lossless=True), (40, 120, 160)),
            ("16 bit", encoded(deep), (156, 156, 156)),
            ("grey", encoded(plain(colour=(77,), mode="L")), (77, 77, 77)),
            ("CMYK", encoded(plain(colour=(0, 0, 0, 100), mode="CMYK"), "JPEG"), (155, 155, 155)),
            ("palette", encoded(plain().quantize(4)), (40, 120, 160)),
        ):
            with self.subTest(name):
                facts = self.read(data)
                self.assertIsNone(facts.opaque)
                with Image.open(self.shown) as seen:
                    self.assertEqual(seen.size, (facts.width_px, facts.height_px))
                    middle = seen.convert("RGB").getpixel((20, 20))
                np.testing.assert_allclose(middle, colour, atol=4)

    def test_what_is_clear_does_not_cover(self) -> None:
        facts = self.read(encoded(clear_half()))
        plate = Plate(id="p", name="P", picture="0" * 64, width_m=1.0, width_px=320, height_px=180, opaque=facts.opaque)
        assert plate.mask is not None
        np.testing.assert_array_equal(plate.mask[0], [False] * 32 + [True] * 32)
        opaque = encoded(plain(colour=(1, 2, 3, 255), mode="RGBA"))
        self.assertIsNone(self.read(opaque).opaque)
        tiny = self.read(encoded(plain(1, 1)))
        self.assertEqual((tiny.width_px, tiny.height_px), (1, 1))

    def test_turned_by_its_camera_and_shown_no_larger_than_can_be_drawn(self) -> None:
        turned = plain(300, 100)
        exif = turned.getexif()
        exif[0x0112] = 6
        facts = self.read(encoded(turned, "JPEG", exif=exif))
        self.assertEqual((facts.width_px, facts.height_px), (100, 300))
        facts = self.read(encoded(plain(9_000, 40)))
        self.assertEqual(facts.width_px, 9_000)
        with Image.open(self.shown) as seen, Image.open(self.small) as small:
            self.assertEqual((seen.width, small.width), (MOST_SHOWN_PX, 256))

    def test_a_large_one_is_kept_in_tiles_of_it_and_of_its_half(self) -> None:
        self.read(encoded(plain(TILE_PX, 40)))
        self.assertFalse(self.tiles.is_file())
        across, up = np.meshgrid(np.arange(5000), np.arange(2100))
        whole = np.stack([across // 20, up // 9, (across // 500) * 25], axis=2).astype(np.uint8)
        self.read(encoded(Image.fromarray(whole), "PNG", compress_level=1))
        self.assertTrue(self.tiles.is_file())
        with zipfile.ZipFile(self.tiles) as kept:
            index = json.loads(kept.read("index.json"))
            self.assertEqual(
                index["levels"], [{"width_px": 5000, "height_px": 2100}, {"width_px": 2500, "height_px": 1050}]
            )
            tiles = {name: Image.open(io.BytesIO(kept.read(name))) for name in kept.namelist() if name != "index.json"}
        step, margin = index["step_px"], index["margin_px"]
        self.assertEqual(step + 2 * margin, TILE_PX)
        counts = [sum(name.startswith(f"{level}/") for name in tiles) for level in (0, 1)]
        self.assertEqual(counts, [3 * 2, 2 * 1])
        for name, tile in tiles.items():
            level, column, row = map(int, name.split("/"))
            here = whole if level == 0 else np.asarray(Image.fromarray(whole).reduce(2))
            left, top = max(column * step - margin, 0), max(row * step - margin, 0)
            part = here[top : (row + 1) * step + margin, left : (column + 1) * step + margin]
            got = np.asarray(tile.convert("RGB"))
            with self.subTest(name):
                self.assertEqual(got.shape, part.shape)
                self.assertLess(np.abs(got.astype(float) - part).mean(), 3.0)

    def test_what_cannot_be_hung_and_why(self) -> None:
        frames = [plain(), plain(colour=(0, 0, 0))]
        for name, data, words in (
            ("nothing", b"", "there is nothing in this file"),
            ("a text", b"no picture at all", "this picture cannot be used"),
            ("cut off", encoded(plain(800, 800))[:600], "this picture cannot be used"),
            ("60,000 x 60,000", huge_header(60_000, 60_000), "60000 × 60000 pixels; up to 16384 a side"),
            ("100 megapixels and more", huge_header(12_000, 12_000), "12000 × 12000 pixels"),
            ("says it is large", huge_header(9_000, 9_000), "this picture cannot be used"),
            ("all clear", encoded(plain(colour=(9, 9, 9, 0), mode="RGBA")), "all of it is clear"),
            ("animated", encoded(frames[0], "WEBP", save_all=True, append_images=frames[1:]), "it is animated"),
            ("a GIF", encoded(plain(), "GIF"), "this picture cannot be used"),
            ("a BMP", encoded(plain(), "BMP"), "this picture cannot be used"),
        ):
            with self.subTest(name), self.assertRaisesRegex(FormatError, words):
                self.read(data)

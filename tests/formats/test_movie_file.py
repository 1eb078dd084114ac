"""Frames handed to the encoder, in a process of its own."""

import io
import os
import signal
import tempfile
import unittest
import zipfile
from pathlib import Path

import av
import numpy as np
from PIL import Image

from zittern.core.errors import FormatError, StoreFull
from zittern.core.timebase import Fps
from zittern.formats.movie_file import Encoder
from zittern.formats.table import MOVIES

SIZE = (64, 32)
FPS = Fps(num=30000, den=1001)


def frame(value: int) -> bytes:
    """Grey, with a red upper half."""
    picture = np.full((SIZE[1], SIZE[0], 4), value, np.uint8)
    picture[: SIZE[1] // 2, :, 1:3] = 0
    return picture[::-1].tobytes()


class Encoding(unittest.TestCase):
    def setUp(self) -> None:
        holder = tempfile.TemporaryDirectory()
        self.addCleanup(holder.cleanup)
        self.folder = Path(holder.name)

    def encoder(self, kind: str, size: tuple[int, int] = SIZE) -> Encoder:
        made = Encoder(self.folder / f"a{MOVIES[kind].ending}", kind, size, FPS, "best", "shot", 7)  # type: ignore[index, arg-type]
        self.addCleanup(made.kill)
        return made

    def test_every_kind_has_all_frames_at_their_rate_the_right_way_up(self) -> None:
        for kind in ("mp4", "webm"):
            path = self.folder / f"a{MOVIES[kind].ending}"
            encoder = self.encoder(kind)
            for value in range(10, 130, 10):
                encoder.put(frame(value))
            self.assertEqual(encoder.finish(), 12)
            data = path.read_bytes()
            with av.open(io.BytesIO(data)) as container:
                stream = container.streams.video[0]
                frames = [each.to_ndarray(format="rgb24").astype(int) for each in container.decode(stream)]
                self.assertEqual((len(frames), str(stream.average_rate), stream.pix_fmt), (12, "30000/1001", "yuv420p"))
            self.assertLess(abs(int(frames[11][24, 30, 1]) - 120), 4)
            self.assertLess(int(frames[11][6, 30, 1]), 12)

    def test_pictures_are_exact_and_numbered_as_the_shot(self) -> None:
        encoder = self.encoder("png")
        for value in (0, 77, 255):
            encoder.put(frame(value))
        self.assertEqual(encoder.finish(), 3)
        with zipfile.ZipFile(self.folder / "a.zip") as archive:
            self.assertEqual(archive.namelist(), [f"shot-{n:06d}.png" for n in (7, 8, 9)])
            picture = np.asarray(Image.open(io.BytesIO(archive.read("shot-000008.png"))))
        self.assertEqual((picture[0, 0].tolist(), picture[-1, 0].tolist()), ([77, 0, 0], [77, 77, 77]))

    def test_a_frame_of_another_size_is_refused_and_the_movie_goes_on(self) -> None:
        encoder = self.encoder("mp4")
        with self.assertRaisesRegex(FormatError, "has 8192 bytes, got 10"):
            encoder.put(b"0123456789")
        encoder.put(frame(5))
        self.assertEqual(encoder.finish(), 1)

    def test_one_that_is_killed_is_said_and_leaves_nothing(self) -> None:
        encoder = self.encoder("mp4", (1920, 1080))
        encoder.put(bytes(1920 * 1080 * 4))
        os.kill(encoder.pid, signal.SIGKILL)
        with self.assertRaisesRegex(FormatError, "killed or crashed"):
            for _ in range(3):
                encoder.put(bytes(1920 * 1080 * 4))
            encoder.finish()
        self.assertEqual(list(self.folder.iterdir()), [])

    def test_a_disk_that_is_full_is_said(self) -> None:
        (self.folder / "a.zip").symlink_to("/dev/full")
        encoder = self.encoder("png")
        with self.assertRaisesRegex(StoreFull, "is full; the movie was discarded"):
            for _ in range(40):
                encoder.put(frame(9))
            encoder.finish()

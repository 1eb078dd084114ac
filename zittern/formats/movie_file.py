"""Movies: frames for an encoder in a separate process, in order, with back pressure."""

from __future__ import annotations

import json
import subprocess
import sys
from pathlib import Path

from zittern.core.errors import FormatError, StoreFull
from zittern.core.movie.settings import MovieFormat
from zittern.core.timebase import Fps

__all__ = ["Encoder"]

_ENDS_S = 120.0


class Encoder:
    """Encode raw RGBA frames from the lowest row up into a file. Not thread-safe."""

    def __init__(
        self, path: Path, format_: MovieFormat, size_px: tuple[int, int], fps: Fps, quality: str, stem: str, first: int
    ) -> None:
        self._path = path
        self.frame_bytes = size_px[0] * size_px[1] * 4
        head = {
            "path": str(path), "format": format_, "width": size_px[0], "height": size_px[1], "fps_num": fps.num,
            "fps_den": fps.den, "quality": quality, "stem": stem, "first_frame": first,
        }  # fmt: skip
        self._process = subprocess.Popen(
            [sys.executable, "-m", "zittern.formats.movie_writer"],
            stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        self._write(json.dumps(head).encode() + b"\n")

    @property
    def pid(self) -> int:
        """The process that encodes."""
        return self._process.pid

    def put(self, frame: bytes) -> None:
        """Send one frame; wait until the encoder has taken it.

        Raises FormatError for another size, and when the encoder cannot go on.
        """
        if len(frame) != self.frame_bytes:
            raise FormatError(f"a frame of this movie has {self.frame_bytes} bytes, got {len(frame)}")
        self._write(frame)

    def finish(self) -> int:
        """Return the number of frames in the finished file. Raises FormatError, then nothing of it is left."""
        assert self._process.stdin is not None
        try:
            self._process.stdin.close()
        except (OSError, ValueError):
            raise self._fault() from None
        return self._answer()

    def kill(self) -> None:
        """End immediately and remove the file."""
        self._process.kill()
        self._end()

    def _write(self, data: bytes) -> None:
        assert self._process.stdin is not None
        try:
            self._process.stdin.write(data)
            self._process.stdin.flush()
        except (OSError, ValueError):  # the latter when another thread has just killed it
            raise self._fault() from None

    def _answer(self) -> int:
        assert self._process.stdout is not None
        try:
            line = self._process.stdout.readline()
            self._process.wait(_ENDS_S)
            answer = json.loads(line)
        except (ValueError, subprocess.TimeoutExpired):
            answer = {}
        if "done" in answer:
            self._close()
            return int(answer["done"])
        self.kill()
        if "full" in answer:
            raise StoreFull(f"the disk of {self._path.parent} is full; the movie was discarded. Make room there")
        raise FormatError(
            f"the movie could not be encoded: {answer['fault']}; it was discarded"
            if "fault" in answer
            else "the encoder was killed or crashed; the movie was discarded. Start it again"
        )

    def _fault(self) -> FormatError | StoreFull:
        try:
            self._answer()
        except (FormatError, StoreFull) as error:
            return error
        return FormatError("the encoder ended before all frames came; start the movie again")

    def _end(self) -> None:
        self._close()
        self._path.unlink(missing_ok=True)

    def _close(self) -> None:
        for pipe in (self._process.stdin, self._process.stdout):
            if pipe is not None:
                try:
                    pipe.close()
                except OSError:
                    continue
        self._process.wait()

"""Movies in progress: the server describes what each frame needs.

Numbered frames arrive and go to the encoder in order.

The page requests, draws and uploads; each answer lets it continue, so that the encoder is never overrun. A
silent page is waited for; a page that returns continues with the next frame.
"""

from __future__ import annotations

import logging
import secrets
import threading
import time
from collections import OrderedDict
from contextlib import suppress
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal

from zittern.core.errors import BadInput, Conflict, FormatError, NotFound, StoreBusy, StoreFull, ZitternError
from zittern.core.motion.cache import Cache
from zittern.core.movie.layout import Layout, layout_of
from zittern.core.movie.lean import with_strips
from zittern.core.movie.moments import range_of
from zittern.core.movie.settings import MoviePane, MovieSettings
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import through_variant, variant_of
from zittern.formats.movie_file import Encoder
from zittern.formats.table import MOVIES, Format
from zittern.store.faults import disk_fault
from zittern.store.naming import slug_of
from zittern.store.workspace import Workspace

__all__ = ["MOST_MOVIES", "Movie", "MoviePart", "Movies"]

MOST_MOVIES = 4
_SILENT_S = 10.0
# A page that is silent for longer, without a heartbeat, loses its place to a new movie.
_LOST_S = 60.0
# Frames before a guess is worth anything.
_PACED_FRAMES = 3
# A page may return within this time; a finished file is kept as long.
_KEPT_S = 600.0
_MOST_FRAMES = 200_000
_CACHE_BYTES = 64 * 2**20


@dataclass(frozen=True, slots=True)
class MoviePart:
    """A picture of a movie: the shot through one variant."""

    pane: MoviePane
    title: str
    shot: Shot


@dataclass
class Movie:
    """One movie. next: the number of the frame that comes next, from 0."""

    id: str
    slug: str
    settings: MovieSettings
    parts: tuple[MoviePart, ...]
    layout: Layout
    first: int
    count: int
    filename: str
    path: Path
    encoder: Encoder
    status: Literal["drawing", "done", "failed", "cancelled"] = "drawing"
    next: int = 0
    problem: str | None = None
    # It may be canceled while a frame is on its way to the encoder.
    ending: bool = False
    touched_s: float = field(default_factory=time.monotonic)
    # Since when frames come at an even pace, and which was the first of them.
    paced: tuple[float, int] = field(default_factory=lambda: (time.monotonic(), 0))
    cache: Cache = field(default_factory=lambda: Cache(_CACHE_BYTES))
    lock: threading.Lock = field(default_factory=threading.Lock)

    @property
    def kind(self) -> Format:
        """Return the row of its format."""
        return MOVIES[self.settings.format]

    @property
    def waits(self) -> bool:
        """Return whether the page that draws it has not responded for a while."""
        return self._silent_for(_SILENT_S)

    @property
    def is_lost(self) -> bool:
        """Return whether the page that draws it has sent neither frames nor heartbeats for a minute."""
        return self._silent_for(_LOST_S)

    def _silent_for(self, seconds: float) -> bool:
        return self.status == "drawing" and time.monotonic() - self.touched_s > seconds

    def touch(self) -> None:
        """Note that the page that draws it is alive."""
        self.touched_s = time.monotonic()

    @property
    def left_s(self) -> float | None:
        """Return the estimated remaining time, at the average pace."""
        since_s, first = self.paced
        if self.status != "drawing" or self.next - first < _PACED_FRAMES:
            return None
        return (time.monotonic() - since_s) / (self.next - first) * (self.count - self.next)

    def take(self, number: int, frame: bytes) -> None:
        """One frame; one that was there is ignored.

        Raises Conflict for one that is too early, FormatError when it cannot be encoded, NotFound when the movie is
        over.
        """
        with self.lock:
            if self.waits or self.next == 0:
                self.paced = time.monotonic(), self.next
            self.touched_s = time.monotonic()
            if self.status != "drawing":
                if self.status == "done" and number < self.count:
                    return
                raise self._refusal()
            if number < self.next:
                return
            if number > self.next:
                raise Conflict(f"frame {self.next} comes next, not {number}", {"next": self.next})
            try:
                if len(frame) != self.encoder.frame_bytes:
                    raise BadInput(
                        f"a frame of this movie has {self.encoder.frame_bytes} bytes, got {len(frame)}", "frame"
                    )
                self.encoder.put(frame)
                self.next += 1
                if self.next == self.count:
                    self.encoder.finish()
                    self.status = "done"
            except (FormatError, StoreFull) as error:
                if self.ending:
                    self._over("cancelled", None)
                    raise self._refusal() from error
                self._over("failed", error.message)
                raise
            except OSError as error:
                logging.getLogger("zittern").error("the movie %s failed", self.filename, exc_info=error)
                fault = disk_fault(self.path.parent, error)
                self._over("failed", fault.message)
                raise fault from error

    def cancel(self) -> None:
        """End it and remove its files."""
        # Threads that wait for the encoder are woken immediately.
        self.ending = True
        if self.status == "drawing":
            self.encoder.kill()
        with self.lock:
            if self.status == "drawing":
                self._over("cancelled", None)

    def forget(self) -> None:
        """End it, and remove its file."""
        self.cancel()
        self.path.unlink(missing_ok=True)

    def _refusal(self) -> NotFound:
        return NotFound(self.problem or f"this movie is {self.status}; start it again")

    def _over(self, status: Literal["failed", "cancelled"], problem: str | None) -> None:
        self.status, self.problem = status, problem
        with suppress(ZitternError, OSError):
            self.encoder.kill()
        self.path.unlink(missing_ok=True)


class Movies:
    """The movies of this server."""

    def __init__(self, workspace: Workspace, most_bytes: int) -> None:
        self._workspace = workspace
        self._most_bytes = most_bytes
        self._movies: OrderedDict[str, Movie] = OrderedDict()
        self._lock = threading.Lock()

    def start(self, shot: Shot, slug: str, settings: MovieSettings) -> Movie:
        """Start a movie.

        Raises BadInput for invalid settings, NotFound for a missing variant, StoreBusy while too many movies are in
        progress.
        """
        parts = tuple(_part(shot, pane) for pane in settings.panes)
        try:
            first, last = range_of(settings, shot)
        except ValueError as error:
            raise BadInput(str(error), "first_frame") from error
        layout = layout_of(settings)
        count = last - first + 1
        if count > _MOST_FRAMES:
            raise BadInput(f"a movie has up to {_MOST_FRAMES} frames, these are {count}; choose a range", "last_frame")
        size = layout.width * layout.height * 4
        if size > self._most_bytes:
            raise BadInput(
                f"a frame of {layout.width}×{layout.height} px is {size // 2**20} MB, and up to "
                f"{self._most_bytes // 2**20} MB can be sent: make it smaller, or raise ZITTERN_MOST_UPLOAD_MB",
                "width_px",
            )
        settings = with_strips(settings, (part.shot for part in parts), first, last, Cache())
        self._sweep()
        name = f"{slug}-{'-'.join(slug_of(part.title) for part in parts)}" if _named(shot, settings) else slug
        kind = MOVIES[settings.format]
        with self._lock:
            drawing = [each for each in self._movies.values() if each.status == "drawing"]
            if len(drawing) >= MOST_MOVIES:
                lost = next((each for each in drawing if each.is_lost), None)
                if lost is None:
                    raise StoreBusy(f"{MOST_MOVIES} movies are being made already; wait for one, or cancel one")
                lost.forget()
                self._movies.pop(lost.id)
            path = self._workspace.new_path(kind.ending)
            size_px = (layout.width, layout.height)
            encoder = Encoder(path, settings.format, size_px, shot.fps, settings.quality, name, first)
            movie = Movie(
                secrets.token_hex(8), slug, settings, parts, layout, first, count, f"{name}{kind.ending}", path, encoder
            )
            self._movies[movie.id] = movie
        return movie

    def get(self, movie_id: str) -> Movie:
        """Return the movie with an id. Raises NotFound."""
        self._sweep()
        with self._lock:
            if movie_id not in self._movies:
                raise NotFound("this movie is gone; start it again")
            return self._movies[movie_id]

    def drop(self, movie: Movie) -> None:
        """Discard a movie and its file."""
        with self._lock:
            self._movies.pop(movie.id, None)
        movie.forget()

    def close(self) -> None:
        """End all."""
        with self._lock:
            left = list(self._movies.values())
            self._movies.clear()
        for movie in left:
            movie.forget()

    def _sweep(self) -> None:
        now = time.monotonic()
        with self._lock:
            old = [movie for movie in self._movies.values() if now - movie.touched_s > _KEPT_S]
        for movie in old:
            self.drop(movie)


def _part(shot: Shot, pane: MoviePane) -> MoviePart:
    through = through_variant(shot, shot.variant if pane.variant is None else pane.variant)
    name = "No layers" if pane.bare else variant_of(through, through.variant).name
    return MoviePart(pane, pane.title or name, through)


def _named(shot: Shot, settings: MovieSettings) -> bool:
    return len(settings.panes) > 1 or settings.panes[0].bare or len(shot.variants) > 1

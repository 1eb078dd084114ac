"""Movies."""

from __future__ import annotations

from typing import Literal, Self

from pydantic import Field

from zittern.api.models.base import Frame, Model
from zittern.api.movies import Movie
from zittern.core.movie.exposure import draws_of

__all__ = ["DrawOut", "LeanOut", "MomentsHead", "MomentsIn", "MovieOut", "RegionOut", "StillIn", "TakenOut"]


class RegionOut(Model):
    """Position of a picture in the frame, px from the top; drawn from one share of its width to another."""

    title: str
    bare: bool
    x: int
    y: int
    width: int
    height: int
    start: float
    stop: float


class DrawOut(Model):
    """One drawing of every frame: its rows (shares of the height from the top), and its weight."""

    top: float
    bottom: float
    weight: float


class MovieOut(Model):
    """Progress of a movie.

    next: the next frame, from 0, of `frames`; first_frame: the shot's frame of the first one. regions: its pictures;
    draws: the drawings of each of them for every frame; strip: height in px of the burn-in strip. waits: the page that
    draws it has not responded for a while. left_s: estimated time remaining.
    """

    id: str
    shot: str
    status: Literal["drawing", "done", "failed", "cancelled"]
    problem: str | None
    filename: str
    width: int
    height: int
    frames: int
    next: int
    first_frame: int
    fps: float
    regions: list[RegionOut]
    draws: list[DrawOut]
    strip: int
    guides: bool
    says: list[str]
    waits: bool
    left_s: float | None

    @classmethod
    def of(cls, movie: Movie) -> Self:
        """Return the state of a movie."""
        layout, fps = movie.layout, movie.parts[0].shot.fps.value
        return cls(
            id=movie.id, shot=movie.slug, status=movie.status, problem=movie.problem, filename=movie.filename,
            width=layout.width, height=layout.height, frames=movie.count, next=movie.next, first_frame=movie.first,
            fps=fps, strip=layout.strip, guides=movie.settings.guides, says=list(layout.says), waits=movie.waits,
            left_s=movie.left_s,
            regions=[
                RegionOut(
                    title=part.title, bare=part.pane.bare, x=region.x, y=region.y, width=region.width,
                    height=region.height, start=region.start, stop=region.stop,
                )
                for part, region in zip(movie.parts, layout.regions, strict=True)
            ],
            draws=[
                DrawOut(top=draw.top, bottom=draw.bottom, weight=draw.weight)
                for draw in draws_of(movie.settings, fps)
            ],
        )  # fmt: skip


class MomentsIn(Model):
    """Frames of the movie, from 0."""

    first: int = Field(ge=0, lt=10_000_000)
    count: int = Field(default=1, ge=1, le=64)


class StillIn(Model):
    """One frame, and how it is exposed."""

    frame: Frame
    shutter_deg: float = Field(default=180.0, ge=0.0, le=360.0)
    subframes: int = Field(default=16, ge=1, le=64)


class LeanOut(Model):
    """Maximum sideways shift between the top and the bottom of the picture, px of the shot's picture."""

    px: float


class MomentsHead(Model):
    """Header of a packet of moments: `ZTM1` as motion packets.

    rows: frames x draws, drawing by drawing. Arrays, float64 in `at`, float32 in all others: `at` the shot's frames; by
    picture `pose:N`, ten columns as the stream `pose`; `plate:ID` as that stream. `wave`, in the packet of the first
    frame: picture movement by the layers of the first picture, right and up over the movie, px.
    """

    rows: int
    arrays: list[MomentArray]


class MomentArray(Model):
    name: str
    columns: int
    rows: int
    offset: int


class TakenOut(Model):
    """The frame that comes next."""

    next: int
    status: str


MomentsHead.model_rebuild()

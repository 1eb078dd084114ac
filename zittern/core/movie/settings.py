"""Settings of a movie."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from zittern.core.documents.doc import Doc, Label

__all__ = ["MOST_PANES", "MOST_SIDE_PX", "MOST_STRIPS", "MOST_SUBFRAMES", "MovieFormat", "MoviePane", "MovieSettings"]

MovieFormat = Literal["mp4", "webm", "png"]
MOST_SIDE_PX = 4096
MOST_SUBFRAMES = 64
MOST_STRIPS = 128
MOST_PANES = 4
_Side = Annotated[int, Field(ge=2, le=MOST_SIDE_PX)]
_Frame = Annotated[int, Field(ge=-1_000_000, le=20_000_000)]


class MoviePane(Doc):
    """A picture in the movie: through a variant, the main one where none is named; bare: without its layers."""

    variant: Annotated[str | None, Field(max_length=120)] = None
    bare: bool = False
    title: Label | None = None


class MovieSettings(Doc):
    """width_px, height_px: of each picture.

    first_frame, last_frame: the shot's own by default. shutter_deg: shutter angle, 360 for a whole frame; subframes:
    moments in that time that are drawn and summed. readout_ms: time from the first row of the sensor to its last, drawn
    in strips, by default as many as the motion needs. guides: thirds and safe area over the picture; strip: shot,
    frame, time, lens and the sum's waveform below it. layout: several pictures side by side, or the second of two right
    of a line, at a share of the width.
    """

    format: MovieFormat = "mp4"
    width_px: _Side = 1280
    height_px: _Side = 720
    first_frame: _Frame | None = None
    last_frame: _Frame | None = None
    quality: Literal["draft", "good", "best"] = "good"
    shutter_deg: float = Field(default=180.0, ge=0.0, le=360.0)
    subframes: int = Field(default=1, ge=1, le=MOST_SUBFRAMES)
    readout_ms: float = Field(default=0.0, ge=0.0, le=100.0)
    strips: int | None = Field(default=None, ge=1, le=MOST_STRIPS)
    guides: bool = False
    strip: bool = False
    panes: Annotated[tuple[MoviePane, ...], Field(min_length=1, max_length=MOST_PANES)] = (MoviePane(),)
    layout: Literal["beside", "wipe"] = "beside"
    line: float = Field(default=0.5, ge=0.0, le=1.0)

    @model_validator(mode="after")
    def _fits(self) -> Self:
        if self.layout == "wipe" and len(self.panes) != 2:
            raise ValueError(f"a wipe is between two pictures; there are {len(self.panes)}")
        return self

"""Position of each picture in a movie's frame. Encoders want even sizes."""

from __future__ import annotations

from dataclasses import dataclass

from zittern.core.movie.settings import MovieSettings

__all__ = ["Layout", "Region", "layout_of"]

# The strip below the pictures: this share of their height, and no less than text needs.
_STRIP_SHARE = 0.09
_LEAST_STRIP_PX = 40
_COLUMNS = 2


@dataclass(frozen=True, slots=True)
class Region:
    """A picture's place, pixels from the left and from above; drawn from one share of its width to another."""

    x: int
    y: int
    width: int
    height: int
    start: float = 0.0
    stop: float = 1.0


@dataclass(frozen=True, slots=True)
class Layout:
    """width, height: of the whole frame.

    strip: height of the strip at its foot, 0 for none. says: adjustments to the requested settings.
    """

    width: int
    height: int
    regions: tuple[Region, ...]
    strip: int
    says: tuple[str, ...]


def layout_of(settings: MovieSettings) -> Layout:
    """Return the layout: one picture; two side by side, three or four in two rows; or two in one, split by a line.

    >>> layout_of(MovieSettings(width_px=17, height_px=17)).says
    ('the picture is 16×16 px: movies have even sizes (17×17 was asked for)',)
    """
    width, height = _even(settings.width_px), _even(settings.height_px)
    asked = settings.width_px, settings.height_px
    says = (
        ()
        if (width, height) == asked
        else (f"the picture is {width}×{height} px: movies have even sizes ({asked[0]}×{asked[1]} was asked for)",)
    )
    count = len(settings.panes)
    if settings.layout == "wipe":
        columns = rows = 1
        regions: tuple[Region, ...] = (
            Region(0, 0, width, height, 0.0, settings.line),
            Region(0, 0, width, height, settings.line, 1.0),
        )
    else:
        columns = min(count, _COLUMNS)
        rows = -(-count // _COLUMNS)
        regions = tuple(Region(n % _COLUMNS * width, n // _COLUMNS * height, width, height) for n in range(count))
    strip = _even(max(round(rows * height * _STRIP_SHARE), _LEAST_STRIP_PX)) if settings.strip else 0
    return Layout(columns * width, rows * height + strip, regions, strip, says)


def _even(pixels: int) -> int:
    return pixels - pixels % 2

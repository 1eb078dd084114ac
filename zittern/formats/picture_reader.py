"""Run by itself, with limits.

Read a picture from standard input, write its display image, and print its properties as JSON. Its readers are not our
code, and the file may come from anywhere.

A picture larger than a tile is also stored as tiles: at full size, and at half sizes until one tile is enough, so
that only the visible part of a large one is loaded. A tile has a margin of adjacent pixels, or its seams
would show where it is drawn smaller.
"""

from __future__ import annotations

import base64
import json
import sys
from typing import Any

from zittern.core.errors import FULL_DISK
from zittern.formats.reader_process import limit_myself, one_line_fault

__all__ = ["MOST_BYTES", "MOST_S", "MOST_SHOWN_PX", "TILE_MARGIN_PX", "TILE_PX", "main"]

# Memory that the process writes to, and seconds of the processor. A pixel takes four bytes, whatever its mode.
MOST_BYTES, MOST_S = 600 * 2**20, 20
MOST_SIDE_PX, MOST_PIXELS = 16_384, 100_000_000
# Maximum sides of the display image, and of the thumbnail.
MOST_SHOWN_PX, THUMB_PX = 4_096, 256
# A tile with its margins; and these, at every side that is not the picture's own.
TILE_PX, TILE_MARGIN_PX = 2_048, 8
CELLS = 64
_OPAQUE = 128
_QUALITY = 90
# Rows that are reduced together.
_STRIP_PX = 512
# Samples of 16 bits are brought to 8.
_DEEP = 256


def main() -> None:
    """Arguments: where the shown picture, the small one and the tiles (a ZIP) go.

    Prints its size and what it covers, or {"fault": text}.
    """
    limit_myself(MOST_BYTES, MOST_S)
    shown, thumb, tiles = sys.argv[1:4]
    from PIL import Image, UnidentifiedImageError

    Image.MAX_IMAGE_PIXELS = None  # checked below, before anything is decoded
    try:
        print(json.dumps(_read(Image, shown, thumb, tiles)))
    except _Fault as fault:
        print(json.dumps({"fault": str(fault)}))
    except UnidentifiedImageError:
        print(json.dumps({"fault": "expected a PNG, JPEG or WebP picture, found another kind of file"}))
    except MemoryError:
        needs = f"it needs more than {MOST_BYTES // 2**20} MB of memory to read; save it with fewer pixels"
        print(json.dumps({"fault": needs}))
    except OSError as error:
        full = error.errno in FULL_DISK
        print(json.dumps({"full": True} if full else {"fault": one_line_fault(error) or type(error).__name__}))
    except (SyntaxError, ValueError, TypeError, KeyError, IndexError, OverflowError) as error:
        print(json.dumps({"fault": one_line_fault(error) or type(error).__name__}))


class _Fault(Exception):
    """Why a picture cannot be hung."""


def _read(images: Any, shown: str, thumb: str, tiles: str) -> dict[str, Any]:
    import io

    from PIL import ImageOps

    # MPO is a JPEG with an embedded preview: its first picture counts.
    with images.open(io.BytesIO(sys.stdin.buffer.read()), formats=("PNG", "JPEG", "WEBP")) as picture:
        width, height = picture.size
        if max(width, height) > MOST_SIDE_PX or width * height > MOST_PIXELS:
            raise _Fault(
                f"it has {width} × {height} pixels; up to {MOST_SIDE_PX} a side and "
                f"{MOST_PIXELS // 1_000_000} million in all are possible"
            )
        if picture.format != "MPO" and getattr(picture, "n_frames", 1) > 1:
            raise _Fault("it is animated; a plate is a still picture")
        picture.load()
        ImageOps.exif_transpose(picture, in_place=True)
        plain = _plain(picture)
    opaque = _mask(plain)
    if opaque == "":
        raise _Fault("all of it is clear: there would be nothing to see")
    width, height = plain.size
    # Only the callee holds the picture, so that each level goes when the next is there.
    held = [plain]
    del picture, plain
    small = _tiled(held.pop(), tiles) if max(width, height) > TILE_PX else held.pop()
    small.thumbnail((MOST_SHOWN_PX, MOST_SHOWN_PX))
    small.save(shown, "WEBP", quality=_QUALITY, method=2)
    small.thumbnail((THUMB_PX, THUMB_PX))
    small.save(thumb, "WEBP", quality=_QUALITY)
    return {"width_px": width, "height_px": height, "opaque": opaque}


def _tiled(picture: Any, path: str) -> Any:
    """Write the tiles of a picture, and return the smallest of its levels that is as large as the display image.

    Entries `LEVEL/COLUMN/ROW`, and `index.json`: sizes of the levels from full size down, step of the tiles, margin.
    JPEG for opaque pictures: a hundred megapixels of WebP take half a minute.
    """
    import io
    import zipfile

    kind = "JPEG" if picture.mode == "RGB" else "WEBP"
    step = TILE_PX - 2 * TILE_MARGIN_PX
    levels: list[dict[str, int]] = []
    shown = picture
    with zipfile.ZipFile(path, "w", zipfile.ZIP_STORED) as out:
        while max(picture.size) > TILE_PX:
            width, height = picture.size
            for left in range(0, width, step):
                for top in range(0, height, step):
                    at = max(left - TILE_MARGIN_PX, 0), max(top - TILE_MARGIN_PX, 0)
                    end = min(left + step + TILE_MARGIN_PX, width), min(top + step + TILE_MARGIN_PX, height)
                    tile = io.BytesIO()
                    picture.crop((*at, *end)).save(tile, kind, quality=_QUALITY, method=0, subsampling=0)
                    out.writestr(f"{len(levels)}/{left // step}/{top // step}", tile.getvalue())
            levels.append({"width_px": width, "height_px": height})
            picture = _halved(picture)
            if max(picture.size) >= MOST_SHOWN_PX:
                shown = picture
        index = {"step_px": step, "margin_px": TILE_MARGIN_PX, "levels": levels}
        out.writestr("index.json", json.dumps(index))
    return shown


def _halved(picture: Any) -> Any:
    """Return the picture at half size, in strips: strips with partial transparency are copied first."""
    from PIL import Image

    width, height = picture.size
    out = Image.new(picture.mode, ((width + 1) // 2, (height + 1) // 2))
    for top in range(0, height, _STRIP_PX):
        out.paste(picture.reduce(2, (0, top, width, min(top + _STRIP_PX, height))), (0, top // 2))
    return out


def _plain(picture: Any) -> Any:
    """RGB, or RGBA where something is clear; 8 bits each."""
    if picture.mode.startswith("I"):
        return picture.convert("I").point(lambda value: value / _DEEP).convert("L").convert("RGB")
    clear = "transparency" in picture.info or picture.mode in ("RGBA", "LA", "PA", "La", "RGBa")
    mode = "RGBA" if clear else "RGB"
    return picture if picture.mode == mode else picture.convert(mode)


def _mask(picture: Any) -> str | None:
    """Return which of 64 × 64 cells are fully opaque, as bits in base64: None for all, an empty text for none."""
    if picture.mode != "RGBA":
        return None
    import numpy as np

    alpha = np.asarray(picture.getchannel("A"))
    if not (alpha >= _OPAQUE).any():
        return ""
    rows, columns = (np.linspace(0, size, CELLS + 1) for size in alpha.shape)
    across = _cell_minimum(alpha, columns, axis=1)
    covers = _cell_minimum(across, rows, axis=0) >= _OPAQUE
    return None if covers.all() else base64.b64encode(np.packbits(covers.ravel()).tobytes()).decode("ascii")


def _cell_minimum(values: Any, edges: Any, axis: int) -> Any:
    """Return the minimum in each cell, including partially covered pixels."""
    import numpy as np

    first = np.minimum(np.floor(edges[:-1] + 1e-9).astype(int), values.shape[axis] - 1)
    last = np.maximum(np.ceil(edges[1:] - 1e-9).astype(int), first + 1)
    return np.stack(
        [np.take(values, range(a, b), axis=axis).min(axis=axis) for a, b in zip(first, last, strict=True)], axis=axis
    )


if __name__ == "__main__":
    main()

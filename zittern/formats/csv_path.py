"""CSV of one camera: `frame,time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm`, comma separated, UTF-8.

Reading takes the columns in any order; time_s counts when it is there, else frames from the first row on; missing angles
are 0, a missing focal length is the shot's own. A UTF-8 byte-order mark is allowed, as spreadsheets write one.
"""

from __future__ import annotations

import codecs
import csv
import io
import math
from collections.abc import Iterable
from typing import IO

import numpy as np

from zittern.core.errors import FormatError, out_of_range
from zittern.core.lens import LEAST_FOCAL_MM, MOST_FOCAL_MM
from zittern.core.motion.evaluate import Motion
from zittern.core.shot.shot import MOST_FRAMES, Shot
from zittern.core.timebase import Fps
from zittern.core.units import Array
from zittern.formats.files import Sidecars
from zittern.formats.paths import FIRST_FRAME, Imported, PathFile, PathSamples, continuous_angles, move_of, sample_plan

__all__ = ["COLUMNS", "read", "text_of", "write"]

COLUMNS = ("frame", "time_s", "x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "roll_deg", "focal_mm")
_WIDE_BOMS = (codecs.BOM_UTF32_LE, codecs.BOM_UTF32_BE, codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)
_MOST_VALUE = 1e6
CAMERA_NAME = "camera"


def write(shot: Shot, frames: Array, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """One row a frame, nine decimals: finer than any pose is known."""
    file.write((",".join(COLUMNS) + "\n").encode())
    for motion in parts:
        rows = np.column_stack(
            [motion.frames, shot.fps.seconds(motion.frames, shot.first_frame), motion.pose.position_m, motion.pose.angles_deg, motion.pose.focal_mm]
        )
        np.savetxt(file, rows + 0.0, fmt=["%.10g"] + ["%.9f"] * 8, delimiter=",")


def read(data: bytes, sidecars: Sidecars) -> PathFile:
    """The one camera of a CSV. Raises FormatError with line and column."""
    table = _table(text_of(data, COLUMNS))

    def pick(camera: str, fps: Fps) -> Imported:
        return Imported(move_of(_samples(table, fps)), camera)

    unknown = sorted(set(table) - set(COLUMNS))
    notices = (f"columns left out: {', '.join(unknown)}",) if unknown else ()
    return PathFile((CAMERA_NAME,), pick, notices)


def text_of(data: bytes, columns: tuple[str, ...]) -> str:
    """The text of a CSV. Raises FormatError for what is none."""
    if data.startswith(_WIDE_BOMS):
        raise FormatError("the file is UTF-16 or UTF-32 (it starts with such a byte-order mark); save it as UTF-8", "line 1")
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data.count(b"\n", 0, error.start) + 1
        raise FormatError("the file is not UTF-8 text; save it as UTF-8", f"line {line}") from error
    if "\0" in text:
        raise FormatError("the file holds zero bytes; it is no CSV", f"line {text[: text.index(chr(0))].count(chr(10)) + 1}")
    if not text.strip():
        raise FormatError("the file is empty; the first line names the columns: " + ",".join(columns), "line 1")
    return text


def _table(text: str) -> dict[str, Array]:
    """Columns by name, each (N,)."""
    reader = csv.reader(io.StringIO(text, newline=""))
    try:
        header = [name.strip().lower() for name in next(reader)]
        _check_header(header)
        numbered = [(reader.line_num, _numbers(row, header, reader.line_num)) for row in reader if any(cell.strip() for cell in row)]
    except csv.Error as error:
        raise FormatError(str(error), f"line {reader.line_num}") from error
    if not numbered:
        raise FormatError("there are no rows under the header", "line 2")
    if len(numbered) > MOST_FRAMES:
        raise FormatError(f"{len(numbered)} rows; at most {MOST_FRAMES} can be read")
    values = np.array([row for _, row in numbered], dtype=np.float64)
    table = {name: values[:, i] for i, name in enumerate(header)}
    clock = "time_s" if "time_s" in table else "frame"
    back = np.flatnonzero(np.diff(table[clock]) <= 0)
    if back.size:
        first, second = table[clock][back[0]], table[clock][back[0] + 1]
        raise FormatError(f"{clock} rises from row to row, got {second:g} after {first:g}", f"line {numbered[back[0] + 1][0]}, column {clock}")
    return table


def _check_header(header: list[str]) -> None:
    if len(header) == 1:
        for mark, name in ((";", "semicolons"), ("\t", "tabs"), ("|", "bars")):
            if mark in header[0]:
                raise FormatError(f"columns are separated by commas, found {name}", "line 1")
    twins = sorted({name for name in header if header.count(name) > 1})
    if twins:
        raise FormatError(f"the column {twins[0]!r} is there twice", "line 1")
    missing = [name for name in ("x_m", "y_m", "z_m") if name not in header]
    if missing:
        raise FormatError(f"missing columns: {', '.join(missing)}; the first line names the columns: {','.join(COLUMNS)}", "line 1")
    if "frame" not in header and "time_s" not in header:
        raise FormatError("missing columns: one of frame, time_s", "line 1")


def _numbers(row: list[str], header: list[str], line: int) -> list[float]:
    if len(row) != len(header):
        raise FormatError(f"{len(header)} values expected, got {len(row)}; decimals are written with a point", f"line {line}")
    out = []
    for text, name in zip(row, header, strict=True):
        if name not in COLUMNS:
            out.append(0.0)
            continue
        where = f"line {line}, column {name}"
        try:
            value = float(text.replace("_", "?"))
        except ValueError as error:
            raise FormatError(f"a number is expected, got {text[:40]!r}", where) from error
        if not math.isfinite(value):
            raise FormatError(f"a finite number is expected, got {text.strip()}", where)
        least, most = (LEAST_FOCAL_MM, MOST_FOCAL_MM) if name == "focal_mm" else (-_MOST_VALUE, _MOST_VALUE)
        if name in ("time_s", "frame"):
            least, most = (0.0 if name == "time_s" else -1e7), 1e7
        if not least <= value <= most:
            raise FormatError(out_of_range(least, most, value), where)
        out.append(value)
    return out


def _samples(table: dict[str, Array], fps: Fps) -> PathSamples:
    times = table["time_s"] if "time_s" in table else (table["frame"] - table["frame"][0]) / fps.value
    frames, at, last = sample_plan(times, np.empty(0), fps)
    angles = continuous_angles(np.stack([table.get(name, np.zeros(len(times))) for name in COLUMNS[5:8]], axis=1))

    def along(values: Array) -> Array:
        return np.interp(at, times, values)

    position = np.stack([along(table[name]) for name in COLUMNS[2:5]], axis=1)
    focal = along(table["focal_mm"]) if "focal_mm" in table else None
    return PathSamples(frames, position, np.stack([along(column) for column in angles.T], axis=1), focal, max(last, FIRST_FRAME))

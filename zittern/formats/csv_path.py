"""CSV of one camera: `frame,time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,focal_mm`, comma separated, UTF-8.

On wish with `shift_x_percent,shift_y_percent` after these, of picture width and height, and with `k1,k2` of the
distortion.

Reading takes the columns in any order. Its rate is the slope of `frame` over `time_s`, its first frame that of the
first row. Without `frame` it starts at its time 0; without `time_s` rows are frames of any rate. Missing angles are
0, a missing focal length is the shot's own. A UTF-8 byte-order mark is accepted, as spreadsheets write one.
"""

from __future__ import annotations

from collections.abc import Iterable
from typing import IO

import numpy as np

from zittern.core.errors import FormatError
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.pose import FILM_BACK_COLUMNS, PATH_COLUMNS, POSE_COLUMNS
from zittern.core.optics.lens import LEAST_FOCAL_MM, MOST_FOCAL_MM
from zittern.core.shot.shot import MOST_FRAMES, Shot
from zittern.core.timebase import MOST_FPS, Fps
from zittern.core.units import Array
from zittern.formats.csv_rows import CsvRows, number_in
from zittern.formats.delivery import Delivery
from zittern.formats.files import Sidecars
from zittern.formats.paths import FIRST_FRAME, Imported, PathFile, PathSamples, continuous_angles, sample_plan

__all__ = ["COLUMNS", "rate_of", "read", "write", "write_with_lens", "write_with_shifts"]

COLUMNS = ("frame", "time_s", *PATH_COLUMNS)
_MOST_VALUE = 1e6
_LIMITS = {"focal_mm": (LEAST_FOCAL_MM, MOST_FOCAL_MM), "time_s": (0.0, 1e7), "frame": (-1e7, 1e7)}
CAMERA_NAME = "camera"
# Relative distance from a whole or broadcast rate within which a fitted one is taken for it.
_SNAP = 1e-4


def write(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """One row for each frame, nine decimals: finer than any pose is known."""
    _write(shot, delivery, parts, file, COLUMNS)


def write_with_shifts(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Write the path with two more columns for the shift of the film back."""
    _write(shot, delivery, parts, file, (*COLUMNS, *FILM_BACK_COLUMNS))


def write_with_lens(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Write the path with all columns of the pose."""
    _write(shot, delivery, parts, file, ("frame", "time_s", *POSE_COLUMNS))


def _write(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes], columns: tuple[str, ...]) -> None:
    file.write((",".join(columns) + "\n").encode())
    for motion in parts:
        times_s = delivery.seconds(shot, motion.frames)
        rows = np.column_stack([delivery.numbers(shot, motion.frames), times_s, *motion.pose.parts])[:, : len(columns)]
        np.savetxt(file, rows + 0.0, fmt=["%.10g"] + ["%.9f"] * (len(columns) - 1), delimiter=",")


def read(data: bytes, sidecars: Sidecars) -> PathFile:
    """Return the one camera of a CSV. Raises FormatError with line and column."""
    table, unknown = _table(data)

    own_fps = rate_of(table["frame"], table["time_s"]) if "frame" in table and "time_s" in table else None

    def pick(camera: str, fps: Fps) -> Imported:
        return Imported(_samples(table, fps, own_fps), camera)

    notices = (f"columns left out: {', '.join(unknown)}",) if unknown else ()
    first = int(np.floor(table["frame"][0])) if "frame" in table else None
    return PathFile((CAMERA_NAME,), pick, notices, own_fps, first)


def rate_of(frames: Array, times_s: Array) -> Fps | None:
    """Return the frame rate of a table.

    The fitted slope of its frames over their times, snapped to n or n·1000/1001 with a whole n where it is that close.
    None where no rate fits.

    Parameters
    ----------
    frames, times_s : (N,), rising.
    """
    if len(frames) < 2:
        return None
    slope = float(np.polyfit(times_s - times_s[0], frames - frames[0], 1)[0])
    if not 1.0 / MOST_FPS <= slope <= MOST_FPS:
        return None
    for num, den in ((1, 1), (1000, 1001)):
        whole = round(slope * den / num)
        if whole > 0 and abs(slope - whole * num / den) <= _SNAP * slope:
            return Fps(num=whole * num, den=den)
    return Fps.model_validate(slope)


def _table(data: bytes) -> tuple[dict[str, Array], tuple[str, ...]]:
    """Columns by name, each (N,), and the names of columns that mean nothing here."""
    rows = CsvRows.of(data, COLUMNS, MOST_FRAMES)
    rows.need("x_m", "y_m", "z_m", all_columns=COLUMNS)
    rows.need_one("frame", "time_s", all_columns=COLUMNS)
    known = [name for name in COLUMNS if name in rows.names]
    lines: list[int] = []
    values: list[list[float]] = []
    for line, row in rows.by_name():
        lines.append(line)
        values.append(
            [number_in(row[name], line, name, *_LIMITS.get(name, (-_MOST_VALUE, _MOST_VALUE))) for name in known]
        )
    table = dict(zip(known, np.array(values, dtype=np.float64).T, strict=True))
    clock = "time_s" if "time_s" in table else "frame"
    back = np.flatnonzero(np.diff(table[clock]) <= 0)
    if back.size:
        first, second = table[clock][back[0]], table[clock][back[0] + 1]
        raise FormatError(
            f"{clock} rises from row to row, got {second:g} after {first:g}",
            f"line {lines[back[0] + 1]}, column {clock}",
        )
    return table, tuple(sorted(set(rows.names) - set(COLUMNS)))


def _samples(table: dict[str, Array], fps: Fps, own_fps: Fps | None) -> PathSamples:
    """Return the samples at a rate. Frames count at the file's own rate, which times are rounded to; else times."""
    if "time_s" in table and fps != own_fps:
        times = table["time_s"] - (table["time_s"][0] if "frame" in table else 0.0)
    else:
        times = (table["frame"] - np.floor(table["frame"][0])) / fps.value
    frames, at, last = sample_plan(times, np.empty(0), fps)
    angles = continuous_angles(np.stack([table.get(name, np.zeros(len(times))) for name in COLUMNS[5:8]], axis=1))

    def along(values: Array) -> Array:
        return np.interp(at, times, values)

    position = np.stack([along(table[name]) for name in COLUMNS[2:5]], axis=1)
    focal = along(table["focal_mm"]) if "focal_mm" in table else None
    return PathSamples(
        frames, position, np.stack([along(column) for column in angles.T], axis=1), focal, max(last, FIRST_FRAME)
    )

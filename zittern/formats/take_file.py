"""Recorded takes: CSV with `time_s` and columns of axes, or JSON with the same names and a list each.

Columns: time_s and those of the table of axes (pan_deg, truck_cm, zoom_percent, …), in any order; axes that are missing
were not recorded. Rows may come in any order; of two at the same
time the later one counts; empty cells and gaps are bridged by a straight line. The input is resampled to equal steps of
up to 60 per second, each the mean of its interval, so that fast motion is not aliased to slow motion.
"""

from __future__ import annotations

import csv
import io
import json
from array import array

import numpy as np

from zittern.core.axes import AXIS_INFO
from zittern.core.errors import FormatError, faults_as
from zittern.core.sources.take import MOST_SAMPLES, Recording, Track
from zittern.core.units import Array
from zittern.formats.csv_rows import CsvRows

__all__ = ["COLUMNS", "read_take", "write_take"]

COLUMNS = {info.column: info.name for info in AXIS_INFO}
_MOST_ROWS = 1_000_000
_MOST_HZ = 60.0
_MOST_VALUE = 1e6
# No clock shows more than this (three centuries), and samples that are closer than the other are at the same time.
_MOST_TIME_S = 1e10
_LEAST_STEP_S = 1e-6


def read_take(data: bytes, name: str) -> Recording:
    """Return a take from the bytes of a CSV or JSON file. Raises FormatError with line and column."""
    table = _from_json(data) if data.lstrip()[:1] in (b"{", b"[") else _from_csv(data)
    if "time_s" not in table:
        raise FormatError("missing column: time_s, the time of each sample in seconds", "line 1")
    tracks = {column: table[column] for column in COLUMNS if column in table}
    if not tracks:
        raise FormatError(f"there is no axis in it; columns are time_s and some of {', '.join(COLUMNS)}", "line 1")
    times = table["time_s"]
    known = np.isfinite(times)
    order = np.flatnonzero(known)[np.argsort(times[known], kind="stable")]
    times = times[order]
    if len(times) and max(-times[0], times[-1]) > _MOST_TIME_S:
        raise FormatError(
            f"times are within {_MOST_TIME_S:g} s of 0, got {times[0] if -times[0] > times[-1] else times[-1]:g}",
            "time_s",
        )
    keep = np.append(np.diff(times) >= _LEAST_STEP_S, True) if len(times) else np.zeros(0, dtype=bool)
    times, rows = times[keep], order[keep]
    if len(times) < 2:
        raise FormatError("a take needs samples at two different times, at least", "time_s")
    rate = min(_MOST_HZ, max(1.0, 1.0 / float(np.median(np.diff(times)))))
    count = int(np.floor((times[-1] - times[0]) * rate + 1e-9)) + 1
    if not 2 <= count <= MOST_SAMPLES:
        length = times[-1] - times[0]
        raise FormatError(
            f"the take is {length:.4g} s long; at {rate:.3g} samples a second it may have {2 / rate:.2g} to "
            f"{MOST_SAMPLES / rate:.4g}",
            "time_s",
        )
    at = times[0] + np.arange(count) / rate
    with faults_as(FormatError):
        made = {
            COLUMNS[column]: Track.of(_even(times, values[rows], at, 1.0 / rate, column))
            for column, values in tracks.items()
        }
        return Recording(
            name=name[:120], rate_hz=rate, **{axis: track for axis, track in made.items() if track.scale > 0.0}
        )


def write_take(times_s: Array, tracks: dict[str, Array]) -> str:
    """CSV of samples (N,) by column."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(["time_s", *tracks])
    for i, time in enumerate(times_s.tolist()):
        rows.writerow([f"{time:.4f}", *(f"{values[i]:.4f}" for values in tracks.values())])
    return out.getvalue()


def _even(times: Array, values: Array, at: Array, step: float, column: str) -> Array:
    """Means over a step about each time, of the straight lines between samples. (N,), (N,), (M,) -> (M,)."""
    known = np.isfinite(values)
    if not np.any(known):
        return np.zeros(len(at))
    if np.max(np.abs(values[known])) > _MOST_VALUE:
        raise FormatError(f"values up to {_MOST_VALUE:g} can be read, got {np.max(np.abs(values[known])):g}", column)
    filled = np.interp(times, times[known], values[known])
    if np.median(np.diff(times)) > 0.75 * step:
        return np.interp(at, times, filled)
    area = np.concatenate([[0.0], np.cumsum(0.5 * (filled[1:] + filled[:-1]) * np.diff(times))])

    def until(time: Array) -> Array:
        time = np.clip(time, times[0], times[-1])
        i = np.clip(np.searchsorted(times, time, side="right") - 1, 0, len(times) - 2)
        part = time - times[i]
        slope = (filled[i + 1] - filled[i]) / (times[i + 1] - times[i])
        return np.asarray(area[i] + part * (filled[i] + 0.5 * slope * part), dtype=np.float64)

    low, high = np.maximum(at - 0.5 * step, times[0]), np.minimum(at + 0.5 * step, times[-1])
    return np.asarray((until(high) - until(low)) / (high - low), dtype=np.float64)


def _from_csv(data: bytes) -> dict[str, Array]:
    rows = CsvRows.of(data, ("time_s", *COLUMNS), _MOST_ROWS)
    at = {name: rows.names.index(name) for name in ("time_s", *COLUMNS) if name in rows.names}
    columns = {name: array("d") for name in at}
    for line, row in rows:
        for name, index in at.items():
            columns[name].append(_cell(row[index] if index < len(row) else "", line, name))
    return {name: _known(np.array(values, dtype=np.float64)) for name, values in columns.items()}


def _cell(cell: str, line: int, name: str) -> float:
    """Return a cell of a CSV; most are plain numbers."""
    if "_" not in cell:
        try:
            return float(cell)
        except ValueError:
            pass
    return _number_in_cell(cell, f"line {line}, column {name}")


def _known(values: Array) -> Array:
    """Values, NaN where they are no finite numbers."""
    return np.where(np.isfinite(values), values, np.nan)


def _from_json(data: bytes) -> dict[str, Array]:
    try:
        document = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise FormatError(f"this is not JSON: {error}") from error
    if not isinstance(document, dict) or not isinstance(document.get("time_s"), list):
        raise FormatError("a take in JSON is an object with a list of numbers for time_s and for each axis", "time_s")
    out: dict[str, Array] = {}
    for name in ("time_s", *COLUMNS):
        values = document.get(name)
        if values is None:
            continue
        if not isinstance(values, list) or len(values) != len(document["time_s"]) or len(values) > _MOST_ROWS:
            raise FormatError(f"expected a list of {len(document['time_s'])} numbers, as many as time_s has", name)
        out[name] = np.array([_number_in_cell(value, f"{name}[{i}]") for i, value in enumerate(values)])
    return out


def _number_in_cell(value: object, where: str) -> float:
    """Return a cell; an empty one is not known, and neither is what is no finite number."""
    if value is None or (isinstance(value, str) and not value.strip()):
        return float("nan")
    if isinstance(value, (str, int, float)) and not isinstance(value, bool):
        try:
            number = float(value.replace("_", "?") if isinstance(value, str) else value)
        except (ValueError, OverflowError) as error:
            raise FormatError(f"a number is expected, got {str(value)[:40]!r}", where) from error
        return number if np.isfinite(number) else float("nan")
    raise FormatError(f"a number is expected, got {str(value)[:40]!r}", where)

"""CSV of cues: `frame,time_s,name,strength,x_m,y_m,z_m`, comma separated, UTF-8.

Reading takes the columns in any order. frame counts when it is there, else time_s from the shot's first frame on; a missing strength is 1, a place is there
when all three of its columns are.
"""

from __future__ import annotations

import csv
import io

from zittern.core.errors import DocumentError, FormatError, faults_as
from zittern.core.shot.cues import MOST_CUES, CueIn
from zittern.core.shot.shot import Shot
from zittern.formats.csv_path import text_of

__all__ = ["COLUMNS", "read_cues", "write_cues"]

COLUMNS = ("frame", "time_s", "name", "strength", "x_m", "y_m", "z_m")
_PLACE = COLUMNS[4:]
# Names that begin so get an apostrophe before them: a spreadsheet would take them for formulas; and its own apostrophe, so that it comes back.
_QUOTED = ("=", "+", "-", "@", "'")


def write_cues(shot: Shot) -> str:
    """One row a cue, in order of time; a cell that starts as a formula of a spreadsheet would gets an apostrophe before it."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for cue in shot.cues:
        place = ["", "", ""] if cue.place_m is None else [repr(each) for each in cue.place_m]
        name = f"'{cue.name}" if cue.name.startswith(_QUOTED) else cue.name
        rows.writerow([repr(cue.frame), f"{(cue.frame - shot.first_frame) / shot.fps.value:.9f}", name, repr(cue.strength), *place])
    return out.getvalue()


def read_cues(data: bytes, shot: Shot) -> tuple[CueIn, ...]:
    """Cues for a shot. Raises FormatError with line and column."""
    reader = csv.DictReader(io.StringIO(text_of(data, COLUMNS), newline=""))
    try:
        names = [name.strip().lower() for name in reader.fieldnames or ()]
        reader.fieldnames = names
        if "frame" not in names and "time_s" not in names:
            raise FormatError(f"missing columns: one of frame, time_s; the first line names the columns: {','.join(COLUMNS)}", "line 1")
        cues: list[CueIn] = []
        for row in reader:
            if not any(each.strip() for each in row.values() if isinstance(each, str)):
                continue
            if len(cues) == MOST_CUES:
                raise FormatError(f"at most {MOST_CUES} cues can be read; this is one more", f"line {reader.line_num}")
            cues.append(_cue(row, shot, reader.line_num))
    except csv.Error as error:
        raise FormatError(str(error), f"line {reader.line_num}") from error
    if not cues:
        raise FormatError("there are no rows under the header", "line 2")
    return tuple(cues)


def _cue(row: dict[str, str], shot: Shot, line: int) -> CueIn:
    if None in row or None in row.values():
        raise FormatError("the row has another number of values than the header; decimals are written with a point", f"line {line}")
    frame = _number(row, "frame", line)
    if frame is None:
        time_s = _number(row, "time_s", line)
        if time_s is None:
            raise FormatError("a cue needs its frame or its time_s", f"line {line}")
        frame = shot.first_frame + time_s * shot.fps.value
    place = [_number(row, name, line) for name in _PLACE]
    strength = _number(row, "strength", line)
    name = row.get("name", "")
    name = name[1:] if name.startswith("'") and name[1:].startswith(_QUOTED) else name
    fields = {"frame": frame, "name": name, "strength": 1.0 if strength is None else strength}
    try:
        with faults_as(DocumentError):
            return CueIn(**fields, place_m=tuple(place) if None not in place else None)
    except DocumentError as error:
        raise FormatError(error.message, f"line {line}, column {error.where}") from error


def _number(row: dict[str, str], name: str, line: int) -> float | None:
    text = row.get(name, "").strip()
    if not text:
        return None
    try:
        return float(text.replace("_", "?"))
    except ValueError as error:
        raise FormatError(f"a number is expected, got {text[:40]!r}", f"line {line}, column {name}") from error

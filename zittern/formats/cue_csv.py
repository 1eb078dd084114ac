"""CSV of cues: `frame,time_s,name,strength,x_m,y_m,z_m`, comma separated, UTF-8.

Reading takes the columns in any order. frame counts when it is there, else time_s from the shot's first frame on; a
missing strength is 1, a place is there when all three of its columns are. Written is where a cue is at its own frame,
also of one that happens at something that moves.
"""

from __future__ import annotations

import csv
import io
import math

from zittern.core.errors import DocumentError, FormatError, faults_as
from zittern.core.motion.targets import cue_places_m
from zittern.core.shot.cues import MOST_CUES, CueIn
from zittern.core.shot.shot import Shot
from zittern.formats.csv_rows import CsvRows, number_in

__all__ = ["COLUMNS", "read_cues", "write_cues"]

COLUMNS = ("frame", "time_s", "name", "strength", "x_m", "y_m", "z_m")
_PLACE = COLUMNS[4:]
# Names that start like a formula get an apostrophe as protection in spreadsheets, and so do names with an apostrophe,
# so that they survive.
_QUOTED = ("=", "+", "-", "@", "'")


def write_cues(shot: Shot) -> str:
    """One row a cue, in order of time.

    A cell that starts as a formula of a spreadsheet would gets an apostrophe before it.
    """
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(COLUMNS)
    for cue, where in zip(shot.cues, cue_places_m(shot, shot.scope(shot.first_frame)).tolist(), strict=True):
        place = [repr(each) if math.isfinite(each) else "" for each in where]
        name = f"'{cue.name}" if cue.name.startswith(_QUOTED) else cue.name
        rows.writerow(
            [
                repr(cue.frame),
                f"{(cue.frame - shot.first_frame) / shot.fps.value:.9f}",
                name,
                repr(cue.strength),
                *place,
            ]
        )
    return out.getvalue()


def read_cues(data: bytes, shot: Shot) -> tuple[CueIn, ...]:
    """Cues for a shot. Raises FormatError with line and column."""
    rows = CsvRows.of(data, COLUMNS, MOST_CUES, "cues")
    rows.need_one("frame", "time_s", all_columns=COLUMNS)
    return tuple(_cue(row, shot, line) for line, row in rows.by_name())


def _cue(row: dict[str, str], shot: Shot, line: int) -> CueIn:
    frame = _number_in_row(row, "frame", line)
    if frame is None:
        time_s = _number_in_row(row, "time_s", line)
        if time_s is None:
            raise FormatError("a cue needs its frame or its time_s", f"line {line}")
        frame = shot.first_frame + time_s * shot.fps.value
    place = [_number_in_row(row, name, line) for name in _PLACE]
    strength = _number_in_row(row, "strength", line)
    name = row.get("name", "")
    name = name[1:] if name.startswith("'") and name[1:].startswith(_QUOTED) else name
    fields = {"frame": frame, "name": name, "strength": 1.0 if strength is None else strength}
    try:
        with faults_as(DocumentError):
            return CueIn(**fields, place_m=tuple(place) if None not in place else None)
    except DocumentError as error:
        raise FormatError(error.message, f"line {line}, column {error.where}") from error


def _number_in_row(row: dict[str, str], name: str, line: int) -> float | None:
    text = row.get(name, "")
    return number_in(text, line, name) if text.strip() else None

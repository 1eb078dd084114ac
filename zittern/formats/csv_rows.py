"""THE reader of CSV: text, header, rows with their line numbers, cells as numbers. Every error states its position.

Comma separated UTF-8; a byte-order mark is allowed, as spreadsheets write one. Rows without anything in them are left
out, columns come in any order.
"""

from __future__ import annotations

import codecs
import csv
import io
import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from zittern.core.errors import FormatError, out_of_range

__all__ = ["CsvRows", "number_in"]

_WIDE_BOMS = (codecs.BOM_UTF32_LE, codecs.BOM_UTF32_BE, codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)
_OTHER_MARKS = ((";", "semicolons"), ("\t", "tabs"), ("|", "bars"))
_SHOWN = 40


@dataclass(frozen=True, slots=True)
class CsvRows:
    """names: the header, in small letters.

    most: maximum number of rows, called `what`: further ones are not read.
    """

    names: tuple[str, ...]
    _reader: Iterator[list[str]]
    most: int
    what: str

    @classmethod
    def of(cls, data: bytes, columns: Sequence[str], most: int, what: str = "rows") -> CsvRows:
        """columns: all possible ones, for the message about a header that lacks some. Raises FormatError."""
        _check(data, columns)
        # Read incrementally: a complete text would take four times the memory of its file.
        reader = csv.reader(io.TextIOWrapper(io.BytesIO(data), "utf-8-sig", newline=""))
        try:
            names = tuple(name.strip().lower() for name in next(reader, []))
        except csv.Error as error:
            raise FormatError(str(error), "line 1") from error
        if len(names) == 1 and names[0] not in columns:
            for mark, name in _OTHER_MARKS:
                if mark in names[0]:
                    raise FormatError(f"columns are separated by commas, found {name}", "line 1")
        twins = sorted({name for name in names if name and names.count(name) > 1})
        if twins:
            raise FormatError(f"the column {twins[0]!r} is there twice", "line 1")
        return cls(names, reader, most, what)

    def need(self, *columns: str, all_columns: Sequence[str]) -> None:
        """Raise FormatError for columns that are missing."""
        missing = [name for name in columns if name not in self.names]
        if missing:
            raise FormatError(
                f"missing columns: {', '.join(missing)}; the first line names the columns: {','.join(all_columns)}",
                "line 1",
            )

    def need_one(self, *columns: str, all_columns: Sequence[str]) -> None:
        """Raise FormatError where none of some columns is there."""
        if not any(name in self.names for name in columns):
            raise FormatError(
                f"missing columns: one of {', '.join(columns)}; the first line names the columns: "
                f"{','.join(all_columns)}",
                "line 1",
            )

    def __iter__(self) -> Iterator[tuple[int, list[str]]]:
        """Line and cells of each row.

        Raises FormatError for more rows than there may be, for none, and for what is no CSV.
        """
        reader, count, line = self._reader, 0, 1
        try:
            for row in reader:
                line = reader.line_num  # type: ignore[attr-defined]
                if not any(cell and not cell.isspace() for cell in row):
                    continue
                if count == self.most:
                    raise FormatError(f"up to {self.most} {self.what} can be read; this is one more", f"line {line}")
                count += 1
                yield line, row
        except csv.Error as error:
            raise FormatError(str(error), f"line {line + 1}") from error
        if not count:
            raise FormatError("there are no rows under the header", "line 2")

    def by_name(self) -> Iterator[tuple[int, dict[str, str]]]:
        """Return the rows with cells by name.

        Raises FormatError for rows that have more or fewer cells than the header.
        """
        for line, row in self:
            if len(row) != len(self.names):
                raise FormatError(
                    f"{len(self.names)} values expected, got {len(row)}; decimals are written with a point",
                    f"line {line}",
                )
            yield line, dict(zip(self.names, row, strict=True))


def _check(data: bytes, columns: Sequence[str]) -> None:
    """Raise FormatError for what is no text of a CSV."""
    if data.startswith(_WIDE_BOMS):
        raise FormatError(
            "the file is UTF-16 or UTF-32 (it starts with such a byte-order mark); save it as UTF-8", "line 1"
        )
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        line = data.count(b"\n", 0, error.start) + 1
        raise FormatError("the file is not UTF-8 text; save it as UTF-8", f"line {line}") from error
    if "\0" in text:
        raise FormatError(
            "the file holds zero bytes; it is no CSV", f"line {text[: text.index(chr(0))].count(chr(10)) + 1}"
        )
    if not text.strip():
        raise FormatError("the file is empty; the first line names the columns: " + ",".join(columns), "line 1")


def number_in(text: str, line: int, column: str, least: float = -math.inf, most: float = math.inf) -> float:
    """Return a cell as a finite number within limits. Raises FormatError."""
    where = f"line {line}, column {column}"
    try:
        value = float(text.replace("_", "?"))  # Python's underscores in numbers are not valid in files
    except ValueError as error:
        raise FormatError(f"a number is expected, got {text[:_SHOWN]!r}", where) from error
    if not math.isfinite(value):
        raise FormatError(f"expected a finite number, got {text.strip()}", where)
    if not least <= value <= most:
        raise FormatError(out_of_range(least, most, value), where)
    return value

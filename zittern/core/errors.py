"""One tree of errors.

ZitternError
├── BadInput          the input is wrong; states what, where and what to do
│   ├── DocumentError   a shot document
│   ├── FormatError     a file of another format
│   ├── EditError       a command that cannot be applied
│   │   └── NeedsKeys     it can with keys on every frame
│   └── TooDear         it would take too long, or too much memory
├── ClientGone        the client closed the request
├── NotFound          the thing named does not exist
├── Conflict          another client changed it first
└── StoreError        the data folder cannot be used; states what to do
    ├── StoreFull       the disk is full
    └── StoreBusy       another program keeps the database locked
"""

from __future__ import annotations

import errno
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any

from pydantic import ValidationError

from zittern.core.refusals import in_words

__all__ = [
    "FULL_DISK",
    "BadInput",
    "ClientGone",
    "Conflict",
    "DocumentError",
    "EditError",
    "FormatError",
    "NeedsKeys",
    "NotFound",
    "StoreBusy",
    "StoreError",
    "StoreFull",
    "TooDear",
    "ZitternError",
    "faults_as",
    "field_path",
    "out_of_range",
    "union_members",
]  # fmt: skip


# Numbers of an OSError that mean that no more can be written.
FULL_DISK = frozenset({errno.ENOSPC, errno.EDQUOT})


class ZitternError(Exception):
    """Base of all errors we raise.

    `where` is a path such as `lanes[2].clips[0].layers[0].source.rate_hz`, or empty; `place` is its display name, if
    known: `rate in “Slow sway”`. details: additional data for programs.
    """

    details: dict[str, Any] = {}

    def __init__(self, message: str, where: str = "", place: str = "") -> None:
        super().__init__(message)
        self.message = message
        self.where = where
        self.place = place

    def __str__(self) -> str:
        """Return the message after its position."""
        return f"{self.where}: {self.message}" if self.where else self.message


class BadInput(ZitternError):
    """The input is wrong."""


class DocumentError(BadInput):
    """A shot document is wrong."""

    @classmethod
    def of(cls, error: ValidationError, prefix: str = "") -> DocumentError:
        """Return the first fault of a pydantic error, with its path."""
        message, where = first_fault(error)
        more = error.error_count() - 1
        return cls(message + (f" (and {more} more)" if more else ""), field_path(prefix, where) if prefix else where)


class FormatError(BadInput):
    """A file of another format is wrong."""


class EditError(BadInput):
    """A command cannot be applied to this document."""


class NeedsKeys(EditError):
    """The picture would be another; with `bake`, keys on every frame keep it."""

    details = {"bake": True}


class TooDear(BadInput):
    """The request exceeds the limits of time or memory."""


class ClientGone(ZitternError):
    """The client closed the request."""


class NotFound(ZitternError):
    """The thing named does not exist."""


class Conflict(ZitternError):
    """Another client changed the shot first."""

    def __init__(self, message: str, details: dict[str, Any]) -> None:
        super().__init__(message)
        self.details = details


class StoreError(ZitternError):
    """The data folder cannot be used in its present state."""


class StoreFull(StoreError):
    """There is no room left on the disk."""


class StoreBusy(StoreError):
    """Another program keeps the database locked."""


@contextmanager
def faults_as(kind: type[BadInput], where: str | None = None) -> Iterator[None]:
    """Convert faults of a document, pydantic's and ours, to errors of a kind: at `where`, or else at their path."""
    try:
        yield
    except ValidationError as error:
        fault = DocumentError.of(error)
        raise kind(fault.message, fault.where if where is None else where) from error
    except DocumentError as error:
        raise kind(error.message, error.where if where is None else where) from error


def out_of_range(least: float, most: float, got: float) -> str:
    """Return a message: `expected 0 to 10, got 11`."""
    return f"expected {least:.10g} to {most:.10g}, got {got:.10g}"


def first_fault(error: ValidationError) -> tuple[str, str]:
    """Message and path of the first fault in a pydantic error."""
    fault = error.errors(include_url=False)[0]
    return in_words(fault), loc_path(fault["loc"])


# Pydantic names the chosen member of a union as a step of the path. Members of unions that may occur anywhere,
# described where they are used; and fields that hold unions of documents.
_MEMBERS: set[str] = set()
_TAGGED = frozenset({"source", "command", "commands"})


def union_members(*names: str) -> None:
    """Declare names that are not part of a displayed path."""
    _MEMBERS.update(names)


def loc_path(loc: tuple[int | str, ...]) -> str:
    """Return a pydantic location as `lanes[2].clips[0].layers[0].source.rate_hz`.

    Names of union members are omitted.
    """
    out = ""
    tagged = False
    for part in loc:
        if isinstance(part, int):
            out += f"[{part}]"
        elif tagged or part in _MEMBERS:
            tagged = False
        else:
            out += f".{part}" if out else part
            tagged = part in _TAGGED
    return out


def field_path(prefix: str, rest: str) -> str:
    """Join two paths."""
    if not rest:
        return prefix
    return prefix + rest if rest.startswith("[") else f"{prefix}.{rest}"

"""A shot: its state, edits, history."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Self, cast

from pydantic import Field, StringConstraints

from zittern.api.models.base import Frame, Model, RevisionId
from zittern.core.edits.table import Command
from zittern.core.edits.writing import FormulaName, FormulaState
from zittern.core.numbers.param import MOST_DRAFT
from zittern.core.presets.feel import held_clips
from zittern.core.shot.changes import changes
from zittern.core.shot.shot import Shot
from zittern.store.revisions import State

__all__ = [
    "ChangesOut", "EditIn", "FormulaIn", "FormulaOut", "GoToIn", "HistoryOut", "RevisionNameIn", "RevisionOut",
    "StateOut", "StepIn", "SubjectIn", "TidyIn",
    "TidyOut",
]  # fmt: skip

_Metres = Annotated[float, Field(ge=-1e6, le=1e6)]


class _StatePlace(Model):
    """The state of a shot.

    variant: id of the active one; made: addresses of the parts that the last edit added; said: its notice. held_clips:
    ids of clips that shake the camera as a person does.
    """

    id: str
    slug: str
    project: str
    project_slug: str
    revision: int
    variant: str
    label: str
    undo_label: str | None
    redo_label: str | None
    made: tuple[str, ...]
    said: str
    held_clips: tuple[str, ...]

    @classmethod
    def with_state(cls, state: State, **more: object) -> Self:
        """Return a state of the store with further fields."""
        names = (name for name in _StatePlace.model_fields if name not in ("id", "held_clips"))
        told: dict[str, Any] = {"id": state.shot_id, "held_clips": held_clips(state.document)}
        told |= {name: getattr(state, name) for name in names} | more
        return cast(Self, cls.model_construct(**told))


class StateOut(_StatePlace):
    """A shot in its present state. made: addresses of the parts that the last edit added."""

    document: Shot

    @classmethod
    def of(cls, state: State) -> StateOut:
        """Return a state with its document."""
        return cls.with_state(state, document=state.document)


class ChangesOut(_StatePlace):
    """A shot as differences from a revision that the client has (`changed_from`).

    changes: fields of the document that differ; in its lists of parts `{"same": KEY}` represents an unchanged one.
    """

    changes: dict[str, Any]
    changed_from: int

    @classmethod
    def of(cls, state: State, before: Shot, base: int) -> ChangesOut:
        """Return a state as differences from an earlier document."""
        return cls.with_state(state, changes=changes(before, state.document), changed_from=base)


class EditIn(Model):
    """A command, and the revision that it was issued for."""

    base_revision: RevisionId
    command: Command


class StepIn(Model):
    """The revision that an undo or redo was issued for."""

    base_revision: RevisionId


class GoToIn(Model):
    """The revision to go to, and the one that the request was issued for."""

    base_revision: RevisionId
    revision: RevisionId


class RevisionNameIn(Model):
    """The name of a revision; none to remove it."""

    name: str | None = Field(max_length=120)


class RevisionOut(Model):
    """A revision in the history."""

    revision: int
    parent: int | None
    label: str
    name: str | None
    created_at: datetime
    current: bool
    line: bool


class NewestOut(Model):
    revision: int


class HistoryOut(Model):
    """A page of the history, newest first; `older` asks for the next one. count: revisions altogether."""

    rows: list[RevisionOut]
    older: int | None
    count: int


class SubjectIn(Model):
    """An object of the shot's set, or nothing to mark none.

    A point of it, picked in the world (metres) at a frame, or all of it. A point alone stands still.
    """

    base_revision: RevisionId
    object: str | None = Field(max_length=200)
    point_m: tuple[_Metres, _Metres, _Metres] | None = None
    frame: Frame = 0.0


class FormulaIn(Model):
    """A text, without the sign = before it, for the number at an address."""

    at: Annotated[str, StringConstraints(max_length=300)]
    text: Annotated[str, StringConstraints(max_length=MOST_DRAFT)]


class FormulaOut(Model):
    """Result of checking a formula, and the names it may use."""

    state: FormulaState
    names: list[FormulaName]


class TidyIn(Model):
    """The number of revisions to keep."""

    keep: int = Field(
        ge=1, le=1_000_000, description="number of the newest revisions to keep; named ones are always kept"
    )


class TidyOut(Model):
    """Revisions to remove (or removed), their total number, and their stored bytes."""

    revisions: int
    of: int
    bytes: int

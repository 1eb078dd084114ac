"""What requests and responses look like. TypeScript types are generated from these."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field

from zittern.core.edits.table import Command
from zittern.core.readings import Readings
from zittern.core.shot.shot import DEFAULT_FOCAL_MM, DEFAULT_SENSOR_MM, Picture, Shot
from zittern.core.timebase import Fps
from zittern.store.library import ShotEntry
from zittern.store.revisions import State


class Model(BaseModel):
    """Base: strict about fields."""

    model_config = ConfigDict(extra="forbid", from_attributes=True)


class ProjectOut(Model):
    slug: str
    name: str
    shots: int


class NameIn(Model):
    name: str = Field(min_length=1, max_length=120)


class NewShotIn(Model):
    name: str = Field(min_length=1, max_length=120)
    fps: Fps = Fps(num=24)
    frames: int = Field(default=240, ge=1, le=1_000_000)
    set_id: str | None = None
    picture: Picture = Picture()
    sensor_mm: float = DEFAULT_SENSOR_MM
    focal_mm: float = DEFAULT_FOCAL_MM
    copy_of: str | None = None


class ShotCard(Model):
    id: str
    slug: str
    name: str
    project: str
    project_slug: str
    frames: int
    fps: str
    seconds: float
    layers: int
    set_id: str | None
    updated_at: datetime

    @classmethod
    def of(cls, entry: ShotEntry) -> ShotCard:
        shot = entry.document
        seconds = shot.frame_count / shot.fps.value
        return cls(
            id=entry.id, slug=entry.slug, name=shot.name, project=entry.project, project_slug=entry.project_slug, frames=shot.frame_count,
            fps=str(shot.fps), seconds=seconds, layers=sum(1 for _ in shot.layers()), set_id=shot.set_id, updated_at=entry.updated_at,
        )  # fmt: skip


class StateOut(Model):
    id: str
    slug: str
    project: str
    project_slug: str
    document: Shot
    revision: int
    label: str
    undo_label: str | None
    redo_label: str | None

    @classmethod
    def of(cls, state: State) -> StateOut:
        return cls.model_construct(
            id=state.shot_id, slug=state.slug, project=state.project, project_slug=state.project_slug, document=state.document,
            revision=state.revision, label=state.label, undo_label=state.undo_label, redo_label=state.redo_label,
        )  # fmt: skip


class EditIn(Model):
    base_revision: int
    command: Command


class StepIn(Model):
    base_revision: int


class GoToIn(Model):
    base_revision: int
    revision: int


class RevisionNameIn(Model):
    name: str | None = Field(max_length=120)


class RevisionOut(Model):
    revision: int
    parent: int | None
    label: str
    name: str | None
    created_at: datetime
    current: bool
    line: bool


class MotionIn(Model):
    """`commands` are tried on without being kept. `have` names arrays by the tag the page already holds. `curves` are addresses
    of numbers whose values over the frames are wanted too, as arrays `curve:ADDRESS`."""

    commands: Annotated[tuple[Command, ...], Field(max_length=50)] = ()
    revision: int | None = Field(default=None, description="an older revision to look at; the present one when missing")
    have: dict[str, str] = {}
    curves: Annotated[tuple[str, ...], Field(max_length=60)] = ()
    frame: float = 1.0


class ArrayHead(Model):
    """A float32 array in a motion packet: rows x columns at a byte offset behind the header; offset missing when unchanged."""

    name: str
    tag: str
    columns: int
    offset: int | None


class MotionHead(Model):
    """Header of a motion packet. Pose columns: x, y, z (m), pan, tilt, roll (deg), focal (mm), vertical field of view (deg)."""

    revision: int
    first_frame: int
    frames: int
    arrays: list[ArrayHead]
    readings: Readings


class SpectrumOut(Model):
    """Root of power a third of an octave, in pixels of the picture."""

    rate_hz: list[float]
    layer_px: list[float]
    sum_px: list[float]


class SetOut(Model):
    set_id: str
    objects: list[str]


class SubjectIn(Model):
    """An object of the shot's set, or nothing to mark none; a point of it, picked in the world (metres) at a frame, or all of it.
    A point alone stands still.
    """

    base_revision: int
    object: str | None = Field(max_length=200)
    point_m: tuple[float, float, float] | None = None
    frame: float = 0.0


class CameraFileOut(Model):
    cameras: list[str]
    notices: list[str]


class ImportedOut(Model):
    state: StateOut
    notices: list[str]


class ExportIn(Model):
    format: str
    step: float = Field(default=1.0, gt=0.0, le=100.0)


class JobOut(Model):
    id: str
    status: Literal["working", "done", "failed", "cancelled"]
    progress: float
    filename: str
    problem: str | None


class FormatOut(Model):
    name: str
    ending: str
    title: str
    reads: bool


class SourceOut(Model):
    kind: str
    title: str
    imitates: str


class AxisOut(Model):
    name: str
    unit: str
    plus: str
    minus: str
    most_swing: float


class TablesOut(Model):
    """What the page needs to know once."""

    version: str
    axes: list[AxisOut]
    sources: list[SourceOut]
    formats: list[FormatOut]
    sets: list[str]

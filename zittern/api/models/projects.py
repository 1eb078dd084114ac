"""Projects and the cards of the shots in them."""

from __future__ import annotations

import base64
from datetime import datetime

from pydantic import Field

from zittern.api.models.base import Key, Model, Name
from zittern.core.shot.shot import Picture
from zittern.core.timebase import Fps
from zittern.store.listing import ShotEntry

__all__ = ["NameIn", "NewShotIn", "ProjectOut", "ScribbleOut", "ShotCard", "UnpackedOut"]


class ProjectOut(Model):
    """A project and its number of shots."""

    slug: str
    name: str
    shots: int


class UnpackedOut(Model):
    """The project of a file: its new slug and name, and the slugs of its shots."""

    project: str
    name: str
    shots: list[str]


class NameIn(Model):
    """A name."""

    name: Name


class NewShotIn(Model):
    """A copy of another shot, or a new one; missing fields take the defaults of a new shot.

    Its length is in seconds unless frames are given.
    """

    name: Name
    fps: Fps | None = None
    frames: int | None = Field(default=None, ge=1, le=1_000_000)
    seconds: float | None = Field(default=None, gt=0.0, le=1e8)
    set_id: str | None = Field(default=None, max_length=64)
    picture: Picture | None = None
    sensor_mm: float | None = None
    focal_mm: float | None = None
    copy_of: Key | None = None


class ScribbleOut(Model):
    """Signed bytes in base64, pan and tilt in turn, sized to fill."""

    scribble: str

    @classmethod
    def of(cls, drawn: bytes) -> ScribbleOut:
        """Return an encoded scribble."""
        return cls(scribble=base64.b64encode(drawn).decode())


class ShotCard(Model):
    """A shot in a project list.

    problem: why it cannot be read. scribble: as ScribbleOut; missing when it must be requested.
    """

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
    problem: str | None
    scribble: str | None

    @classmethod
    def of(cls, entry: ShotEntry) -> ShotCard:
        """Return the card of a shot."""
        card = entry.card
        return cls.model_construct(
            id=entry.id, slug=entry.slug, name=card.name, project=entry.project, project_slug=entry.project_slug,
            frames=card.frames, fps=card.fps,
            seconds=card.seconds, layers=card.layers, set_id=card.set_id, updated_at=entry.updated_at,
            problem=card.problem,
            scribble=None if entry.scribble is None else ScribbleOut.of(entry.scribble).scribble,
        )  # fmt: skip

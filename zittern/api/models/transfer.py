"""Imports and exports."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zittern.api.models.base import Model
from zittern.api.models.shots import StateOut
from zittern.core.edits.conforming import ConformToCut
from zittern.core.numbers.curves import MOST_FRAME

__all__ = [
    "CameraFileOut",
    "CutOut",
    "ExportIn",
    "ImportedOut",
    "JobOut",
]


class ReadingOut(Model):
    """A reading of a camera path, with positions (x, y, z in meters) and view directions."""

    z_up: bool
    centimeters: bool
    says: str
    places_m: list[tuple[float, float, float]]
    ahead: list[tuple[float, float, float]]


class CameraFileOut(Model):
    """The cameras of a file; or the name of the shot that it is.

    fps: the file's own frame rate, where it has one. readings: ways to read the path of a camera, where the picture
    suggests another one than the file says.
    """

    cameras: list[str]
    notices: list[str]
    shot: str | None
    fps: str | None = None
    readings: dict[str, list[ReadingOut]] = {}


class ImportedOut(Model):
    """The shot after an import."""

    state: StateOut
    notices: list[str]


# For whole numbers.
_MOST_FRAME = int(MOST_FRAME)


class ExportIn(Model):
    """Settings of an export."""

    format: str = Field(max_length=20)
    step: float = Field(default=1.0, ge=0.01, le=100.0, description="frames between two samples")
    first_frame: int | None = Field(default=None, ge=-_MOST_FRAME, le=_MOST_FRAME, description="by default the shot's")
    last_frame: int | None = Field(default=None, ge=-_MOST_FRAME, le=_MOST_FRAME, description="by default the shot's")
    first_number: int | None = Field(
        default=None, ge=-_MOST_FRAME, le=_MOST_FRAME, description="number of the first written frame"
    )
    reduce: str | None = Field(
        default=None, max_length=40, description="few cubic keys within a tolerance, such as 0.5px or 0.5px,0.2mm"
    )
    one_camera: bool = Field(default=False, description="one node with all motion, instead of nested ones")


class JobOut(Model):
    """State of an export."""

    id: str
    status: Literal["working", "done", "failed", "cancelled"]
    progress: float
    filename: str
    problem: str | None
    says: str | None = Field(description="what reduced keys lose, once done")


class CutOut(Model):
    """Range of a shot in a cut: the command that conforms the shot to it, and a description of its changes."""

    command: ConformToCut
    says: list[str]

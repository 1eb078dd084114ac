"""Rides, and poses of objects of a set."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.api.models.base import Frame, Model, RevisionId
from zittern.core.documents.doc import Id
from zittern.core.edits.poses import WorldPose
from zittern.core.shot.cues import MOST_CUES
from zittern.core.shot.targets import MountTarget, SubjectTarget

__all__ = ["CuesAtIn", "FollowIn", "ObjectPosesIn", "ObjectPosesOut", "ObjectsIn", "RideIn"]

# Maximum number of poses in one paste.
_MOST_POSES = 20_000
_Name = Annotated[str, Field(max_length=200)]


class RideIn(Model):
    """The object of the shot's set that a mount rides on; none to remove the ride."""

    base_revision: RevisionId
    mount: Annotated[str, Field(max_length=100)]
    object: _Name | None


class ObjectsIn(Model):
    """An object of the shot's set, or the middle of two; between: in the middle of it and another target."""

    base_revision: RevisionId
    objects: Annotated[list[_Name], Field(min_length=1, max_length=2)]
    between: SubjectTarget | MountTarget | None = None


class FollowIn(ObjectsIn):
    """The new target of an operator or the hold (by address), from a frame on or from the beginning."""

    at: Annotated[str, Field(max_length=300)]
    frame: Frame | None = None


class CuesAtIn(ObjectsIn):
    """The new target of cues."""

    cues: Annotated[list[Id], Field(min_length=1, max_length=MOST_CUES)]


class ObjectPosesIn(Model):
    """Range of whole frames for poses."""

    object: _Name
    frame: Frame
    count: int = Field(default=1, ge=1, le=_MOST_POSES)


class ObjectPosesOut(Model):
    """Poses of an object of the set."""

    poses: list[WorldPose]

"""Relations of a shot to the objects of its set: rides on them, their poses, cues at them."""

from __future__ import annotations

from fastapi import APIRouter

from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.rig import CuesAtIn, FollowIn, ObjectPosesIn, ObjectPosesOut, ObjectsIn, RideIn
from zittern.api.models.shots import StateOut
from zittern.api.variant_shot import Seen
from zittern.api.write_queue import WRITES
from zittern.core.edits.aiming import FollowTarget
from zittern.core.edits.cues import SetCues
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.errors import BadInput
from zittern.core.shot.shot import Shot
from zittern.core.shot.targets import MiddleTarget, Target
from zittern.formats.set_file import poses_from, ride_on, target_on
from zittern.store.sets import set_file

router = APIRouter(prefix="/api/shots/{shot}", tags=["rig"], route_class=JsonRoute)


@router.post("/ride", response_model=StateOut, dependencies=[WRITES])
def ride(shot: str, body: RideIn, ctx: Ctx, seen: Seen) -> object:
    """Add or remove the ride of a mount on an object of the set; one revision."""
    document = seen.document(shot)
    value = None if body.object is None else ride_on(_set_of(document, ctx), body.object, document).model_dump()
    command = SetValues(values=(Assignment(at=f"mount:{body.mount}.ride", value=value),))
    return seen.edit(shot, body.base_revision, command)


@router.post("/follow", response_model=StateOut, dependencies=[WRITES])
def follow(shot: str, body: FollowIn, ctx: Ctx, seen: Seen) -> object:
    """Has an operator or the hold follow an object of the set; one revision."""
    target = _target_of(body, seen.document(shot), ctx)
    command = FollowTarget(at=body.at, frame=body.frame, target=target)
    return seen.edit(shot, body.base_revision, command)


@router.post("/cues/at", response_model=StateOut, dependencies=[WRITES])
def cues_at(shot: str, body: CuesAtIn, ctx: Ctx, seen: Seen) -> object:
    """Has cues happen at an object of the set, wherever it is at their frames; one revision."""
    command = SetCues(cues=tuple(body.cues), on=_target_of(body, seen.document(shot), ctx))
    return seen.edit(shot, body.base_revision, command)


@router.post("/object-poses")
def get_object_poses(shot: str, body: ObjectPosesIn, ctx: Ctx, seen: Seen) -> ObjectPosesOut:
    """Return the pose of an object of the set, at one frame or from one on. Nothing is changed."""
    document = seen.document(shot)
    return ObjectPosesOut(poses=poses_from(_set_of(document, ctx), body.object, document, body.frame, body.count))


def _target_of(body: ObjectsIn, document: Shot, ctx: Ctx) -> Target:
    data = _set_of(document, ctx)
    points = [target_on(data, name, document) for name in body.objects]
    pair = [*points, *([body.between] if body.between else [])][:2]
    return pair[0] if len(pair) == 1 else MiddleTarget(one=pair[0], other=pair[1])


def _set_of(document: Shot, ctx: Ctx) -> bytes:
    if document.set_id is None:
        raise BadInput("the shot has no set, so there is no object in it", "set_id")
    return set_file(ctx.library.data_dir, document.set_id).read_bytes()

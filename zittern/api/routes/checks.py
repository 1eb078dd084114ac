"""Findings of the checks of a shot."""

from __future__ import annotations

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Query

from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.checks import CheckedOut, PastSetOut
from zittern.api.variant_shot import Seen
from zittern.checking import pieces_for
from zittern.core.checks.table import check
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.curves import Frame
from zittern.core.plates.past_set import bare_strips

router = APIRouter(prefix="/api/shots/{shot}", tags=["checks"], route_class=JsonRoute)


@router.get("/checks")
def get_checks(shot: str, ctx: Ctx, seen: Seen) -> CheckedOut:
    """All findings about the present revision. Nothing is changed; a fix is a command that is sent as an edit."""
    state = seen.state(shot)
    pieces = pieces_for(ctx.library.data_dir, state.document)
    found = check(state.document, cache=ctx.cache, pieces=pieces)
    return CheckedOut(revision=state.revision, findings=found.findings, ignored=found.ignored, thinned=found.thinned)


@router.get("/past-set")
def get_past_set(shot: str, ctx: Ctx, seen: Seen, frame: Annotated[Frame, Query()] = 1.0) -> PastSetOut:
    """Return the area of one frame that is past the edge of the set.

    The check *coverage* reports it for the whole shot. Nothing is changed.
    """
    state = seen.state(shot)
    pieces = pieces_for(ctx.library.data_dir, state.document)
    strips = []
    if pieces is not None and not pieces.left_out:
        pose = evaluate(state.document, np.array([frame]), ctx.cache).pose
        strips = bare_strips(state.document, pieces, pose, frame).tolist()
    return PastSetOut(revision=state.revision, frame=frame, strips=strips)

"""What checks find in a shot."""

from __future__ import annotations

from fastapi import APIRouter

from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.checks import CheckedOut
from zittern.api.seen import Seen
from zittern.checking import pieces_for
from zittern.core.checks.table import check

router = APIRouter(prefix="/api/shots/{shot}", tags=["checks"], route_class=JsonRoute)


@router.get("/checks")
def get_checks(shot: str, ctx: Ctx, seen: Seen) -> CheckedOut:
    """All findings about the present revision. Nothing is changed; a fix is a command that is sent as an edit."""
    state = seen.state(shot)
    pieces = pieces_for(ctx.library.data_dir, state.document)
    found = check(state.document, cache=ctx.cache, pieces=pieces)
    return CheckedOut(revision=state.revision, findings=found.findings, meant=found.meant, thinned=found.thinned)

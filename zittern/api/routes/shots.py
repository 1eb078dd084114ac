"""A shot: its state, edits, undo, redo, history."""

from __future__ import annotations

from fastapi import APIRouter

from zittern.api.context import Ctx, json_response
from zittern.api.models import EditIn, GoToIn, RevisionNameIn, RevisionOut, StateOut, StepIn

router = APIRouter(prefix="/api/shots/{shot}", tags=["shots"])


@router.get("", response_model=StateOut)
def get_shot(shot: str, ctx: Ctx) -> object:
    """By id or slug."""
    return json_response(ctx.state_out(ctx.library.state(shot)))


@router.delete("", status_code=204)
def remove_shot(shot: str, ctx: Ctx) -> None:
    """Removes a shot with its history."""
    ctx.library.remove_shot(shot)


@router.post("/edits", response_model=StateOut)
def edit_shot(shot: str, body: EditIn, ctx: Ctx) -> object:
    """Commits a command as one revision."""
    return json_response(ctx.state_out(ctx.library.edit(shot, body.base_revision, body.command)))


@router.post("/undo", response_model=StateOut)
def undo_edit(shot: str, body: StepIn, ctx: Ctx) -> object:
    """One step back."""
    return json_response(ctx.state_out(ctx.library.undo(shot, body.base_revision)))


@router.post("/redo", response_model=StateOut)
def redo_edit(shot: str, body: StepIn, ctx: Ctx) -> object:
    """One step forward."""
    return json_response(ctx.state_out(ctx.library.redo(shot, body.base_revision)))


@router.post("/goto", response_model=StateOut)
def go_to_revision(shot: str, body: GoToIn, ctx: Ctx) -> object:
    """Makes any revision the present one; later ones stay."""
    return json_response(ctx.state_out(ctx.library.go_to(shot, body.base_revision, body.revision)))


@router.patch("/revisions/{revision}", status_code=204)
def name_revision(shot: str, revision: int, body: RevisionNameIn, ctx: Ctx) -> None:
    """Names a revision."""
    ctx.library.name_revision(shot, revision, body.name)


@router.get("/revisions")
def list_revisions(shot: str, ctx: Ctx) -> list[RevisionOut]:
    """History, newest first."""
    return [RevisionOut.model_validate(info) for info in ctx.library.history(shot)]

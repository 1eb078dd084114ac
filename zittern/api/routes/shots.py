"""A shot: its state, edits, undo, redo, history."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Query
from fastapi.responses import Response

from zittern.api.context import Ctx, JsonRoute
from zittern.api.models.projects import ScribbleOut
from zittern.api.models.shots import (
    ChangesOut,
    EditIn,
    FormulaIn,
    FormulaOut,
    GoToIn,
    HistoryOut,
    NewestOut,
    RevisionNameIn,
    StateOut,
    StepIn,
    SubjectIn,
    TidyIn,
    TidyOut,
)
from zittern.api.variant_shot import Have, Seen
from zittern.api.write_queue import WRITES
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.edits.writing import names_at, state_of
from zittern.core.errors import BadInput
from zittern.core.shot.shot import Shot, Subject
from zittern.formats.set_file import point_in, subject_in
from zittern.store.sets import set_file
from zittern.store.tidy import KEEP

router = APIRouter(prefix="/api/shots/{shot}", tags=["shots"], route_class=JsonRoute)
_Revision = Annotated[int, Path(ge=0, le=2**53 - 1)]


@router.get("", response_model=StateOut)
def get_shot(shot: str, ctx: Ctx, seen: Seen) -> object:
    """Return a shot by id or slug, through the requested variant, or through the main one if that was removed."""
    return seen.answer(seen.remaining(ctx.library.state(shot)))


@router.get("/revision", response_model=NewestOut)
def newest_revision(shot: str, ctx: Ctx) -> NewestOut:
    """Return the number of the present revision, for windows that look for edits made elsewhere."""
    return NewestOut(revision=ctx.library.newest_revision(shot))


@router.delete("", status_code=204, dependencies=[WRITES])
def remove_shot(shot: str, ctx: Ctx) -> None:
    """Remove a shot with its history."""
    ctx.library.remove_shot(shot)


@router.post("/edits", response_model=StateOut | ChangesOut, dependencies=[WRITES])
def edit_shot(shot: str, body: EditIn, seen: Seen, have: Have = None) -> object:
    """Commit a command as one revision."""
    return seen.edit(shot, body.base_revision, body.command, have)


@router.post("/subject", response_model=StateOut, dependencies=[WRITES])
def mark_subject(shot: str, body: SubjectIn, ctx: Ctx, seen: Seen) -> object:
    """Mark an object of the set as the subject, followed where it moves; one revision."""
    document = seen.document(shot)
    subject = None
    if body.object is None and body.point_m is not None:
        subject = Subject.at("point", body.point_m).model_dump()
    elif body.object is not None:
        if document.set_id is None:
            raise BadInput("the shot has no set, so there is no object to mark", "set_id")
        data = set_file(ctx.library.data_dir, document.set_id).read_bytes()
        subject = _subject(data, body, document).model_dump()
    command = SetValues(values=(Assignment(at="shot.subject", value=subject),))
    return seen.edit(shot, body.base_revision, command)


def _subject(data: bytes, body: SubjectIn, document: Shot) -> Subject:
    name = body.object or ""
    return (
        subject_in(data, name, document)
        if body.point_m is None
        else point_in(data, name, body.point_m, body.frame, document)
    )


@router.post("/formula")
def check_formula(shot: str, body: FormulaIn, seen: Seen) -> FormulaOut:
    """Check a text as the formula of a number; list the names it may use. Nothing is changed."""
    document = seen.document(shot)
    return FormulaOut(state=state_of(document, body.at, body.text), names=list(names_at(document, body.at)))


@router.post("/undo", response_model=StateOut | ChangesOut, dependencies=[WRITES])
def undo_edit(shot: str, body: StepIn, ctx: Ctx, seen: Seen, have: Have = None) -> object:
    """One step back."""
    return seen.answer(seen.remaining(ctx.library.undo(shot, body.base_revision)), have)


@router.post("/redo", response_model=StateOut | ChangesOut, dependencies=[WRITES])
def redo_edit(shot: str, body: StepIn, ctx: Ctx, seen: Seen, have: Have = None) -> object:
    """One step forward."""
    return seen.answer(seen.remaining(ctx.library.redo(shot, body.base_revision)), have)


@router.post("/goto", response_model=StateOut | ChangesOut, dependencies=[WRITES])
def go_to_revision(shot: str, body: GoToIn, ctx: Ctx, seen: Seen, have: Have = None) -> object:
    """Restore any revision as the present one; later ones stay."""
    return seen.answer(seen.remaining(ctx.library.go_to(shot, body.base_revision, body.revision)), have)


@router.patch("/revisions/{revision}", status_code=204, dependencies=[WRITES])
def name_revision(shot: str, revision: _Revision, body: RevisionNameIn, ctx: Ctx) -> None:
    """Name a revision."""
    ctx.library.name_revision(shot, revision, body.name)


@router.get("/revisions")
def list_revisions(
    shot: str,
    ctx: Ctx,
    before: Annotated[int | None, Query(ge=0, le=2**53 - 1)] = None,
    most: Annotated[int, Query(ge=1, le=500)] = 200,
    named: bool = False,
) -> HistoryOut:
    """Return a page of the history, newest first, older than `before`; optionally only named ones."""
    return HistoryOut.model_validate(ctx.library.history(shot, before, most, named))


@router.get("/tidy")
def get_tidying(shot: str, ctx: Ctx, keep: Annotated[int, Query(ge=1, le=1_000_000)] = KEEP) -> TidyOut:
    """Return what tidying would remove."""
    return TidyOut.model_validate(ctx.library.tidying(shot, keep))


@router.post("/tidy", dependencies=[WRITES])
def tidy_history(shot: str, body: TidyIn, ctx: Ctx) -> TidyOut:
    """Remove old revisions without a name for good."""
    return TidyOut.model_validate(ctx.library.tidy(shot, body.keep))


@router.get("/scribble")
def get_scribble(shot: str, ctx: Ctx) -> ScribbleOut:
    """Return the scribble of a shot's card."""
    return ScribbleOut.of(ctx.library.scribble(shot))


@router.get("/raw", response_class=Response)
def get_raw(shot: str, ctx: Ctx) -> Response:
    """Return the stored document, even if it is unreadable."""
    slug, data = ctx.library.raw(shot)
    ending = ".shot.json" if data.lstrip()[:1] == b"{" else ".raw"
    return Response(
        data,
        media_type="application/octet-stream",
        headers={"Content-Disposition": f'attachment; filename="{slug}{ending}"'},
    )

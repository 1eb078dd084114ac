"""Projects and the shots in them."""

from __future__ import annotations

from fastapi import APIRouter

from zittern.api.context import Ctx, JsonRoute, json_response
from zittern.api.models.projects import NameIn, NewShotIn, ProjectOut, ShotCard
from zittern.api.models.shots import StateOut
from zittern.api.write_queue import WRITES
from zittern.core.shot.upgrades import started
from zittern.store.listing import Project
from zittern.store.seeds import newly_seeded
from zittern.store.sets import set_file

router = APIRouter(prefix="/api/projects", tags=["projects"], route_class=JsonRoute)


def _out(project: Project) -> ProjectOut:
    return ProjectOut.model_validate(project)


@router.get("")
def list_projects(ctx: Ctx) -> list[ProjectOut]:
    """All projects."""
    return [_out(project) for project in ctx.library.projects()]


@router.post("", status_code=201, dependencies=[WRITES])
def add_project(body: NameIn, ctx: Ctx) -> ProjectOut:
    """Return a new project."""
    return _out(ctx.library.add_project(body.name))


@router.patch("/{slug}", dependencies=[WRITES])
def rename_project(slug: str, body: NameIn, ctx: Ctx) -> ProjectOut:
    """Another name."""
    return _out(ctx.library.rename_project(slug, body.name))


@router.delete("/{slug}", status_code=204, dependencies=[WRITES])
def remove_project(slug: str, ctx: Ctx) -> None:
    """Remove an empty project."""
    ctx.library.remove_project(slug)


@router.get("/{slug}/shots")
def list_shots(slug: str, ctx: Ctx) -> list[ShotCard]:
    """Shots of a project."""
    ctx.library.project(slug)
    return [ShotCard.of(entry) for entry in ctx.library.shots(slug)]


@router.post("/{slug}/shots", status_code=201, response_model=StateOut, dependencies=[WRITES])
def add_shot(slug: str, body: NewShotIn, ctx: Ctx) -> object:
    """Return a new shot, empty or a copy of another."""
    if body.copy_of is not None:
        shot = ctx.library.state(body.copy_of).document.replace(name=body.name)
        state = ctx.library.add_shot(slug, newly_seeded(shot), f"Copy of {body.copy_of}")
    else:
        if body.set_id is not None:
            set_file(ctx.library.data_dir, body.set_id)
        given = body.model_dump(exclude_none=True, include={"fps", "set_id", "picture", "sensor_mm", "focal_mm"})
        state = ctx.library.add_shot(slug, newly_seeded(started(body.name, given, body.frames, body.seconds)))
    return json_response(StateOut.of(state), 201)

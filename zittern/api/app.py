"""Wiring only: the door, routes, errors, the built page."""

from __future__ import annotations

import asyncio
import gc
import threading
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, PlainTextResponse, Response
from fastapi.staticfiles import StaticFiles

from zittern import __version__
from zittern.api import pictures, problems, write_queue
from zittern.api.context import Context
from zittern.api.guard import Guard, Hosts, hosts_of
from zittern.api.routes import (
    checks,
    cues,
    exports,
    imports,
    motion,
    movies,
    plates,
    presets,
    project_files,
    projects,
    rig,
    shots,
    tables,
    takes,
    typed,
)
from zittern.core.errors import NotFound
from zittern.core.runtime.later import scipy_part
from zittern.settings import Settings
from zittern.store.library import Library

__all__ = ["WEB_DIST", "make_app"]

WEB_DIST = Path(__file__).parent.parent / "web_dist"
# Thresholds of the garbage-collection generations.
_LOOKED_FOR_GARBAGE = (10_000, 20, 10)


def make_app(settings: Settings, library: Library | None = None) -> FastAPI:
    """Return the application on a data folder."""
    app = FastAPI(title="Zittern", version=__version__, lifespan=_life)
    app.state.context = Context(
        library if library is not None else Library(settings.data_dir), most_bytes=settings.most_upload_mb * 2**20
    )
    app.state.write_queue = asyncio.Semaphore(write_queue.AT_ONCE)
    app.state.decoders = asyncio.Semaphore(pictures.AT_ONCE)
    problems.install(app)
    for module in (
        tables, typed, projects, project_files, shots, checks, presets, cues, motion, rig, plates, takes, imports,
        exports, movies,
    ):  # fmt: skip
        # Routers are included unchanged: including one re-analyzes all its routes at the first request, which took a
        # quarter of a second.
        app.router.routes.extend(module.router.routes)
    app.add_middleware(Hosts, allowed_hosts=hosts_of(settings.host))
    app.add_middleware(Guard, most_bytes=settings.most_upload_mb * 2**20)
    _serve_page(app)
    return app


@asynccontextmanager
async def _life(app: FastAPI) -> AsyncIterator[None]:
    # Loaded modules stay in memory: scanning them for garbage would delay an answer by a tenth of a second.
    gc.collect()
    gc.freeze()
    # An answer leaves no rings of references behind (memory stays flat without any looking), but thousands of small
    # things pass by: looking at each seven hundred of them took a tenth of a drag, and now and then all of one.
    gc.set_threshold(*_LOOKED_FOR_GARBAGE)
    # Import these at startup: otherwise the first shot with springs or an operator would wait a second for them.
    threading.Thread(target=scipy_part, args=("signal",), daemon=True).start()
    yield
    app.state.context.close()


def _serve_page(app: FastAPI) -> None:
    if not WEB_DIST.is_dir():

        @app.get("/", include_in_schema=False)
        def _missing() -> Response:
            return PlainTextResponse("The page is not built yet; run `make install`.", status_code=503)

        return
    app.mount("/assets", StaticFiles(directory=WEB_DIST / "assets"), name="assets")
    # Only built files are served: no path from a request reaches the disk.
    files = {path.name for path in WEB_DIST.iterdir() if path.is_file()}

    @app.get("/api/{rest:path}", include_in_schema=False)
    def _unknown(rest: str) -> Response:
        raise NotFound(f"there is no address /api/{rest}")

    @app.get("/{rest:path}", include_in_schema=False)
    def _page(rest: str) -> Response:
        return FileResponse(WEB_DIST / (rest if rest in files else "index.html"), headers={"Cache-Control": "no-cache"})

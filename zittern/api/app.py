"""Wiring only: guard, routes, errors, the built page."""

from __future__ import annotations

from pathlib import Path

from fastapi import FastAPI
from fastapi.responses import FileResponse, PlainTextResponse, Response
from fastapi.staticfiles import StaticFiles

from zittern import __version__
from zittern.api import problems
from zittern.api.context import Context
from zittern.api.guard import Guard
from zittern.api.routes import exports, imports, motion, projects, shots, tables
from zittern.core.errors import NotFound
from zittern.settings import Settings
from zittern.store.library import Library

__all__ = ["WEB_DIST", "make_app"]

WEB_DIST = Path(__file__).parent.parent / "web_dist"
# Everything comes from this server; inline styles are React's, blobs are textures inside GLB files.
_POLICY = "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; connect-src 'self' blob: data:; worker-src 'self' blob:"


def make_app(settings: Settings, library: Library | None = None) -> FastAPI:
    """The application on a data folder."""
    app = FastAPI(title="Zittern", version=__version__)
    app.state.context = Context(library if library is not None else Library(settings.data_dir))
    problems.install(app)
    for module in (tables, projects, shots, motion, imports, exports):
        app.include_router(module.router)
    app.add_middleware(Guard, most_bytes=settings.most_upload_mb * 2**20)
    _serve_page(app)
    return app


def _serve_page(app: FastAPI) -> None:
    if not WEB_DIST.is_dir():

        @app.get("/", include_in_schema=False)
        def _missing() -> Response:
            return PlainTextResponse("The page is not built yet; run `make install`.", status_code=503)

        return
    app.mount("/assets", StaticFiles(directory=WEB_DIST / "assets"), name="assets")

    @app.get("/api/{rest:path}", include_in_schema=False)
    def _unknown(rest: str) -> Response:
        raise NotFound(f"there is no address /api/{rest}")

    @app.get("/{rest:path}", include_in_schema=False)
    def _page(rest: str) -> Response:
        file = WEB_DIST / rest
        inside = rest and file.resolve().is_relative_to(WEB_DIST) and file.is_file()
        return FileResponse(file if inside else WEB_DIST / "index.html", headers={"Content-Security-Policy": _POLICY, "Cache-Control": "no-cache"})

"""What all routes share."""

from __future__ import annotations

import threading
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import Depends, Request
from fastapi.responses import Response
from pydantic import BaseModel

from zittern.api.jobs import ExportJobs
from zittern.core.evaluate import Cache, Motion, evaluate
from zittern.core.shot.shot import Shot
from zittern.store.library import Library

__all__ = ["Context", "Ctx", "json_response"]


@dataclass
class Context:
    """Library, motion cache and export jobs."""

    library: Library
    cache: Cache = field(default_factory=Cache)
    jobs: ExportJobs = field(default_factory=ExportJobs)
    _cache_lock: threading.Lock = field(default_factory=threading.Lock)

    def motion(self, shot: Shot) -> Motion:
        """Motion over all whole frames; only what changed is computed."""
        with self._cache_lock:
            return evaluate(shot, cache=self.cache)


def _context(request: Request) -> Context:
    context: Context = request.app.state.context
    return context


Ctx = Annotated[Context, Depends(_context)]


def json_response(model: BaseModel, status: int = 200) -> Response:
    """A model as JSON, without a second validation of what is already valid."""
    return Response(model.model_dump_json(), status_code=status, media_type="application/json")

"""State and dependencies that all routes share."""

from __future__ import annotations

import asyncio
import threading
from collections.abc import Callable, Coroutine
from dataclasses import dataclass, field
from typing import Annotated, Any

import orjson
from cachetools import LRUCache
from fastapi import Depends, Request
from fastapi.responses import Response
from fastapi.routing import APIRoute
from pydantic import BaseModel
from starlette.types import Receive

from zittern.api.jobs import Busy, ExportJobs
from zittern.api.models.presets import PresetOut, PresetShelfOut
from zittern.api.models.shots import ChangesOut, StateOut
from zittern.api.movies import Movies
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.sampled import Sampled, sample, stretches
from zittern.core.presets.preset import Preset
from zittern.core.readings.swatches import Swatch, corner_swatches, swatch
from zittern.core.runtime.budget import Budget, on_budget
from zittern.core.shot.clips import Clip
from zittern.core.shot.shot import Shot
from zittern.core.shot.through_variant import alone
from zittern.core.shot.upgrades import write_shot
from zittern.store.library import Library

__all__ = ["MOST_BYTES", "MOST_CPU_S", "Context", "Ctx", "JsonRoute", "json_response"]


# Limits for one request: processor time, and arrays in memory.
MOST_CPU_S = 30.0
MOST_BYTES = 2**30
# Cards that are kept, and arrays that they share: the path, dials.
_SWATCHES = 600
_SWATCH_BYTES = 64 * 2**20


@dataclass
class Context:
    """Library, motion cache, export jobs and movies. most_bytes: of one upload."""

    library: Library
    cache: Cache = field(default_factory=Cache)
    swatch_lock: threading.Lock = field(default_factory=threading.Lock)
    swatch_cache: Cache = field(default_factory=lambda: Cache(_SWATCH_BYTES))
    busy: Busy = field(default_factory=Busy)
    swatches: LRUCache[tuple[str, str], Swatch] = field(default_factory=lambda: LRUCache(_SWATCHES))
    most_bytes: int = 64 * 2**20
    jobs: ExportJobs = field(init=False)
    movies: Movies = field(init=False)

    def __post_init__(self) -> None:
        """Create the parts that depend on others."""
        self.jobs = ExportJobs(self.library.workspace, self.busy)
        self.movies = Movies(self.library.workspace, self.most_bytes)

    def close(self) -> None:
        """End exports and movies, and release the data folder."""
        self.jobs.close()
        self.movies.close()
        self.library.close()

    def sampled(self, shot: Shot, frame: float, window: tuple[int, int] | None = None) -> Sampled:
        """Return the motion at the frames in view; only changed parts are computed."""
        with self.busy:
            return sample(shot, frame, window, self.cache)

    def swatches_on(self, shot: Shot) -> Callable[[Preset], Swatch]:
        """Return the function that draws presets on a shot; each is drawn once while lens, length and path stay."""
        stage = alone(shot).replace(lanes=(), name="Swatch").fingerprint

        def drawn(preset: Preset) -> Swatch:
            key = (stage, preset.fingerprint)
            with self.swatch_lock:
                found = self.swatches.get(key)
            if found is None:
                with self.busy:
                    found = swatch(shot, preset, self.swatch_cache)
                with self.swatch_lock:
                    self.swatches[key] = found
            return found

        return drawn

    def corners(self, shot: Shot, clip: Clip) -> dict[str, Swatch]:
        """Return the motion of each corner of a clip's blend alone, by its id."""
        with self.busy:
            return corner_swatches(shot, clip, self.swatch_cache)

    def stretches(self, shot: Shot) -> list[Motion]:
        """Return the motion over ranges of adjacent frames that represent the shot."""
        with self.busy:
            return stretches(shot, self.cache)


async def _context(request: Request) -> Context:  # async: a plain function would occupy a thread
    context: Context = request.app.state.context
    return context


Ctx = Annotated[Context, Depends(_context)]


class _StrictRequest(Request):
    """Read JSON strictly: no NaN, infinities, lone surrogates or numbers out of range."""

    async def json(self) -> Any:
        if not hasattr(self, "_strict"):
            self._strict = orjson.loads(await self.body())
        return self._strict


class JsonRoute(APIRoute):
    """A route with strict JSON whose work has a budget and stops when its client disconnects."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        """Return a handler with strict JSON and a budget."""
        handle = super().get_route_handler()

        async def strict(request: Request) -> Response:
            received = _StrictRequest(request.scope, request.receive)
            with on_budget(Budget(MOST_CPU_S, MOST_BYTES)) as budget:
                if request.headers.get("content-type", "application/json").partition(";")[0] != "application/json":
                    return await handle(received)  # a form is read piece by piece
                await received.body()
                watching = asyncio.create_task(_watch(request.receive, budget))
                try:
                    return await handle(received)
                finally:
                    watching.cancel()

        return strict


async def _watch(receive: Receive, budget: Budget) -> None:
    """After the body of a request, the only further event is the disconnect of the client."""
    while (await receive())["type"] != "http.disconnect":
        pass
    budget.gone = True


def json_response(model: BaseModel, status: int = 200) -> Response:
    """Return a model as JSON, without a second validation of what is already valid."""
    return Response(_json(model), status_code=status, media_type="application/json")


def _json(model: BaseModel) -> bytes:
    """Serialize like `model_dump_json`.

    The text of a shot, which was needed to store it, is reused, as is that of a preset.
    """
    fields = {name: getattr(model, name) for name in type(model).model_fields}
    in_parts = isinstance(model, ChangesOut | PresetShelfOut)
    if not in_parts and not any(isinstance(value, Shot | StateOut) for value in fields.values()):
        return model.model_dump_json().encode()
    return orjson.dumps({name: _part(value) for name, value in fields.items()}, default=_document)


def _document(value: object) -> object:
    if isinstance(value, PresetOut):
        return orjson.Fragment(value.json_text)
    if isinstance(value, BaseModel):
        return orjson.Fragment(value.model_dump_json())
    raise TypeError(f"{type(value).__name__} is no part of an answer")


def _part(value: object) -> object:
    if isinstance(value, Shot):
        return orjson.Fragment(write_shot(value))
    return orjson.Fragment(_json(value)) if isinstance(value, StateOut) else value

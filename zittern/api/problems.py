"""Errors as problem+json (RFC 9457), with the path of the field in `where` and its display name in `place`."""

from __future__ import annotations

import logging
import tempfile
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect

from zittern.core.errors import (
    FULL_DISK,
    BadInput,
    ClientGone,
    Conflict,
    NotFound,
    StoreBusy,
    StoreError,
    StoreFull,
    TooDear,
    ZitternError,
    loc_path,
)
from zittern.core.refusals import in_words

__all__ = ["STATUS", "install", "problem"]

# The first row that fits counts.
STATUS: tuple[tuple[type[ZitternError], int, str], ...] = (
    (NotFound, 404, "Not found"),
    (Conflict, 409, "Changed elsewhere"),
    (TooDear, 422, "Too slow"),
    (BadInput, 422, "Cannot be used"),
    # The client never sees this: some servers log this status when a client has closed its request.
    (ClientGone, 499, "Gone"),
    (StoreFull, 507, "No room"),
    (StoreBusy, 503, "Busy"),
    (StoreError, 503, "Data folder"),
    (ZitternError, 500, "Failed"),
)


def problem(status: int, title: str, detail: str, where: str = "", **more: Any) -> JSONResponse:
    """Return a problem+json response."""
    body = {
        "type": "about:blank",
        "title": title,
        "status": status,
        "detail": _sayable(detail),
        "where": _sayable(where),
        **more,
    }
    return JSONResponse(body, status_code=status, media_type="application/problem+json")


def _sayable(text: str) -> str:
    """Return a text that can be encoded: lone surrogates are escaped."""
    return text.encode("utf-8", "backslashreplace").decode()


# Not sent to anybody: the client closed its request in the middle of the body.
_LEFT = problem(499, "Gone", "the client closed the request before its body was complete")


def install(app: FastAPI) -> None:
    """Hands all errors to the table."""

    @app.exception_handler(ZitternError)
    async def _ours(_request: Request, error: ZitternError) -> JSONResponse:
        status, title = next((status, title) for kind, status, title in STATUS if isinstance(error, kind))
        return problem(status, title, error.message, error.where, place=error.place, **error.details)

    @app.exception_handler(RequestValidationError)
    async def _shape(_request: Request, error: RequestValidationError) -> JSONResponse:
        fault = error.errors()[0]
        return problem(422, "Cannot be used", in_words(fault), loc_path(tuple(fault["loc"])))

    @app.exception_handler(HTTPException)
    async def _http(_request: Request, error: HTTPException) -> JSONResponse:
        cause = error.__cause__
        if isinstance(cause, ClientDisconnect):
            return _LEFT
        if isinstance(cause, OSError) and cause.errno in FULL_DISK:
            # Large uploads are collected in a temporary folder before anything reads them.
            detail = f"the disk of {tempfile.gettempdir()} is full; nothing was changed. Make room there and try again"
            return problem(507, "No room", detail)
        return problem(error.status_code, "Not possible", str(error.detail))

    @app.exception_handler(ClientDisconnect)
    async def _disconnected(_request: Request, _error: ClientDisconnect) -> JSONResponse:
        return _LEFT

    @app.exception_handler(Exception)
    async def _unforeseen(request: Request, error: Exception) -> JSONResponse:
        logging.getLogger("zittern").error("%s %s failed", request.method, request.url.path, exc_info=error)
        return problem(500, "Failed", "internal error; the shot is unchanged. The server's log says more")

"""Ignored findings."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import Field, StringConstraints

from zittern.core.documents.doc import Doc

__all__ = ["MOST_IGNORED", "IgnoredFinding"]

MOST_IGNORED = 500


class IgnoredFinding(Doc):
    """An ignored finding, by its check and address; reported again when its amount has grown by a quarter."""

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"check", "at", "amount"})

    check: Annotated[str, StringConstraints(pattern=r"^[a-z]{1,20}$")]
    at: Annotated[str, Field(max_length=300)] | None = None
    amount: float = Field(ge=-1e12, le=1e12)

"""Base of all models: strict about fields, no number without a limit."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from zittern.core.numbers.curves import Frame

__all__ = ["Frame", "Key", "Model", "Name", "RevisionId"]

# Ids count up from 1; JSON readers that use doubles know whole numbers up to 2^53 exactly.
RevisionId = Annotated[int, Field(ge=0, le=2**53 - 1)]
Name = Annotated[str, StringConstraints(min_length=1, max_length=120)]
Key = Annotated[str, StringConstraints(min_length=1, max_length=120)]


class Model(BaseModel):
    """Unknown fields, NaN and infinities are refused."""

    model_config = ConfigDict(extra="forbid", from_attributes=True, allow_inf_nan=False)

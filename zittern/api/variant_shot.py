"""The shot of a request, through the variant that the request names in its envelope: the header `zittern-variant`."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Header
from fastapi.responses import Response

from zittern.api.context import Ctx, json_response
from zittern.api.models.shots import ChangesOut, StateOut
from zittern.core.edits.table import Command
from zittern.core.shot.shot import Shot
from zittern.store.library import Library
from zittern.store.revisions import State

__all__ = ["Have", "Seen"]

# A revision that the client has: the answer contains only the differences from it.
Have = Annotated[int | None, Header(alias="zittern-have", ge=0, le=2**53 - 1)]
_Variant = Annotated[
    str | None, Header(alias="zittern-variant", max_length=120, description="id of a variant; the main one without it")
]


@dataclass(frozen=True, slots=True)
class _VariantView:
    library: Library
    variant: str | None

    def state(self, shot: str) -> State:
        """Return the state of a shot. Raises NotFound for a variant that is gone."""
        return self.library.state(shot, self.variant)

    def document(self, shot: str) -> Shot:
        """Its document. Raises NotFound for a variant that is gone."""
        return self.state(shot).document

    def edit(self, shot: str, base: int, command: Command, have: int | None = None) -> Response:
        """Commit a command on the variant. The answer is through the variant that is active afterwards."""
        return self.answer(self.library.edit(shot, base, command, self.variant), have)

    def remaining(self, state: State) -> State:
        """Return a state through the variant, or through the main one where that is gone."""
        return state.through_what_is_left(self.variant)

    def answer(self, state: State, have: int | None = None) -> Response:
        """Return all of a shot, or the differences from a revision that the client has."""
        if have is not None:
            before = self.library.known_document(state.shot_id, have, state.variant)
            asked = self.variant in (None, state.variant)
            if before is not None and asked:
                return json_response(ChangesOut.of(state, before, have))
        return json_response(StateOut.of(state))


async def _variant_view(
    ctx: Ctx, variant: _Variant = None
) -> _VariantView:  # async: a plain function would occupy a thread
    return _VariantView(ctx.library, variant)


Seen = Annotated[_VariantView, Depends(_variant_view)]

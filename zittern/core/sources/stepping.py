"""Sources that go by steps. Single ones can be moved and left out by hand, and are marked on the rows of layers."""

from __future__ import annotations

from typing import TYPE_CHECKING

from pydantic import Field

from zittern.core.documents.doc import Doc
from zittern.core.sources.source import Inputs, SourceDoc
from zittern.core.units import Array, IntArray

__all__ = ["MOST_LATER", "StepEdit", "Stepping"]

# A step can be moved by less than a third of the distance to the next: they stay in order.
MOST_LATER = 0.3


class StepEdit(Doc):
    """Edit of one step, by its number from the start: moved by a share of a step, or muted."""

    number: int = Field(ge=1, le=10_000_000)
    later: float = Field(default=0.0, ge=-MOST_LATER, le=MOST_LATER)
    mute: bool = False


class Stepping(SourceDoc):
    """A source with steps."""

    if TYPE_CHECKING:

        @property
        def steps(self) -> tuple[StepEdit, ...]:
            """Steps that were moved or muted by hand, in increasing order: one field for each."""

    def times(self, inputs: Inputs) -> tuple[IntArray, Array]:
        """Numbers and frames of the steps among the frames asked for. (H,), (H,)."""
        raise NotImplementedError

    def later_at(self, inputs: Inputs, number: int, frame: float) -> float:
        """Return the shift of a step, as a share of a step, if it is placed at a frame."""
        raise NotImplementedError

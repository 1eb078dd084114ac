"""Commands on single steps of a gait."""

from __future__ import annotations

from collections.abc import Callable
from typing import Annotated

from pydantic import Field

from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import change_layer, find_layer
from zittern.core.edits.titles import layers_title
from zittern.core.errors import EditError
from zittern.core.motion.steps import stepping_inputs
from zittern.core.shot.shot import Shot
from zittern.core.sources.stepping import MOST_LATER, StepEdit, Stepping

__all__ = ["FreeSteps", "MoveStep", "MuteSteps"]

_Number = Annotated[int, Field(ge=1, le=10_000_000)]


class MoveStep(CommandDoc, label="Move step {number} in {layer}"):
    """Move a step of a gait to another frame, by up to three tenths of the distance to the next."""

    layer: str
    number: _Number
    to_frame: float = Field(ge=-1e7, le=1e7)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a layer without steps."""
        clip, layer = find_layer(shot, self.layer)
        gait = _stepping(shot, self.layer)
        later = gait.later_at(stepping_inputs(shot, clip, layer), self.number, self.to_frame)
        within = min(max(later, -MOST_LATER), MOST_LATER)
        return _changed(shot, self.layer, (self.number,), lambda step: step.replace(later=within))


class MuteSteps(CommandDoc):
    """Mute or unmute steps."""

    layer: str
    numbers: Annotated[tuple[_Number, ...], Field(min_length=1, max_length=20_000)]
    mute: bool = True

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a layer without steps."""
        return _changed(shot, self.layer, self.numbers, lambda step: step.replace(mute=self.mute))

    def label(self, shot: Shot) -> str:
        """Return `Leave out step 12 in “Steps”`."""
        what = f"step {self.numbers[0]}" if len(self.numbers) == 1 else f"{len(self.numbers)} steps"
        return f"{'Mute' if self.mute else 'Unmute'} {what} in {layers_title(shot, [self.layer])}"


class FreeSteps(CommandDoc, label="Reset steps in {layer}"):
    """Reset all steps to their computed frames."""

    layer: str

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a layer without steps."""
        gait = _stepping(shot, self.layer)
        return change_layer(shot, self.layer, lambda layer: layer.replace(source=gait.replace(steps=())))


def _stepping(shot: Shot, layer: str) -> Stepping:
    source = find_layer(shot, layer)[1].source
    if not isinstance(source, Stepping):
        raise EditError("only a gait has steps", f"layer:{layer}.source")
    return source


def _changed(shot: Shot, layer_id: str, numbers: tuple[int, ...], change: Callable[[StepEdit], StepEdit]) -> Shot:
    gait = _stepping(shot, layer_id)
    steps = {step.number: step for step in gait.steps}
    for number in numbers:
        steps[number] = change(steps.get(number, StepEdit(number=number)))
    kept = tuple(steps[number] for number in sorted(steps) if steps[number].later != 0.0 or steps[number].mute)
    return change_layer(shot, layer_id, lambda layer: layer.replace(source=gait.replace(steps=kept)))

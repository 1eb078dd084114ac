"""THE TABLE of commands. Another command adds one class and one row."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.edits import keys, layers, moves, numbers, placing, spans, values
from zittern.core.errors import DocumentError, EditError
from zittern.core.shot.shot import Shot

__all__ = ["Command", "apply"]

Command = Annotated[
    values.SetValues
    | values.ScaleSwings
    | values.SetAxisRate
    | layers.AddLayer
    | layers.AddHandheld
    | layers.PasteLayers
    | layers.RemoveLayers
    | layers.DuplicateLayers
    | layers.MoveLayer
    | layers.NewSeeds
    | layers.CopyAxis
    | layers.LinkAxes
    | layers.SetSource
    | spans.SetSpan
    | moves.ReplaceMove
    | moves.AddMove
    | moves.RemoveMount
    | numbers.SetNumbers
    | keys.SetKeys
    | keys.MoveKeys
    | keys.ScaleKeys
    | keys.DeleteKeys
    | keys.SetInterp
    | keys.SetHandles
    | keys.SetExtend
    | placing.SetMove
    | placing.PlaceLens
    | placing.Fly
    | placing.AimCamera
    | placing.SnapAngles,
    Field(discriminator="type"),
]


def apply(shot: Shot, command: Command) -> Shot:
    """The shot after a command. Raises EditError with the place; the shot given is never changed."""
    try:
        return command.apply(shot)
    except DocumentError as error:
        raise EditError(error.message, error.where) from error

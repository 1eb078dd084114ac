"""Setting numbers that may be fixed or keyed, whichever they are."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from zittern.core.doc import Doc
from zittern.core.edits.address import number_at, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.keys import KeyValue, SetKeys
from zittern.core.edits.values import title_of
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.param import fixed
from zittern.core.shot.shot import Shot

__all__ = ["NumberValue", "SetNumbers"]


class NumberValue(Doc):
    """A value for the number at an address."""

    at: str = Field(max_length=300)
    value: float


class SetNumbers(CommandDoc):
    """Sets numbers at a frame: a keyed one gets a key there, a fixed one stays fixed unless `key` is set."""

    type: Literal["set_numbers"] = "set_numbers"
    frame: Frame
    values: Annotated[tuple[NumberValue, ...], Field(min_length=1, max_length=500)]
    key: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError for what is no number, and for a value out of range."""
        keys: list[KeyValue] = []
        for each in self.values:
            if self.key or number_at(shot, each.at).curve is not None:
                keys.append(KeyValue(at=each.at, frame=self.frame, value=each.value))
            else:
                shot = set_at(shot, each.at, fixed(each.value))
        return SetKeys(keys=tuple(keys)).apply(shot) if keys else shot

    def label(self, shot: Shot) -> str:
        """`Set swing of pan in “Slow sway”`, `Set weight in “Slow sway” at frame 24`."""
        at = [each.at for each in self.values]
        keyed = self.key or any(number_at(shot, each).curve is not None for each in at)
        return f"Set {title_of(shot, at)}" + (f" at frame {self.frame:g}" if keyed else "")

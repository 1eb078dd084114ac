"""Setting numbers that may be fixed or keyed, whichever they are."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.axes import AXES, AXIS_INFO, Axis
from zittern.core.documents.doc import Doc
from zittern.core.edits.address import number_at, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.driven import free_of_formulas
from zittern.core.edits.keys import KeyValue, SetKeys
from zittern.core.edits.titles import title_of
from zittern.core.errors import EditError, faults_as
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.param import fixed
from zittern.core.shot.shot import Shot

__all__ = ["NumberValue", "ScaleFocal", "SetNumbers", "SetSwings"]


class NumberValue(Doc):
    """A value for the number at an address."""

    at: str = Field(max_length=300)
    value: float


class SetNumbers(CommandDoc):
    """Set numbers at a frame: a keyed one gets a key there, a fixed one stays fixed unless `key` is set.

    What follows a formula is left alone.
    """

    frame: Frame
    values: Annotated[tuple[NumberValue, ...], Field(min_length=1, max_length=500)]
    key: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for an invalid value, a value out of range, and if all numbers have formulas.
        """
        keys: list[KeyValue] = []
        for each in free_of_formulas(shot, self.values):
            if self.key or number_at(shot, each.at).curve is not None:
                keys.append(KeyValue(at=each.at, frame=self.frame, value=each.value))
            else:
                shot = set_at(shot, each.at, fixed(each.value))
        return SetKeys(keys=tuple(keys)).apply(shot) if keys else shot

    def label(self, shot: Shot) -> str:
        """Return `Set swing of pan in “Slow sway”`, `Set weight in “Slow sway” at frame 24`."""
        at = [each.at for each in free_of_formulas(shot, self.values)]
        keyed = self.key or any(number_at(shot, each).curve is not None for each in at)
        return f"Set {title_of(shot, at)}" + (f" at frame {self.frame:g}" if keyed else "")


class SetSwings(CommandDoc):
    """Set the measured swing of some axes of a layer at a frame.

    A keyed one gets a key there.
    """

    layer: str
    frame: Frame
    axes: Annotated[tuple[Axis, ...], Field(min_length=1, max_length=len(AXES))]
    value: float = Field(ge=0.0, le=1e5)

    def _numbers(self) -> SetNumbers:
        most = {info.name: info.most_swing for info in AXIS_INFO}
        at = f"layer:{self.layer}.axes"
        return SetNumbers(
            frame=self.frame,
            values=tuple(NumberValue(at=f"{at}.{axis}.swing", value=min(self.value, most[axis])) for axis in self.axes),
        )

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a layer that is not there."""
        return self._numbers().apply(shot)

    def label(self, shot: Shot) -> str:
        """Return `Set swing of pan, tilt in “Slow sway”`."""
        return self._numbers().label(shot)


class ScaleFocal(CommandDoc):
    """Scale the focal length, keys included."""

    times: float = Field(gt=0.0, le=100.0)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError where a focal length would be out of reach."""
        with faults_as(EditError, "shot.focal_mm"):
            return shot.replace(focal_mm=shot.focal_mm.map(lambda value: value * self.times))

    def label(self, shot: Shot) -> str:
        """Return `Lengthen the lens by 12 %`."""
        if self.times < 1.0:
            return f"Shorten the lens by {(1.0 - self.times) * 100.0:.1f} %"
        return f"Lengthen the lens by {(self.times - 1.0) * 100.0:.1f} %"

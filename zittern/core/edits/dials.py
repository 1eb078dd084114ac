"""Commands on dials."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, ClassVar

from pydantic import Field, StringConstraints

from zittern.core.documents.doc import Doc
from zittern.core.edits.command import CommandDoc
from zittern.core.errors import EditError
from zittern.core.numbers.param import fixed
from zittern.core.shot.dials import Dial, DialName
from zittern.core.shot.naming import renamed
from zittern.core.shot.reads import reads_of
from zittern.core.shot.shot import Shot

__all__ = ["AddDial", "RemoveDial", "SetDial"]

_Bound = Annotated[float, Field(ge=-1e9, le=1e9)]
_Unit = Annotated[str, StringConstraints(strip_whitespace=True, max_length=12)]


class AddDial(CommandDoc, label="Add dial {name}"):
    """A new dial, the last in the row."""

    name: DialName
    unit: _Unit = "%"
    minimum: _Bound = 0.0
    maximum: _Bound = 100.0
    value: _Bound | None = None

    def apply(self, shot: Shot) -> Shot:
        """Add the dial at its minimum. Raises EditError for a name that is taken."""
        _refuse_taken(shot, self.name)
        value = self.minimum if self.value is None else self.value
        return shot.replace(
            dials=(
                *shot.dials,
                Dial(name=self.name, unit=self.unit, minimum=self.minimum, maximum=self.maximum, value=fixed(value)),
            )
        )


class SetDial(CommandDoc):
    """Change a dial's name, unit or limits.

    The new name replaces the old one in every formula; a value outside new limits is clamped, a formula stays.
    """

    everywhere: ClassVar[bool] = True

    dial: DialName
    name: DialName | None = None
    unit: _Unit | None = None
    minimum: _Bound | None = None
    maximum: _Bound | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for a dial that is not there, a name that is taken, and limits that are upside down.
        """
        dial = _find(shot, self.dial)
        minimum = dial.minimum if self.minimum is None else self.minimum
        maximum = dial.maximum if self.maximum is None else self.maximum
        if not minimum < maximum:
            raise EditError(
                f"the minimum of a dial must be below its maximum, got {minimum:g} and {maximum:g}", f"dial:{self.dial}"
            )
        changed = dial.replace(
            unit=dial.unit if self.unit is None else self.unit,
            minimum=minimum,
            maximum=maximum,
            value=dial.value.clamped(minimum, maximum),
        )
        shot = shot.replace(dials=tuple(changed if each is dial else each for each in shot.dials))
        return shot if self.name in (None, self.dial) else _renamed_dial(shot, self.dial, self.name or "")

    def label(self, shot: Shot) -> str:
        """Return `Rename dial panic to alarm`, `Set dial panic`."""
        return (
            f"Rename dial {self.dial} to {self.name}" if self.name not in (None, self.dial) else f"Set dial {self.dial}"
        )


class RemoveDial(CommandDoc, label="Remove dial {dial}"):
    """Remove a dial. leave: formulas that read it get its value at a frame."""

    everywhere: ClassVar[bool] = True

    dial: DialName
    leave: bool = False
    frame: float = Field(default=0.0, ge=-1e7, le=1e7)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError while something reads it, unless its value is left behind."""
        dial = _find(shot, self.dial)
        readers = [called for called, doc in _readers(shot) if self.dial in reads_of(doc)]
        if readers and not self.leave:
            names = ", ".join(dict.fromkeys(readers))
            raise EditError(
                f"dial {self.dial} is read by {names}; leave its value behind, or change these first",
                f"dial:{self.dial}",
            )
        value = float(dial.sample(shot.scope(self.frame))[0])
        return _rewritten(shot, self.dial, f"{value!r}" if value >= 0.0 else f"({value!r})", drop=dial)


def _find(shot: Shot, name: str) -> Dial:
    for dial in shot.dials:
        if dial.name == name:
            return dial
    raise EditError(f"there is no dial `{name}`; it may have been removed", f"dial:{name}")


def _refuse_taken(shot: Shot, name: str) -> None:
    if any(dial.name == name for dial in shot.dials):
        raise EditError(f"a dial is called {name} already; take another name", f"dial:{name}")


# Fields of a shot whose numbers may read dials.
_WITH_NUMBERS = ("dials", "mounts", "subject", "plates", "focal_mm", "glass", "hold", "lanes")


def _readers(shot: Shot) -> Iterator[tuple[str, Doc]]:
    """Yield the documents that may read dials, with their titles."""
    yield from ((f"dial {dial.name}", dial) for dial in shot.dials)
    yield from ((f"“{mount.name}”", mount) for mount in shot.mounts)
    if shot.subject is not None:
        yield f"“{shot.subject.name}”", shot.subject
    yield from ((f"“{plate.name}”", plate) for plate in shot.plates)
    yield "the focal length", shot.focal_mm
    if shot.glass is not None:
        yield "the glass", shot.glass
    if shot.hold is not None:
        yield "the hold on the framing", shot.hold
    yield from ((f"“{layer.name}”", layer) for _, layer in shot.layers())
    yield from ((f"“{clip.name}”", clip.replace(layers=())) for clip in shot.clips())


def _renamed_dial(shot: Shot, old: str, new: str) -> Shot:
    _refuse_taken(shot, new)
    return _rewritten(shot, old, new)


def _rewritten(shot: Shot, old: str, new: str, drop: Dial | None = None) -> Shot:
    """Return the shot with a name in all formulas changed, the dial of that name too; one dial taken away."""
    fields = {name: getattr(shot, name) for name in _WITH_NUMBERS}
    if drop is not None:
        fields["dials"] = tuple(dial for dial in shot.dials if dial is not drop)
    return shot.replace(
        **{name: renamed(value, old, new, formulas_only=drop is not None) for name, value in fields.items()}
    )

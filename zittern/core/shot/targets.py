"""Targets of an operator, of the hold on the framing, and of cues."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from zittern.core.documents.doc import Doc, Id, Label
from zittern.core.documents.timemarks import AT
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed

__all__ = [
    "MOST_CHANGES", "Changes", "Follows", "MiddleTarget", "MountTarget", "PointTarget", "SubjectTarget", "Target",
    "TargetChange", "mounts_in", "needs_subject", "simple", "with_each",
]  # fmt: skip

MOST_CHANGES = 200
_Metres = Annotated[Param, bounded(-1e6, 1e6)]


class SubjectTarget(Doc):
    """The shot's subject."""

    kind: Literal["subject"] = "subject"


class PointTarget(Doc):
    """A point in the world, metres, or the path of an object of the set."""

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"name", "object"})

    kind: Literal["point"] = "point"
    name: Label = "point"
    object: str | None = Field(default=None, max_length=200)
    x_m: _Metres = fixed(0.0)
    y_m: _Metres = fixed(0.0)
    z_m: _Metres = fixed(0.0)


class MountTarget(Doc):
    """The pose of the bare rig after one of its mounts."""

    kind: Literal["mount"] = "mount"
    mount: Id


_Simple = Annotated[SubjectTarget | PointTarget | MountTarget, Field(discriminator="kind")]


class MiddleTarget(Doc):
    """The middle of two others."""

    kind: Literal["middle"] = "middle"
    one: _Simple
    other: _Simple


Target = Annotated[SubjectTarget | PointTarget | MountTarget | MiddleTarget, Field(discriminator="kind")]


class TargetChange(Doc):
    """From a frame on another target."""

    frame: Annotated[Frame, AT]
    target: Target


Changes = Annotated[tuple[TargetChange, ...], Field(max_length=MOST_CHANGES)]


class Follows(Doc):
    """target: from the beginning on.

    changes: what is followed from later frames on, in order of frame; of two at the same frame the later one counts.
    """

    target: Target = SubjectTarget()
    changes: Changes = ()

    def targets(self) -> tuple[Target, ...]:
        """All of them, in order of time."""
        return (self.target, *(change.target for change in self.changes))

    @property
    def needs_subject(self) -> bool:
        """Return whether any of them uses the shot's subject."""
        return any(map(needs_subject, self.targets()))

    def in_order(self) -> tuple[TargetChange, ...]:
        """Return the changes by frame, those of one frame in their present order."""
        return tuple(sorted(self.changes, key=lambda change: change.frame))

    def with_targets(self, change: Callable[[Target], Target]) -> Follows:
        """Return a document with every target changed, nested ones included; the same object if nothing changes."""
        changed = [with_each(target, change) for target in self.targets()]
        if all(new == old for new, old in zip(changed, self.targets(), strict=True)):
            return self
        changes = (each.replace(target=new) for each, new in zip(self.changes, changed[1:], strict=True))
        return self.replace(target=changed[0], changes=tuple(changes))


def simple(target: Target) -> tuple[SubjectTarget | PointTarget | MountTarget, ...]:
    """Return the simple targets in a target."""
    return (target.one, target.other) if isinstance(target, MiddleTarget) else (target,)


def needs_subject(target: Target) -> bool:
    """Return whether a target uses the shot's subject."""
    return any(isinstance(each, SubjectTarget) for each in simple(target))


def with_each(target: Target, change: Callable[[Target], Target]) -> Target:
    """Return a target with its simple targets changed."""
    if isinstance(target, MiddleTarget):
        return target.replace(one=change(target.one), other=change(target.other))
    return change(target)


def mounts_in(*targets: Target) -> Iterator[str]:
    """Return the ids of the mounts in targets."""
    for target in targets:
        yield from (each.mount for each in simple(target) if isinstance(each, MountTarget))

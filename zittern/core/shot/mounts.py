"""A mount: a part of the rig with a keyed move. Mounts form a chain from the ground to the lens."""

from __future__ import annotations

from functools import cached_property
from typing import Annotated, ClassVar, Literal, get_args

from pydantic import Field

from zittern.core.documents.doc import Id, Label
from zittern.core.numbers.limits import bounded
from zittern.core.numbers.param import Param, fixed
from zittern.core.shot.operator import Operator
from zittern.core.shot.posed import MOVE_FIELDS, MoveField, Posed
from zittern.core.shot.rides import Ride
from zittern.core.shot.springs import Springs

__all__ = ["KINDS", "MOVE_FIELDS", "Mount", "MountKind", "MoveField"]

# Kind of a mount: its drawing and usual purpose; it does not affect motion.
MountKind = Literal["free", "ground", "arm", "head", "hands", "lens"]
KINDS: tuple[MountKind, ...] = get_args(MountKind)

_Offset = Annotated[float, Field(ge=-1e6, le=1e6)]


class Mount(Posed):
    """Pose relative to its parent (the ground for the first): metres and degrees, turning about `pivot_m`.

    Its child is at the far end of its length, forward of its position. mute: it holds the pose that it has at the
    shot's first frame, without springs and operator; solo: the others do.
    """

    motion_irrelevant: ClassVar[frozenset[str]] = frozenset({"id", "name", "kind", "mute", "solo"})

    id: Id
    name: Label
    kind: MountKind = "free"
    pivot_m: tuple[_Offset, _Offset, _Offset] = (0.0, 0.0, 0.0)
    length_m: Annotated[Param, bounded(0.0, 1e3)] = fixed(0.0)
    ride: Ride | None = None
    operator: Operator | None = None
    springs: Springs | None = None
    mute: bool = False
    solo: bool = False

    @cached_property
    def rigid(self) -> bool:
        """Return whether its pose is constant."""
        return all(getattr(self, field).constant is not None for field in (*MOVE_FIELDS, "length_m"))

    @property
    def only_turns(self) -> bool:
        """Return whether its child keeps its position for any angles."""
        return self._turns_in_place and all(getattr(self, field).constant == 0.0 for field in MOVE_FIELDS[:3])

    @property
    def _turns_in_place(self) -> bool:
        return self.ride is None and not any(self.pivot_m) and self.length_m.constant == 0.0

    @property
    def unturned(self) -> Mount:
        """Return the mount without its angles, where they do not move its child."""
        return self._level if self._turns_in_place else self

    @cached_property
    def _level(self) -> Mount:
        return self.replace(**dict.fromkeys(MOVE_FIELDS[3:], fixed(0.0)))

    @cached_property
    def posture(self) -> tuple[object, ...]:
        """Return the inputs of its keyed pose in its parent."""
        return (*(getattr(self, field) for field in MOVE_FIELDS), self.pivot_m, self.length_m)

    @property
    def bare(self) -> Mount:
        """Return the mount without operator and springs: the inputs of its keyed pose."""
        return self if self.operator is None and self.springs is None else self._stiff

    @cached_property
    def _stiff(self) -> Mount:
        return self.replace(operator=None, springs=None)

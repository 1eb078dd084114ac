"""Commands on cues: placed or tapped, moved, copied, changed, taken away."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import Field

from zittern.core.documents.doc import Id
from zittern.core.edits.command import CommandDoc
from zittern.core.errors import EditError
from zittern.core.numbers.curves import Frame
from zittern.core.shot.cues import MOST_CUES, Cue, CueIn, CueName, Place, Strength
from zittern.core.shot.shot import Shot
from zittern.core.shot.targets import Target
from zittern.core.timing.carry import retimed
from zittern.core.timing.time_map import TimeMap

__all__ = ["AddCues", "MoveCues", "RemoveCues", "SetCues"]

_Ids = Annotated[tuple[Id, ...], Field(min_length=1, max_length=MOST_CUES)]


class AddCues(CommandDoc):
    """New cues: one at the playhead, or all that were tapped while it played."""

    cues: Annotated[tuple[CueIn, ...], Field(min_length=1, max_length=MOST_CUES)]

    def apply(self, shot: Shot) -> Shot:
        """Add the cues with new ids."""
        return _with(shot, (*shot.cues, *_named(shot, self.cues)))

    def label(self, shot: Shot) -> str:
        """Return `Cue at frame 96`, `Add 4 cues`."""
        return f"Cue at frame {self.cues[0].frame:g}" if len(self.cues) == 1 else f"Add {len(self.cues)} cues"


class MoveCues(CommandDoc):
    """Move cues in time, or copies of them."""

    cues: _Ids
    by_frames: float = Field(ge=-1e6, le=1e6)
    copy_cues: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for one that is not there."""
        chosen = _find(shot, self.cues)
        moved = [retimed(cue, TimeMap.even(shift_frames=self.by_frames)) for cue in chosen]
        if self.copy_cues:
            return _with(shot, (*shot.cues, *_named(shot, moved)))
        by_id = {cue.id: cue for cue in moved}
        return _with(shot, tuple(by_id.get(cue.id, cue) for cue in shot.cues))

    def label(self, shot: Shot) -> str:
        """Return `Move “Thud” by +4 frames`."""
        return f"{'Copy' if self.copy_cues else 'Move'} {_title(shot, self.cues)} by {self.by_frames:+g} frames"


class SetCues(CommandDoc):
    """Change cues: name, strength, frame, position or target.

    Missing fields stay; `nowhere` removes the position.
    """

    cues: _Ids
    name: CueName | None = None
    strength: Strength | None = None
    frame: Frame | None = None
    place_m: Place | None = None
    on: Target | None = None
    nowhere: bool = False

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for one that is not there."""
        changes = {name: value for name in ("name", "strength", "frame") if (value := getattr(self, name)) is not None}
        if self.nowhere or self.place_m is not None or self.on is not None:
            changes |= {"place_m": None, "on": None} if self.nowhere else {"place_m": self.place_m, "on": self.on}
        chosen = {cue.id for cue in _find(shot, self.cues)}
        return _with(shot, tuple(cue.replace(**changes) if cue.id in chosen else cue for cue in shot.cues))

    def label(self, shot: Shot) -> str:
        """Return `Set “Thud”`."""
        return f"Set {_title(shot, self.cues)}"


class RemoveCues(CommandDoc):
    """Remove cues."""

    cues: _Ids

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for one that is not there."""
        gone = {cue.id for cue in _find(shot, self.cues)}
        return _with(shot, tuple(cue for cue in shot.cues if cue.id not in gone))

    def label(self, shot: Shot) -> str:
        """Return `Remove “Thud”`."""
        return f"Remove {_title(shot, self.cues)}"


def _find(shot: Shot, ids: tuple[str, ...]) -> list[Cue]:
    known = {cue.id: cue for cue in shot.cues}
    missing = next((each for each in ids if each not in known), None)
    if missing is not None:
        raise EditError(f"there is no cue {missing!r}; it may have been removed", "cues")
    return [known[each] for each in dict.fromkeys(ids)]


def _named(shot: Shot, cues: Sequence[CueIn]) -> list[Cue]:
    taken = {cue.id for cue in shot.cues}
    free = (name for n in range(1, len(taken) + len(cues) + 1) if (name := f"cue-{n}") not in taken)
    return [each.with_id(name) for name, each in zip(free, cues, strict=False)]


def _with(shot: Shot, cues: tuple[Cue, ...]) -> Shot:
    """In order of time."""
    return shot.replace(cues=tuple(sorted(cues, key=lambda cue: cue.frame)))


def _title(shot: Shot, ids: tuple[str, ...]) -> str:
    chosen = _find(shot, ids)
    return (
        (f"cue “{chosen[0].name}”" if chosen[0].name else f"cue at frame {chosen[0].frame:g}")
        if len(chosen) == 1
        else f"{len(chosen)} cues"
    )

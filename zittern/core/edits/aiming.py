"""Commands on the operator."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from zittern.core.edits.address import get_at, set_at
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_mount, with_mount
from zittern.core.errors import EditError
from zittern.core.motion.facts import scope_at
from zittern.core.motion.move import bare_poses
from zittern.core.motion.picture import subject_distance_m
from zittern.core.motion.targets import name_of
from zittern.core.numbers.curves import Frame
from zittern.core.numbers.param import fixed
from zittern.core.shot.shot import Shot
from zittern.core.shot.targets import Follows, PointTarget, Target, TargetChange

__all__ = ["FollowOther", "FollowPoint", "FollowTarget", "SetLag"]

_Address = Annotated[str, Field(max_length=300)]


class SetLag(CommandDoc, label="Set lag of the operator to {lag_frames:g} frames"):
    """Set the lag of the operator in frames, for a subject at constant speed.

    Reaction and response lag keep their ratio, anticipation stays.
    """

    mount: str
    lag_frames: float = Field(ge=-1000.0, le=1000.0)

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError without an operator, and for a lag that this anticipation or the limits do not allow.
        """
        mount = find_mount(shot, self.mount)
        if mount.operator is None:
            raise EditError("no operator aims this mount", f"mount:{self.mount}.operator")
        changed = mount.operator.lagging(self.lag_frames / shot.fps.value)
        if changed is None:
            least = mount.operator.least_lag_s * shot.fps.value
            raise EditError(
                f"a lag of {self.lag_frames:g} frames is not possible: with this anticipation it is "
                f"above {least:.4g} frames, and the reaction is limited to 3 s",
                f"mount:{self.mount}.operator",
            )
        return with_mount(shot, mount, mount.replace(operator=changed))


class FollowTarget(CommandDoc):
    """Set the target of an operator or the hold (`mount:ID.operator`, `shot.hold`).

    From a frame on, or from the beginning where none is named. A change at the same frame is replaced.
    """

    at: _Address
    frame: Frame | None = None
    target: Target

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError where no target is followed, and for a missing mount."""
        return _following(shot, self.at, self.frame, self.target)

    def label(self, shot: Shot) -> str:
        """Return `Follow “Kite” from frame 48`."""
        return f"Follow “{name_of(shot, self.target)}”{_from(self.frame)}"


class FollowPoint(CommandDoc):
    """Set the target of an operator or the hold to the point at the picture center of the bare lens.

    As far away as the subject.
    """

    at: _Address
    seen_at: Frame
    frame: Frame | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError where no target is followed."""
        pose = bare_poses(shot, scope_at(shot, self.seen_at))[0]
        away = subject_distance_m(shot, self.seen_at, pose[:3, 3])
        x, y, z = (float(each) for each in pose[:3, 3] - away * pose[:3, 2])
        point = PointTarget(name=f"point of frame {self.seen_at:g}", x_m=fixed(x), y_m=fixed(y), z_m=fixed(z))
        return _following(shot, self.at, self.frame, point)

    def label(self, shot: Shot) -> str:
        """Return `Follow a point from frame 48`."""
        return f"Follow a point{_from(self.frame)}"


class FollowOther(CommandDoc):
    """Move or remove the change to a target."""

    at: _Address
    frame: Frame
    to_frame: Frame | None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for a frame at which no target is taken."""
        follows = _follows(shot, self.at)
        there = [change for change in follows.changes if change.frame == self.frame]
        if not there:
            raise EditError(f"no other target is taken at frame {self.frame:g}", self.at)
        moved = None if self.to_frame is None else there[-1].replace(frame=self.to_frame)
        return set_at(shot, self.at, _changed(follows, (self.frame, self.to_frame), moved))

    def label(self, shot: Shot) -> str:
        """Return `Take the target of frame 48 at frame 60`, `Keep the target at frame 48`."""
        if self.to_frame is None:
            return f"Keep the target at frame {self.frame:g}"
        return f"Take the target of frame {self.frame:g} at frame {self.to_frame:g}"


def _follows(shot: Shot, at: str) -> Follows:
    found = get_at(shot, at)
    if not isinstance(found, Follows):
        raise EditError(
            "no operator or hold follows a target here; add an operator to the mount, or hold the framing, first", at
        )
    return found


def _following(shot: Shot, at: str, frame: float | None, target: Target) -> Shot:
    follows = _follows(shot, at)
    if frame is None:
        return set_at(shot, at, follows.replace(target=target))
    return set_at(shot, at, _changed(follows, (frame,), TargetChange(frame=frame, target=target)))


def _changed(follows: Follows, gone: tuple[float | None, ...], new: TargetChange | None) -> Follows:
    """Without the changes of some frames, and with another one."""
    rest = [change for change in follows.changes if change.frame not in gone]
    after = follows.replace(changes=tuple(rest if new is None else [*rest, new]))
    return after.replace(changes=after.in_order())


def _from(frame: float | None) -> str:
    return "" if frame is None else f" from frame {frame:g}"

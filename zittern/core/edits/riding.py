"""A command that carries a mount with the subject."""

from __future__ import annotations

from zittern.core.documents.doc import Id
from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_mount, with_mount
from zittern.core.errors import EditError
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot

__all__ = ["RideOnSubject"]


class RideOnSubject(CommandDoc):
    """Mount a part of the rig on the subject: along its present path, as on an object of the set that does not turn."""

    mount: Id

    def apply(self, shot: Shot) -> Shot:
        """Apply the command.

        Raises EditError for a mount that is not there, without a subject, and for one that stands still.
        """
        mount, subject = find_mount(shot, self.mount), shot.subject
        if subject is None:
            raise EditError("no subject is marked, so nothing rides on it", f"mount:{mount.id}.ride")
        path = {"x_m": subject.x_m, "y_m": subject.y_m, "z_m": subject.z_m}
        if all(number.constant is not None for number in path.values()):
            raise EditError(f"“{subject.name}” stands still, so nothing rides on it", f"mount:{mount.id}.ride")
        return with_mount(shot, mount, mount.replace(ride=Ride(object=subject.name, **path)))

    def label(self, shot: Shot) -> str:
        """Return `Ride on “Courier”`."""
        return f"Ride on “{shot.subject.name if shot.subject else 'the subject'}”"

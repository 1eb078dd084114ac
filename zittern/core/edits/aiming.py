"""Commands on the operator, as people speak of them."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from zittern.core.edits.command import CommandDoc
from zittern.core.edits.parts import find_mount, with_mount
from zittern.core.errors import EditError
from zittern.core.shot.shot import Shot

__all__ = ["SetLag"]


class SetLag(CommandDoc):
    """Makes the operator so many frames late while the subject goes steadily on, by the same person's being slower or
    quicker in all: reaction and the camera's own lag keep their ratio, anticipation stays.
    """

    type: Literal["set_lag"] = "set_lag"
    mount: str
    lag_frames: float = Field(ge=-1000.0, le=1000.0)

    def apply(self, shot: Shot) -> Shot:
        """Raises EditError where nobody aims, and for a lag that this anticipation or the limits do not allow."""
        mount = find_mount(shot, self.mount)
        if mount.operator is None:
            raise EditError("no operator aims this mount", f"mount:{self.mount}.operator")
        changed = mount.operator.lagging(self.lag_frames / shot.fps.value)
        if changed is None:
            least = mount.operator.least_lag_s * shot.fps.value
            raise EditError(
                f"a lag of {self.lag_frames:g} frames cannot be had: with this anticipation it is more than "
                f"{least:.4g} frames, and reaction stays within 3 s",
                f"mount:{self.mount}.operator",
            )
        return with_mount(shot, mount, mount.replace(operator=changed))

    def label(self, shot: Shot) -> str:
        """`Set lag of the operator to 6 frames`."""
        return f"Set lag of the operator to {self.lag_frames:g} frames"

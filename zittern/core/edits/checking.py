"""Commands on findings."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field, StringConstraints

from zittern.core.edits.command import CommandDoc
from zittern.core.errors import EditError
from zittern.core.shot.ignored import MOST_IGNORED, IgnoredFinding
from zittern.core.shot.shot import Shot

__all__ = ["IgnoreFinding"]


class IgnoreFinding(CommandDoc):
    """Hide a finding until it is 25 % worse, or show it again. amount: its amount when ignored."""

    check: Annotated[str, StringConstraints(pattern=r"^[a-z]{1,20}$")]
    at: Annotated[str, Field(max_length=300)] | None = None
    amount: float = Field(default=0.0, ge=-1e12, le=1e12)
    ignored: bool = True

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError when there are too many."""
        others = tuple(each for each in shot.ignored if (each.check, each.at) != (self.check, self.at))
        if not self.ignored:
            return shot.replace(ignored=others)
        if len(others) >= MOST_IGNORED:
            raise EditError(f"up to {MOST_IGNORED} findings can be ignored; stop ignoring some first", "shot.ignored")
        return shot.replace(ignored=(*others, IgnoredFinding(check=self.check, at=self.at, amount=self.amount)))

    def label(self, shot: Shot) -> str:
        """Return `Ignore “twins”`."""
        return f"{'Ignore' if self.ignored else 'Stop ignoring'} “{self.check}”"

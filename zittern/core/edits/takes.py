"""A command that plays a recorded take."""

from __future__ import annotations

from zittern.core.edits.command import CommandDoc
from zittern.core.edits.layers import PasteLayers
from zittern.core.edits.parts import change_layer, find_layer
from zittern.core.edits.titles import layers_title
from zittern.core.errors import EditError
from zittern.core.shot.layers import Layer
from zittern.core.shot.seeds import drawn
from zittern.core.shot.shot import Shot
from zittern.core.sources.take import Recording, Take

__all__ = ["PlayTake"]


class PlayTake(CommandDoc):
    """Set the recording of a take layer.

    A new layer does, on top of a clip or of the one over the whole shot, when none is named.
    """

    recording: Recording
    layer: str | None = None
    clip: str | None = None

    def apply(self, shot: Shot) -> Shot:
        """Apply the command. Raises EditError for an empty recording, and for a layer that plays none."""
        if not self.recording.axes:
            raise EditError("nothing was recorded on any axis, so there is nothing to play", "recording")
        if self.layer is None:
            shot, (seed,) = drawn(shot, 1)
            made = Layer(
                id="take", name=self.recording.name or "Take", source=Take(recording=self.recording), seed=seed
            )
            return PasteLayers(layers=(made,), clip=self.clip).apply(shot)
        source = find_layer(shot, self.layer)[1].source
        if not isinstance(source, Take):
            raise EditError("this layer is not a take; set its source to Take first", f"layer:{self.layer}.source")
        return change_layer(
            shot, self.layer, lambda layer: layer.replace(source=source.replace(recording=self.recording))
        )

    def label(self, shot: Shot) -> str:
        """Return `Play “walking-along”`."""
        where = f" in {layers_title(shot, [self.layer])}" if self.layer else ""
        return f"Play “{self.recording.name or 'take'}”{where}"

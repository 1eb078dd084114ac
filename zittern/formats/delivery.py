"""Settings of an export: frames, keys, nodes."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import TYPE_CHECKING

from zittern.core.errors import BadInput
from zittern.core.motion.evaluate import Motion, evaluate_in_parts
from zittern.core.numbers.curves import MOST_FRAME
from zittern.core.shot.shot import Shot
from zittern.core.timebase import frame_grid
from zittern.core.units import Array
from zittern.formats.files import write_whole
from zittern.formats.reduced import Tolerance, sample_frames

if TYPE_CHECKING:
    from zittern.formats.reduced import Loss
    from zittern.formats.table import Format

__all__ = ["Delivery", "deliver"]

_REDUCED_SAMPLES = 10_000


@dataclass(frozen=True, slots=True)
class Delivery:
    """Settings of an export.

    step: frames between two samples. reduce: few keys within this tolerance, instead of samples. one_camera: one node
    with all motion, instead of nested ones. first_frame, last_frame: also beyond the shot; by default the shot's.
    first_number: number of the first written frame, by default its own.
    """

    step: float = 1.0
    reduce: Tolerance | None = None
    one_camera: bool = False
    first_frame: int | None = None
    last_frame: int | None = None
    first_number: int | None = None

    def check(self, format_: Format) -> None:
        """Raise BadInput for settings that a format does not have."""
        if not format_.exports:
            raise BadInput(f"no motion is written to the format {format_.name!r}", "format")
        for name in ("first_frame", "last_frame", "first_number"):
            if abs(getattr(self, name) or 0) > MOST_FRAME:
                raise BadInput(f"expected up to {MOST_FRAME:,.0f}, got {getattr(self, name)}", name)
        if self.reduce is not None and not format_.has_curves:
            raise BadInput(f"the format {format_.name!r} has no curves here; choose glb or gltf", "reduce")
        if self.one_camera and not format_.has_nodes:
            raise BadInput(f"the format {format_.name!r} has no nodes; choose glb, gltf or usd", "one_camera")
        if self.first_number is not None and not format_.has_frame_numbers:
            raise BadInput(f"the format {format_.name!r} has times and no frame numbers", "first_number")
        if format_.kind == "shot" and not (self.first_frame is self.last_frame is None):
            raise BadInput("the document is written whole; leave out the range", "first_frame")
        if self.reduce is not None and self.step != 1.0:
            raise BadInput("reduced keys lie where they are needed; leave out the step", "step")

    def frames(self, shot: Shot) -> Array:
        """Return the frames that are evaluated. (F,). Raises BadInput when there would be too many."""
        first, last = self.range(shot)
        return frame_grid(first, last, self.step) if self.reduce is None else sample_frames(first, last)

    def range(self, shot: Shot) -> tuple[int, int]:
        """Return the first and last frame. Raises BadInput when they are in the wrong order."""
        first = shot.first_frame if self.first_frame is None else self.first_frame
        last = shot.last_frame if self.last_frame is None else self.last_frame
        if first > last:
            raise BadInput(f"expected a last frame from {first} on, got {last}", "last_frame")
        return first, last

    def seconds(self, shot: Shot, frames: Array) -> Array:
        """Return the times of frames from the first one. (F,)."""
        return shot.fps.seconds(frames, self.range(shot)[0])

    def numbers(self, shot: Shot, frames: Array) -> Array:
        """Return the numbers of frames in the file. (F,)."""
        return frames if self.first_number is None else frames + (self.first_number - self.range(shot)[0])

    def parts(self, shot: Shot, part_frames: int = 2000) -> Iterator[Motion]:
        """Yield the motion at these frames, in parts; for reduced keys each begins with the last frame before it."""
        if self.reduce is None:
            return evaluate_in_parts(shot, self.frames(shot), part_frames)
        # Long parts: each channel has a key where one ends.
        return evaluate_in_parts(shot, self.frames(shot), _REDUCED_SAMPLES, shared=1)


def deliver(path: Path, format_: Format, shot: Shot, delivery: Delivery, mode: int | None = None) -> Loss | None:
    """Write the motion of a shot to a file, part by part; on failure the file is unchanged.

    Returns the loss of reduced keys, if any. mode: as in `write_whole`. Raises BadInput.
    """
    delivery.check(format_)
    write, parts = format_.write, delivery.parts(shot)
    assert write is not None
    losses: list[Loss | None] = []
    write_whole(path, lambda file: losses.append(write(shot, delivery, parts, file)), mode)
    return losses[-1]

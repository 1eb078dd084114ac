"""Inputs of a number during sampling: the frames, their time, and values by name (dials, path attributes)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from zittern.core.formula.tree import AXIS_NAME, FRAME_ALIAS
from zittern.core.timebase import Fps
from zittern.core.units import Array

__all__ = ["Scope", "Tables"]

# (stage, parts, make) -> array.
Tables = Callable[[str, tuple[object, ...], Callable[[], Array]], Array]


@dataclass(frozen=True, slots=True)
class Scope:
    """frames: (F,) shot frames, may be fractional.

    span: the frames for the number's progress. later_frames: the delay of its clock relative to the shot's. axis: 1 +
    index of the axis that the number is for, 0 for none. values: functions by name that return the value at any frames,
    (F,) -> (F,); the creator of a scope adds those that exist at that stage. A number says by `reads` which of them it
    needs. tables: memoizes an array of the whole shot in the cache of the evaluation; missing outside an evaluation.
    """

    frames: Array
    fps: Fps
    first_frame: float
    span: tuple[float, float] = (0.0, 0.0)
    later_frames: float = 0.0
    axis: int = 0
    values: Mapping[str, Callable[[Array], Array]] = field(default_factory=dict)
    tables: Tables | None = field(default=None, compare=False, repr=False)
    # Values computed for this scope: every formula reads its time.
    _made: dict[str, Array] = field(init=False, compare=False, default_factory=dict)

    @property
    def seconds(self) -> Array:
        """Time from the shot's first frame, on the number's clock; read-only.

        Returns
        -------
        (F,) float64, seconds.
        """
        if "seconds" not in self._made:
            seconds = self.fps.seconds(self.frames, self.first_frame + self.later_frames)
            seconds.flags.writeable = False
            self._made["seconds"] = seconds
        return self._made["seconds"]

    @property
    def progress(self) -> Array:
        """Return the progress through the span.

        Returns
        -------
        (F,) in 0..1.
        """
        first, last = self.span
        return np.clip((self.frames - first) / max(last - first, _LEAST_SPAN_FRAMES), 0.0, 1.0)

    def value(self, name: str) -> Array:
        """Return the value of a name at the scope's frames. Raises KeyError for what does not exist at this stage.

        Returns
        -------
        (F,), or one for all.
        """
        if name == FRAME_ALIAS and name not in self.values:
            name = "f"
        if name in _OWN:
            return _OWN[name](self)
        return self.values[name](self.frames)

    def table(self, stage: str, parts: tuple[object, ...], make: Callable[[], Array]) -> Array:
        """Return an array of the whole shot, from the cache where there is one; read-only.

        Parameters
        ----------
        parts: all that the array is computed from: documents and plain values.

        Returns
        -------
        (N, ...), of any shape.
        """
        return make() if self.tables is None else self.tables(stage, parts, make)

    def with_clock(self, span: tuple[float, float], later_frames: float = 0.0) -> Scope:
        """Return the scope with another span for the progress and another clock."""
        same = span == self.span and later_frames == self.later_frames
        return self if same else replace(self, span=span, later_frames=later_frames)

    def on_axis(self, index: int) -> Scope:
        """Return the scope for a number of an axis: noise without a seed differs by axis."""
        return replace(self, axis=index + 1)

    def over(self, frames: Array) -> Scope:
        """Return the scope at other frames.

        Parameters
        ----------
        frames : (F,) float64, frame numbers.

        Returns
        -------
        A scope.
        """
        return replace(self, frames=np.asarray(frames, dtype=np.float64))


# A span of a single frame ends immediately.
_LEAST_SPAN_FRAMES = 1e-6
_OWN: Mapping[str, Callable[[Scope], Array]] = {
    "t": lambda scope: scope.seconds,
    "f": lambda scope: scope.frames - scope.later_frames if scope.later_frames else scope.frames,
    "fps": lambda scope: np.asarray(scope.fps.value),
    "u": lambda scope: scope.progress,
    AXIS_NAME: lambda scope: np.asarray(float(scope.axis)),
}

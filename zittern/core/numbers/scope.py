"""What a number may look at while it is sampled: the frames, their time, and values by name (dials, facts of the path)."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from zittern.core.timebase import Fps
from zittern.core.units import Array

__all__ = ["Scope"]


@dataclass(frozen=True, slots=True)
class Scope:
    """frames: (F,) shot frames, fractional ones too. values: by name, each giving its value at any frames, (F,) -> (F,); whoever
    makes a scope puts there what exists at that stage. A number says by `reads` which of them it needs.
    """

    frames: Array
    fps: Fps
    first_frame: float
    values: Mapping[str, Callable[[Array], Array]] = field(default_factory=dict)

    @property
    def seconds(self) -> Array:
        """Time from the shot's first frame. (F,)."""
        return self.fps.seconds(self.frames, self.first_frame)

    def over(self, frames: Array) -> Scope:
        """The same at other frames."""
        return replace(self, frames=np.asarray(frames, dtype=np.float64))

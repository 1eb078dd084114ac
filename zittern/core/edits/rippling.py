"""Time edits as commands: the shot is retimed, and motion that follows the path keeps its phase."""

from __future__ import annotations

import numpy as np

from zittern.core.edits.parts import replace_layers
from zittern.core.motion.cache import Cache
from zittern.core.motion.steps import stepping_inputs
from zittern.core.shot.layers import Layer
from zittern.core.shot.reads import reads_of
from zittern.core.shot.shot import Shot
from zittern.core.timing.ripple import Runs, rippled
from zittern.core.timing.time_map import TimeMap

__all__ = ["with_time_edit"]


def with_time_edit(shot: Shot, timing: TimeMap, runs: Runs) -> Shot:
    """Carry a shot through an edit of time.

    Motion that follows the path keeps its phase, even where the path before it changes.
    """
    made = rippled(shot, timing, runs)
    clips = {clip.id: clip for clip in made.shot.clips()}
    cache, changed = Cache(), dict[str, tuple[Layer, ...]]()
    for clip, name in made.moved:
        moved = clips.get(name)
        if moved is None:
            continue
        # Right at the cut the speed is measured over both sides.
        frame = max(made.stop, shot.span_of(clip)[0]) + 1.0
        for layer, later in zip(clip.layers, moved.layers, strict=True):
            rate = layer.source.counted
            if rate is None or not (reads_of(rate) | reads_of(layer.speed) | reads_of(clip.speed)):
                continue
            was = stepping_inputs(shot, clip, layer, cache).beat_at(rate, np.array([frame]))
            now = stepping_inputs(made.shot, moved, later, cache).beat_at(rate, np.array([frame + made.later_frames]))
            offset = layer.phase_offset + float(was[0] - now[0])
            changed[later.id] = (later.replace(phase_offset=offset),)
    return replace_layers(made.shot, changed)

"""Edits of time as commands make them: the shot is carried, and motion that follows the path keeps its phase."""

from __future__ import annotations

import numpy as np

from zittern.core.edits.parts import replace_layers
from zittern.core.motion import layers as layer_motion
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluation import Evaluation
from zittern.core.motion.facts import with_facts
from zittern.core.shot.layers import Layer
from zittern.core.shot.reads import reads_of
from zittern.core.shot.shot import Shot
from zittern.core.timing.ripple import Runs, rippled
from zittern.core.timing.time_map import TimeMap

__all__ = ["with_time_edit"]


def with_time_edit(shot: Shot, timing: TimeMap, runs: Runs) -> Shot:
    """Carry a shot through an edit of time. Motion that follows the path keeps its phase, even where the path before it
    changes.
    """
    made = rippled(shot, timing, runs)
    before, after = (_counting(each) for each in (shot, made.shot))
    clips = {clip.id: clip for clip in made.shot.clips()}
    changed: dict[str, tuple[Layer, ...]] = {}
    for clip, name in made.moved:
        moved = clips.get(name)
        pairs = zip(clip.layers, moved.layers, strict=True) if moved is not None else ()
        for layer, later in pairs:
            rate = layer.source.counted
            if rate is None or not (reads_of(rate) | reads_of(layer.speed) | reads_of(clip.speed)):
                continue
            # Right at the cut the speed is measured over both sides.
            frame = max(made.stop, shot.span_of(clip)[0]) + 1.0
            was = layer_motion.inputs_of(before, clip, layer, ("pedestal",)).beat_at(rate, np.array([frame]))
            now = layer_motion.inputs_of(after, moved, later, ("pedestal",)).beat_at(  # type: ignore[arg-type]
                rate, np.array([frame + made.later_frames])
            )
            offset = layer.phase_offset + float(was[0] - now[0])
            changed[later.id] = (later.replace(phase_offset=offset),)
    return replace_layers(made.shot, changed)


def _counting(shot: Shot) -> Evaluation:
    run = Evaluation(shot, np.array([float(shot.first_frame)]), Cache())
    with_facts(run)
    return run

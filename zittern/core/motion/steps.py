"""When the steps of layers that have some fall: for marks on their rows, and for moving them."""

from __future__ import annotations

import numpy as np

from zittern.core.documents.doc import Doc
from zittern.core.motion import facts, layers
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluation import Evaluation
from zittern.core.shot.clips import Clip
from zittern.core.shot.layers import Layer
from zittern.core.shot.shot import Shot
from zittern.core.sources.source import Inputs
from zittern.core.sources.stepping import Stepping

__all__ = ["MOST_MARKS", "StepMark", "step_marks", "stepping_inputs"]

# Maximum number of marks per row; of a long shot only the view is searched.
MOST_MARKS = 1_500


class StepMark(Doc):
    """A step: its number from the start, its frame, and whether it was moved or muted."""

    number: int
    frame: float
    moved: bool
    mute: bool


def stepping_inputs(
    shot: Shot, clip: Clip, layer: Layer, cache: Cache | None = None, window: tuple[float, float] | None = None
) -> Inputs:
    """Return the inputs of the steps of a layer, at the ends of its active range, within a window of frames."""
    first, last = layer.span_frames or clip.span_frames or shot.span
    low, high = window or (first, last)
    start = min(max(first, shot.first_frame, low), float(shot.last_frame))
    ends = np.array([start, max(min(last, shot.last_frame, high), start)], dtype=np.float64)
    run = Evaluation(shot, ends, cache if cache is not None else Cache())
    facts.with_facts(run)
    return layers.inputs_of(run, clip, layer, ("pedestal",))


def step_marks(
    shot: Shot, cache: Cache | None = None, window: tuple[float, float] | None = None
) -> dict[str, tuple[StepMark, ...]]:
    """Return the steps of all layers that have them, by layer id, in order of time.

    Those within a window of frames, if given.
    """
    out: dict[str, tuple[StepMark, ...]] = {}
    for clip, layer in shot.layers():
        if not isinstance(layer.source, Stepping):
            continue
        numbers, frames = layer.source.times(stepping_inputs(shot, clip, layer, cache, window))
        edits = {step.number: step for step in layer.source.steps}
        # Moved and muted ones are included, regardless of the number of others.
        shown = (np.arange(len(numbers)) < MOST_MARKS) | np.isin(numbers, list(edits))
        rows = zip(numbers[shown].tolist(), frames[shown].tolist(), strict=True)
        out[layer.id] = tuple(
            StepMark(number=n, frame=at, moved=n in edits and edits[n].later != 0.0, mute=n in edits and edits[n].mute)
            for n, at in rows
        )
    return out

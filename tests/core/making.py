"""Shots and commands for tests."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
from pydantic import TypeAdapter

from zittern.core.axes import Axis
from zittern.core.edits.table import Command, apply
from zittern.core.motion.evaluate import evaluate
from zittern.core.numbers.param import fixed
from zittern.core.numbers.scope import Scope
from zittern.core.presets.preset import Preset
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.shot import Shot, new_shot
from zittern.core.sources.noise import Noise
from zittern.core.sources.source import SourceDoc
from zittern.core.sources.wave import Wave
from zittern.core.timebase import Fps
from zittern.core.units import Array
from zittern.store.shipped import shipped_rigs

_COMMAND: TypeAdapter[Command] = TypeAdapter(Command)

ALL_SWINGS = {"pan": 0.5, "tilt": 0.4, "roll": 0.3, "truck": 1.0, "pedestal": 0.8, "dolly": 0.6, "zoom": 2.0,
              "shift_x": 0.5, "shift_y": 0.4, "focus": 3.0}  # fmt: skip


def over(frames: Array | list[float] | float, first_frame: float = 1.0) -> Scope:
    """A scope at some frames, 24 a second."""
    return Scope(np.atleast_1d(np.asarray(frames, dtype=np.float64)), Fps(num=24), first_frame)


def use_rig(name: str) -> dict[str, Any]:
    """The command that puts a rig that ships into a shot."""
    return {"type": "use_rig", "rig": shipped_rigs()[name].model_dump(mode="json")}


def command(**fields: object) -> Command:
    """A command from its fields."""
    return _COMMAND.validate_python(fields)


def edited(shot: Shot, *commands: dict[str, object]) -> Shot:
    """A shot after some commands."""
    for fields in commands:
        shot = apply(shot, command(**fields))
    return shot


def layer(
    id_: str = "sway",
    source: SourceDoc | None = None,
    seed: int = 1,
    swings: dict[str, float] | None = None,
    **fields: object,
) -> Layer:
    """A layer with fixed swings."""
    board = AxisBoard.swings(**(ALL_SWINGS if swings is None else swings))
    return Layer.model_validate(
        {"id": id_, "name": id_.title(), "source": source or Noise(), "seed": seed, "axes": board, **fields}
    )


def shot_with(*layers: Layer, clip: dict[str, object] | None = None, **fields: object) -> Shot:
    """A shot with one clip of layers."""
    return new_shot(
        "Test",
        **{
            "lanes": (
                Lane.of(Clip.model_validate({"id": "main", "name": "Whole shot", "layers": layers, **(clip or {})})),
            ),
            **fields,
        },
    )


def contribution(shot: Shot, id_: str = "sway", frames: Array | None = None) -> Array:
    """What a layer gives. (F, A)."""
    return evaluate(shot, frames).layers[id_]


def rms(values: Array) -> Array:
    """Root mean square down the rows."""
    return np.asarray(np.sqrt(np.mean(values * values, axis=0)))


def three_layers() -> Preset:
    """A preset of steps, sway and arms, as presets are saved."""
    steps = layer("step", Wave(rate_hz=fixed(2.8)), 0, {"pedestal": 4.5, "tilt": 0.7}).replace(name="Steps")
    stride = layer("stride", Wave(rate_hz=fixed(1.4)), 0, {"truck": 4.0, "roll": 1.1}).replace(name="Side to side")
    hand = layer(
        "hand", Noise(rate_hz=fixed(1.4), octaves=3), 0, {"pan": 0.9, "tilt": 0.6, "roll": 0.5, "dolly": 2.0}
    ).replace(name="Arms")
    return Preset(name="Run", tags=("run",), layers=(steps, stride, hand))


def moved_px(axis: Axis, swing: float, focal_mm: float, distance_m: float) -> float:
    """Picture motion by a swing in a picture of 1920 x 1080 on 36 mm, case by case."""
    f_px, swing = focal_mm / 36.0 * 1920.0, abs(swing)
    if axis in ("pan", "tilt"):
        return f_px * math.tan(math.radians(swing))
    if axis == "roll":
        return 960.0 * math.tan(math.radians(swing))
    if axis in ("truck", "pedestal"):
        return f_px * swing / 100.0 / distance_m
    if axis == "dolly":
        return 960.0 * swing / 100.0 / distance_m
    return {"zoom": 9.6, "shift_x": 19.2, "shift_y": 10.8, "focus": 0.0}[axis] * swing

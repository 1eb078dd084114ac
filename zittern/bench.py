"""`zittern bench`: times of the core, absolute and as ratios taken in one run."""

from __future__ import annotations

import platform
import time
from collections.abc import Callable, Iterator
from typing import Literal

import numpy as np
from pydantic import TypeAdapter

from zittern.core.checks.table import check
from zittern.core.edits.formulas import FormulaText, SetFormula
from zittern.core.edits.plates import HangPlates, Hung
from zittern.core.edits.recording import thinned
from zittern.core.edits.table import Command, apply
from zittern.core.edits.values import Assignment, SetValues
from zittern.core.motion.cache import Cache
from zittern.core.motion.evaluate import evaluate, evaluate_in_parts
from zittern.core.motion.sampled import sample
from zittern.core.numbers.param import fixed, keyed
from zittern.core.plates.coverage import A_LOOK, uncovered_px
from zittern.core.readings.point_readings import read
from zittern.core.readings.streams import streamed
from zittern.core.readings.swatches import swatch
from zittern.core.shot.blends import Blend, Corner
from zittern.core.shot.clips import Clip
from zittern.core.shot.glass import Glass
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.mounts import Mount
from zittern.core.shot.operator import Operator
from zittern.core.shot.shot import Shot, Subject, new_shot
from zittern.core.shot.springs import Springs
from zittern.core.sources.noise import Noise
from zittern.core.timebase import frame_grid
from zittern.formats.table import written
from zittern.store.shipped import shipped_presets, shipped_rigs

__all__ = ["big_shot", "run"]

FRAMES, LAYERS, AXES, OCTAVES = 1000, 12, 7, 4
DRAGGED_FRAMES, DRAGGED_LAYERS = 2000, 20
LONG_FRAMES = 100_000
SWATCHES = 6


def run(rounds: int = 9) -> dict[str, object]:
    """Return the best of some rounds.

    The baseline is timed in the same rounds, so that ratios hold on a busy machine.
    """
    shot, long = big_shot(FRAMES), big_shot(FRAMES * 10)
    samples = np.linspace(0.0, 1000.0, FRAMES * LAYERS * AXES * OCTAVES)
    cache = Cache()
    evaluate(shot, cache=cache)
    turn = iter(range(1, 10_000))
    motion = evaluate(shot)
    by_text, bare = _by_formula(shot), _before_a_plate(shot)
    bent = bare.replace(glass=Glass(k1=fixed(-0.12), k2=fixed(0.03)))
    bent_motion, lasting = (
        evaluate(bent),
        [each for each in shipped_presets().values() if each.length_s is None][:SWATCHES],
    )
    to_and_fro = np.arange(100_000.0), np.arange(100_000) % 2 * np.linspace(1.0, 2.0, 100_000)
    best = _best(
        {
            "sin": lambda: np.sin(samples),
            "full": lambda: evaluate(shot),
            "formulas": lambda: evaluate(by_text),
            "one_layer": lambda: evaluate(_with_seed(shot, next(turn)), cache=cache),
            "ten_times_frames": lambda: evaluate(long),
            "export_glb": lambda: written("glb", shot, motion),
            "recorded": lambda: thinned(*to_and_fro, 0.01),
            "checks": lambda: check(shot),
            "coverage": lambda: uncovered_px(bare, motion, A_LOOK, fine=False),
            "bent_coverage": lambda: uncovered_px(bent, bent_motion, A_LOOK, fine=False),
            "swatches": lambda: [swatch(shot, each) for each in lasting],
        },
        rounds,
    )
    return {
        **_rig(rounds),
        **_drag(rounds),
        **_long(min(rounds, 2)),
        **_blend(rounds),
        "machine": f"{platform.machine()}, Python {platform.python_version()}, numpy {np.__version__}",
        "shot": f"{FRAMES} frames x {LAYERS} layers x {AXES} axes x {OCTAVES} octaves",
        "full_ms": round(best["full"], 2),
        "sin_ms": round(best["sin"], 2),
        "full_to_sin": round(best["full"] / best["sin"], 2),
        "full_to_sin_aim": 3.5,
        "formulas_ms": round(best["formulas"], 2),
        "formulas_to_full": round(best["formulas"] / best["full"], 2),
        "formulas_to_full_aim": 1.3,
        "one_layer_ms": round(best["one_layer"], 2),
        "one_layer_to_full": round(best["one_layer"] / best["full"], 3),
        "one_layer_to_full_aim": 0.125,
        "ten_times_frames_ms": round(best["ten_times_frames"], 2),
        "growth": round(best["ten_times_frames"] / best["full"], 2),
        "growth_aim": 11,
        "export_glb_ms": round(best["export_glb"], 2),
        "recorded_100000_ms": round(best["recorded"], 1),
        "recorded_100000_ms_aim": 1000,
        "coverage_ms": round(best["coverage"], 1),
        "coverage_distorted_ms": round(best["bent_coverage"], 1),
        "coverage_distorted_to_plain": round(best["bent_coverage"] / best["coverage"], 2),
        "coverage_distorted_to_plain_aim": 3,
        "swatches": len(lasting),
        "swatches_ms": round(best["swatches"], 1),
        "checks_ms": round(best["checks"], 1),
        "checks_to_full": round(best["checks"] / best["full"], 2),
        "checks_to_full_aim": 3,
    }


def _before_a_plate(shot: Shot) -> Shot:
    """Return a shot with a plate that is too small in most of its frames."""
    hung = Hung(name="Sky", picture="0" * 64, width_px=1920, height_px=1080)
    return HangPlates(plates=(hung,), overscan_percent=0.0).apply(shot)


def _drag(rounds: int) -> dict[str, object]:
    """Return the core's part of an answer while a number is dragged.

    The command, motion, readings, and the arrays that differ from those before.
    """
    shot, cache, turn = big_shot(DRAGGED_FRAMES, DRAGGED_LAYERS), Cache(), iter(range(1, 10_000))
    have: dict[str, str] = {}

    def drag() -> None:
        value = 0.4 + 1e-4 * next(turn)
        tried = SetValues(values=(Assignment(at="layer:layer-3.axes.pan.swing", value=value),)).apply(shot)
        found = sample(tried, 1.0, None, cache)
        read(tried, found.near, 1.0, found.whole, cache, passing=True)
        for each in streamed(tried, found):
            if have.get(each.name) != each.array.tag:
                np.ascontiguousarray(each.array.values, dtype="<f4").tobytes()
                have[each.name] = each.array.tag

    drag()
    return {
        "drag": f"{DRAGGED_FRAMES} frames x {DRAGGED_LAYERS} layers",
        "drag_ms": round(_best({"drag": drag}, rounds)["drag"], 2),
        "drag_ms_aim": 10,
    }


def _long(rounds: int) -> dict[str, object]:
    """Time shots of 100,000 frames, and edits of the rig against a full evaluation."""
    long, rig = big_shot(LONG_FRAMES), rig_shot(FRAMES)
    sprung = long.replace(
        mounts=(Mount(id="camera", name="Camera", x_m=keyed((1, 0.0), (LONG_FRAMES, 10.0)), springs=Springs()),)
    )
    pivot = TypeAdapter(Command).validate_python(
        {"type": "set_pivot", "mount": rig.mounts[-1].id, "pivot_m": [0.0, 0.1, 0.2]}
    )
    ready = TypeAdapter(Command).validate_python({"type": "use_rig", "rig": shipped_rigs()["shoulder"]})
    best = _best(
        {
            "long": lambda: evaluate(long), "sprung": lambda: evaluate(sprung), "rig": lambda: evaluate(rig),
            "pivot": lambda: apply(rig, pivot),
            "use": lambda: apply(rig, ready),
        },
        rounds,
    )  # fmt: skip
    return {
        "long_100000_s": round(best["long"] / 1e3, 2),
        "long_100000_s_aim": 2,
        "long_100000_springs_s": round(best["sprung"] / 1e3, 2),
        "long_100000_springs_s_aim": 4,
        "set_pivot_to_full": round(best["pivot"] / best["rig"], 1),
        "use_rig_to_full": round(best["use"] / best["rig"], 1),
        "rig_command_to_full_aim": 3,
    }


def _blend(rounds: int) -> dict[str, object]:
    """Return four corners of five layers with a keyed position, and the same layers without a blend."""
    names = ("one", "two", "three", "four")
    plain = big_shot(FRAMES, len(names) * 5)
    clip = next(plain.clips())
    stood = tuple(layer.replace(corner=names[n % len(names)]) for n, layer in enumerate(clip.layers))

    def blended(method: Literal["mix", "morph"]) -> Shot:
        across, up = keyed((1, 0.0), (FRAMES, 100.0)), keyed((1, 100.0), (FRAMES / 2, 0.0), (FRAMES, 60.0))
        corners = tuple(Corner(id=name, name=name) for name in names)
        blend = Blend(method=method, corners=corners, across_percent=across, up_percent=up)
        return plain.replace(lanes=(Lane.of(clip.replace(layers=stood, blend=blend)),))

    mix, morph = blended("mix"), blended("morph")
    best = _best(
        {"plain": lambda: evaluate(plain), "mix": lambda: evaluate(mix), "morph": lambda: evaluate(morph)}, rounds
    )
    return {
        "blend": "four corners of five layers, a keyed place",
        "mix_to_plain": round(best["mix"] / best["plain"], 2),
        "morph_to_plain": round(best["morph"] / best["plain"], 2),
        "blend_to_plain_aim": 1.3,
    }


def _best(work: dict[str, Callable[[], object]], rounds: int) -> dict[str, float]:
    """Return the smallest time of each in milliseconds, measured in turns."""
    best = dict.fromkeys(work, float("inf"))
    for _ in range(rounds):
        for name, do in work.items():
            start = time.perf_counter()
            do()
            best[name] = min(best[name], (time.perf_counter() - start) * 1e3)
    return best


def big_shot(frames: int, layers: int = LAYERS) -> Shot:
    """Return a shot of noise layers on seven axes."""
    swings = AxisBoard.swings(pan=0.5, tilt=0.4, roll=0.3, truck=1.0, pedestal=1.0, dolly=1.0, zoom=1.0)
    stack = tuple(
        Layer(id=f"layer-{i}", name=f"Layer {i}", seed=i, source=Noise(octaves=OCTAVES), axes=swings)
        for i in range(layers)
    )
    return new_shot("Bench", last_frame=frames, lanes=(Lane.of(Clip(id="main", name="Whole shot", layers=stack)),))


def _rig(rounds: int) -> dict[str, object]:
    """Return a shot with five mounts, two of them in springs, operator, gait, road, three hits.

    The whole, and an edit of one number, each of several, the slowest of them.
    """
    shot, long = rig_shot(FRAMES), rig_shot(FRAMES * 100)
    cache = Cache()
    evaluate(shot, cache=cache)
    turn = iter(range(1, 10_000))
    edits = {at: _retyped(shot, at, cache, turn) for at in _EDITED}
    best = _best({"full": lambda: evaluate(shot), **edits}, rounds)
    growth = _best(
        {
            "full": lambda: evaluate(shot),
            "long": lambda: sum(len(part.frames) for part in evaluate_in_parts(long, frame_grid(1, FRAMES * 100))),
        },
        1,
    )
    slowest = max(best[at] for at in _EDITED)
    return {
        "rig": "five mounts, springs on two, operator, gait, road, three hits",
        "rig_ms": round(best["full"], 1),
        "rig_ms_aim": 90,
        "rig_edit_ms": {at: round(best[at], 1) for at in _EDITED},
        "rig_edit_to_full": round(slowest / best["full"], 3),
        "rig_edit_to_full_aim": 0.25,
        "rig_growth_100": round(growth["long"] / best["full"], 1),
        "rig_growth_100_aim": 110,
    }


# Numbers that are edited: a swing and a step rate, springs, the operator, a key of the move behind the springs.
_EDITED = (
    "layer:hit-1.weight",
    "layer:gait-1.weight",
    "mount:body.springs.shift_damping",
    "mount:head.operator.reaction_s",
    "mount:lens.roll_deg",
)


def _retyped(shot: Shot, at: str, cache: Cache, turn: Iterator[int]) -> Callable[[], object]:
    return lambda: evaluate(
        SetValues(values=(Assignment(at=at, value=0.4 + 1e-4 * next(turn)),)).apply(shot), cache=cache
    )


def rig_shot(frames: int) -> Shot:
    """Return a shot of a rig with everything on it."""
    springs = Springs(shift_hz=1.3, turn_hz=1.6)
    mounts = (
        Mount(
            id="walker",
            name="Walker",
            x_m=keyed((1, 0.0), (frames, 20.0)),
            pan_deg=keyed((1, 0.0), (frames / 2, 60.0), (frames, 0.0)),
        ),
        Mount(id="body", name="Body", kind="free", y_m=fixed(1.4), springs=springs),
        Mount(id="arm", name="Arm", kind="arm", length_m=fixed(0.4), springs=springs.replace(shift_hz=0.8)),
        Mount(id="head", name="Head", kind="head", operator=Operator()),
        Mount(id="lens", name="Lens", kind="lens"),
    )
    shot = new_shot("Rig", last_frame=frames, mounts=mounts, subject=Subject.at("Post", (6.0, 1.5, -9.0)))
    hits = [{"frame": frames * share, "name": "Hit"} for share in (0.2, 0.5, 0.8)]
    commands: list[dict[str, object]] = [
        {"type": "add_cues", "cues": hits},
        {"type": "add_layer", "source": "gait"},
        {"type": "add_layer", "source": "road"},
        {"type": "add_layer", "source": "hit"},
        {
            "type": "set_values",
            "values": [{"at": f"layer:{each}-1.target", "value": "walker"} for each in ("gait", "road")],
        },
        {"type": "set_values", "values": [{"at": "layer:gait-1.source.follows", "value": "the path"}]},
    ]
    for command in commands:
        shot = apply(shot, TypeAdapter(Command).validate_python(command))
    return shot


def _by_formula(shot: Shot) -> Shot:
    """Return the shot with a different formula for every swing."""
    texts = [
        FormulaText(at=f"layer:{layer.id}.axes.{axis}.swing", text=f"{0.5 + 0.01 * i} + 0.1 * sin({1 + n} * t)")
        for i, (_, layer) in enumerate(shot.layers())
        for n, axis in enumerate(layer.moving_axes)
    ]
    return SetFormula(formulas=tuple(texts)).apply(shot)


def _with_seed(shot: Shot, seed: int) -> Shot:
    clip = next(shot.clips())
    first, *rest = clip.layers
    return shot.replace(lanes=(Lane.of(clip.replace(layers=(first.replace(seed=1000 + seed), *rest))),))

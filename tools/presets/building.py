"""Building blocks of shipped presets: one call per layer."""

from __future__ import annotations

from zittern.core.numbers.param import Number, fixed
from zittern.core.presets.feel import HIP_M, SHOULDER_M, WRIST_M
from zittern.core.presets.preset import Preset
from zittern.core.shot.dials import Dial
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.sources.breath import Breath
from zittern.core.sources.gait import Gait
from zittern.core.sources.hit import Hit
from zittern.core.sources.noise import Noise
from zittern.core.sources.source import SourceDoc

__all__ = ["beats", "breath", "dial", "layer", "noise", "steps", "with_body_levers"]

_ONE = fixed(1.0)
# Tags of presets in which a person holds the camera, and the joint that each of their layers turns, by the start of its
# id.
_HELD_TAGS = frozenset({"hand", "walk", "run"})
_LEVERS_M = {"sway": SHOULDER_M, "hold": SHOULDER_M, "hand": WRIST_M, "muscle": WRIST_M, "steps": HIP_M}


def dial(name: str, value: float) -> Dial:
    """Return a dial in percent."""
    return Dial(name=name, unit="%", value=fixed(value))


def layer(id_: str, name: str, source: SourceDoc, weight: Number = _ONE, /, **swings: float) -> Layer:
    """Return a layer with fixed swings."""
    return Layer.model_validate(
        {"id": id_, "name": name, "source": source, "seed": 0, "axes": AxisBoard.swings(**swings), "weight": weight}
    )


def with_body_levers(preset: Preset) -> Preset:
    """Return a preset whose layers turn about the joints of the person who holds the camera, if any."""
    if not _HELD_TAGS & set(preset.tags):
        return preset
    levers = [_LEVERS_M.get(each.id.partition("-")[0], each.lever_m) for each in preset.layers]
    turned = (each.replace(lever_m=lever) for each, lever in zip(preset.layers, levers, strict=True))
    return preset.replace(layers=tuple(turned))


def noise(id_: str, name: str, rate_hz: float, octaves: int = 2, weight: Number = _ONE, **swings: float) -> Layer:
    """Noise, at a rate in Hz."""
    return layer(id_, name, Noise(rate_hz=fixed(rate_hz), octaves=octaves, persistence=fixed(0.45)), weight, **swings)


def steps(cadence_hz: float, surface: str = "firm", way: str = "walk", /, **swings: float) -> Layer:
    """Up and down once a step, from side to side once in two."""
    source = Gait.model_validate({"way": way, "cadence_hz": fixed(cadence_hz), "surface": surface})
    return layer("steps", "Steps", source, **swings)


def beats(
    id_: str, name: str, ring_hz: float, settle_s: float, rhythm_hz: float, weight: Number, **swings: float
) -> Layer:
    """Return hits without a recognizable rhythm, each with its ringing: irregular and different each time."""
    source = Hit(
        ring_hz=fixed(ring_hz),
        settle_s=fixed(settle_s),
        answers="no cues",
        at_start=False,
        rhythm_hz=fixed(rhythm_hz),
        uneven=fixed(1.0),
    )
    return layer(id_, name, source, weight, **swings)


def breath(a_minute: float, exertion: float, **swings: float) -> Layer:
    """Return breathing with this many breaths per minute."""
    return layer("breath", "Breath", Breath(rate_hz=fixed(a_minute / 60), exertion=fixed(exertion)), **swings)

"""Presets that ship and are blends: one motion to go between, with the place as a dial."""

from __future__ import annotations

from tools.presets.building import breath, dial, layer, noise, steps
from zittern.core.numbers.param import Number, by_formula, fixed
from zittern.core.presets.preset import Preset
from zittern.core.shot.blends import Blend, Corner
from zittern.core.shot.layers import Layer
from zittern.core.sources.drift import Drift
from zittern.core.sources.road import Road
from zittern.core.sources.tremor import Tremor

__all__ = ["BLENDS"]

_MIDDLE = fixed(50.0)


def _in(corner: str, *layers: Layer) -> tuple[Layer, ...]:
    """Return layers in a corner, with separate ids."""
    return tuple(each.replace(id=f"{each.id}-{corner}", corner=corner) for each in layers)


def _corners(**names: str) -> tuple[Corner, ...]:
    return tuple(Corner(id=corner, name=name) for corner, name in names.items())


def _by(text: str) -> Number:
    return by_formula(text, _MIDDLE)


BLENDS: tuple[Preset, ...] = (
    Preset(
        name="Stand to walk to run",
        tags=("hand", "walk", "run"),
        line="One body from standing through a walk to a run: the dial pace follows two edges of a triangle.",
        dials=(dial("pace", 70.0),),
        blend=Blend(
            method="morph",
            corners=_corners(stand="Stand", walk="Walk", run="Run"),
            across_percent=_by(
                "if pace < 50 then mix(50, 6.6987, pace / 50) else mix(6.6987, 93.3013, pace / 50 - 1)"
            ),
            up_percent=_by("mix(100, 25, clamp(pace / 50, 0, 1))"),
        ),
        layers=(
            *_in(
                "stand",
                steps(1.2, pedestal=0.05, truck=0.2, roll=0.02, tilt=0.01, pan=0.01, dolly=0.05),
                noise("hand", "Hand", 0.7, pan=0.3, tilt=0.22, roll=0.12, dolly=0.6),
            ),
            *_in(
                "walk",
                steps(1.9, pedestal=2.4, truck=2.4, roll=0.45, tilt=0.26, pan=0.18, dolly=0.7),
                noise("hand", "Hand", 0.9, pan=0.45, tilt=0.32, roll=0.18, dolly=1.0),
            ),
            *_in(
                "run",
                steps(2.8, pedestal=4.4, truck=3.8, roll=1.0, tilt=0.65, pan=0.38, dolly=1.2),
                noise("hand", "Hand", 1.5, pan=0.9, tilt=0.6, roll=0.5, dolly=1.6),
            ),
        ),
    ),
    Preset(
        name="Calm to alarmed",
        tags=("hand", "tense", "breath"),
        line="Calm hands, then afraid: faster, larger, out of breath, with a tremor.",
        dials=(dial("alarm", 50.0),),
        blend=Blend(
            method="morph", corners=_corners(calm="Calm", alarmed="Alarmed"), across_percent=_by("alarm")
        ),
        layers=(
            *_in(
                "calm",
                layer("sway", "Sway", Drift(rate_hz=fixed(0.14)), pan=0.35, tilt=0.25, roll=0.15, truck=0.9, dolly=0.6),
                noise("hand", "Hand", 0.9, pan=0.14, tilt=0.12, roll=0.08),
                breath(13, 0.2, pedestal=0.5, tilt=0.08),
            ),
            *_in(
                "alarmed",
                layer("sway", "Sway", Drift(rate_hz=fixed(0.45)), pan=0.7, tilt=0.5, roll=0.4, truck=1.6, dolly=1.0),
                noise("hand", "Hand", 2.6, pan=0.5, tilt=0.45, roll=0.35),
                breath(34, 0.8, pedestal=1.4, tilt=0.3),
                layer("nerves", "Nerves", Tremor(centre_hz=fixed(8.5)), pan=0.1, tilt=0.12, roll=0.06),
            ),
        ),
    ),
    Preset(
        name="Sound road to washboard",
        tags=("vehicle",),
        line="From good tarmac onto ripples and back: a mix of two grounds.",
        dials=(dial("ripples", 50.0),),
        blend=Blend(corners=_corners(sound="Sound road", washboard="Washboard"), across_percent=_by("ripples")),
        layers=(
            *_in(
                "sound",
                layer("road", "Road", Road(roughness="B", speed_m_s=fixed(14.0)), pedestal=2.4, tilt=0.3, roll=0.3),
                noise("wheel", "Steering", 0.25, 1, pan=0.25, truck=1.8),
            ),
            *_in(
                "washboard",
                layer(
                    "ground",
                    "Ground",
                    Road(roughness="C", speed_m_s=fixed(5.7), springs="hardly any", wheelbase_m=fixed(1.6)),
                    pedestal=0.5,
                    tilt=0.2,
                    roll=0.2,
                ),
                layer(
                    "ripples", "Ripples", Tremor(centre_hz=fixed(10.4), width_hz=fixed(0.5)), pedestal=0.8, tilt=0.7,
                    roll=0.4, pan=0.15,
                ),
            ),
        ),
    ),
)  # fmt: skip

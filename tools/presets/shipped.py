"""Builds the presets that ship. Run by `make presets`; a test compares the files with its result.

Reasons and measurements of each: docs/presets.md.
"""

from __future__ import annotations

import json
import re

from tools.presets.blends import BLENDS
from tools.presets.building import beats, breath, dial, layer, noise, steps, with_body_levers
from tools.presets.rigs import RIGS
from zittern.core.numbers.param import by_formula, fixed
from zittern.core.presets.files import ENDING, write_preset
from zittern.core.presets.preset import Preset
from zittern.core.sources.breath import Breath
from zittern.core.sources.drift import Drift
from zittern.core.sources.hit import Hit
from zittern.core.sources.road import Road
from zittern.core.sources.tremor import Tremor
from zittern.core.sources.wave import Wave
from zittern.store.shipped import FOLDER, INDEX, RIG_FILE, RIGS_DATA

__all__ = ["BUILT", "key_of", "main"]

_ONE = fixed(1.0)


# At rest at 20 %, exhausted at 100 %.
_BREATHS_HZ = by_formula("mix(16, 41, exhaustion / 100) / 60", _ONE)
_EXERTION = by_formula("clamp(0.15 + exhaustion / 100, 0, 1)", _ONE)
_SPENT = by_formula("0.2 + exhaustion / 100", _ONE)
_SEA = by_formula("sea / 40", _ONE)
_CROWD = by_formula("crowd / 50 * (0.3 + abs(noise(0.8 * t, 3)))", _ONE)
_SWELLING = by_formula("0.25 + 1.2 * smoothstep(0.2, 1, sin(tau * t / 5))", _ONE)


_PRESETS: tuple[Preset, ...] = (
    Preset(
        name="Shoulder, standing",
        tags=("hand", "calm"),
        line="A shoulder camera with the operator standing: slow sway, a little breath.",
        layers=(
            layer(
                "sway",
                "Sway",
                Drift(rate_hz=fixed(0.16)),
                pan=0.5,
                tilt=0.35,
                roll=0.2,
                truck=1.2,
                pedestal=0.4,
                dolly=0.8,
            ),
            noise("hand", "Hand", 1.1, pan=0.12, tilt=0.11, roll=0.08, pedestal=0.15),
            breath(14, 0.2, pedestal=0.5, tilt=0.08),
        ),
    ),
    Preset(
        name="Stand-off, long lens",
        tags=("hand", "long lens"),
        line="From far away: hardly any sway, but pulse and muscles show.",
        layers=(
            noise("hold", "Hold", 0.4, 1, pan=0.22, tilt=0.16, roll=0.05),
            layer("muscle", "Muscles", Tremor(), pan=0.05, tilt=0.06),
            layer("pulse", "Pulse", Wave(rate_hz=fixed(1.15), shape="pulse"), tilt=0.035),
        ),
    ),
    Preset(
        name="Careful walk",
        tags=("walk", "calm"),
        line="Small soft steps, knees bent, eyes on the frame.",
        layers=(
            steps(1.5, "soft", pedestal=1.3, truck=1.6, roll=0.25, tilt=0.1, pan=0.1, dolly=0.4),
            noise("hand", "Hand", 0.6, pan=0.35, tilt=0.25, dolly=0.8),
        ),
    ),
    Preset(
        name="Brisk walk",
        tags=("walk",),
        line="Two steps a second; the picture rocks and nods with them.",
        layers=(
            steps(2.0, pedestal=2.6, truck=2.6, roll=0.5, tilt=0.28, pan=0.2, dolly=0.8),
            noise("hand", "Hand", 0.9, pan=0.5, tilt=0.35, dolly=1.2),
        ),
    ),
    Preset(
        name="Run",
        tags=("run", "wild"),
        line="Nearly three steps a second, thrown from side to side.",
        layers=(
            steps(2.75, "hard", "run", pedestal=4.5, truck=4.0, roll=1.1, tilt=0.7, pan=0.4, dolly=1.2),
            noise("hand", "Arms", 1.4, 3, pan=0.9, tilt=0.6, roll=0.5, dolly=2.0),
        ),
    ),
    Preset(
        name="Crouched creep",
        tags=("walk", "tense"),
        line="Bent low, one slow step after the other, holding the breath between.",
        layers=(
            steps(0.8, "soft", pedestal=0.9, truck=2.4, roll=0.55, tilt=0.15, pan=0.3),
            layer("sway", "Balance", Drift(rate_hz=fixed(0.3)), pan=0.4, tilt=0.5, truck=1.5),
            layer("muscle", "Thighs", Tremor(centre_hz=fixed(8.0)), pedestal=0.05, tilt=0.07),
        ),
    ),
    Preset(
        name="Smooth road",
        tags=("vehicle", "calm"),
        line="A car on good tarmac: it floats on its springs, tires hum.",
        layers=(
            layer("road", "Road", Road(roughness="B", speed_m_s=fixed(16.0)), pedestal=2.6, tilt=0.32, roll=0.3),
            noise("wheel", "Steering", 0.25, 1, pan=0.25, truck=2.0),
        ),
    ),
    Preset(
        name="Washboard",
        tags=("vehicle", "wild"),
        line="Ripples across the track shake everything upright, ten times a second.",
        layers=(
            layer(
                "road",
                "Ground",
                Road(roughness="C", speed_m_s=fixed(5.7), springs="hardly any", wheelbase_m=fixed(1.6)),
                pedestal=0.5,
                tilt=0.2,
                roll=0.2,
            ),
            layer(
                "ripples",
                "Ripples",
                Tremor(centre_hz=fixed(10.4), width_hz=fixed(0.5)),
                pedestal=0.8,
                tilt=0.75,
                roll=0.4,
                pan=0.15,
            ),
            noise("rattle", "Rattle", 6.0, 1, pan=0.12, roll=0.15, truck=0.2),
        ),
    ),
    Preset(
        name="Small boat",
        tags=("water", "calm"),
        line="Rolling on a low swell: the horizon tips and comes back.",
        layers=(
            layer("roll", "Roll", Wave(rate_hz=fixed(0.24)), _SEA, roll=1.5, truck=1.6),
            layer("pitch", "Pitch", Wave(rate_hz=fixed(0.31)), _SEA, tilt=0.4, pedestal=1.8),
            noise("chop", "Chop", 0.9, 2, _SEA, roll=0.25, tilt=0.15, pan=0.2),
        ),
        dials=(dial("sea", 40.0),),
    ),
    Preset(
        name="Crowd jostle",
        tags=("hand", "wild"),
        line="Pushed from all sides, never at rest for long.",
        layers=(
            beats("push", "Shoulders", 1.1, 0.9, 0.9, _CROWD, truck=4.0, dolly=3.0, pan=1.1, roll=0.9),
            noise("give", "Giving way", 0.45, 2, weight=_CROWD, truck=2.2, dolly=1.6, pan=0.5),
            noise("hand", "Hand", 1.8, 2, pan=0.25, tilt=0.3, pedestal=0.8),
        ),
        dials=(dial("crowd", 50.0),),
    ),
    Preset(
        name="Startled",
        tags=("hand", "event"),
        length_s=2.5,
        line="A jolt that dies away within two seconds.",
        layers=(
            layer(
                "jolt",
                "Jolt",
                Hit(ring_hz=fixed(2.2), settle_s=fixed(1.1), answers="no cues"),
                pan=1.6,
                tilt=2.4,
                roll=0.9,
                pedestal=3.0,
                dolly=2.0,
            ),
            noise(
                "nerves", "Nerves", 3.2, 2, weight=by_formula("decay(4 * u, 1)", _ONE), pan=0.35, tilt=0.4, roll=0.25
            ),
        ),
    ),
    Preset(
        name="Exhausted breath",
        tags=("breath", "tense"),
        line="Out of breath: the chest lifts the camera, arms tremble.",
        layers=(
            layer(
                "breath",
                "Breath",
                Breath(rate_hz=_BREATHS_HZ, exertion=_EXERTION),
                _SPENT,
                pedestal=2.2,
                tilt=0.5,
                dolly=0.6,
                roll=0.12,
            ),
            layer("muscle", "Arms", Tremor(centre_hz=fixed(8.5)), _SPENT, pan=0.06, tilt=0.07),
            layer("sway", "Sway", Drift(rate_hz=fixed(0.25)), pan=0.3, truck=1.0),
        ),
        dials=(dial("exhaustion", 80.0),),
    ),
    Preset(
        name="Hovering machine",
        tags=("air", "calm"),
        line="Held in the air by rotors: it wanders, corrects itself and hums.",
        layers=(
            layer("wander", "Wandering", Drift(rate_hz=fixed(0.35)), truck=2.0, pedestal=1.6, dolly=2.5, pan=0.3),
            noise("correct", "Corrections", 1.6, 1, tilt=0.14, roll=0.12),
            layer("rotor", "Rotors", Tremor(centre_hz=fixed(11.0), width_hz=fixed(0.4)), roll=0.05, tilt=0.07),
        ),
    ),
    Preset(
        name="Engine hum",
        tags=("vehicle", "fine"),
        line="Bolted to an engine that idles: a fine even shiver.",
        layers=(
            layer(
                "idle",
                "Idling",
                Tremor(centre_hz=fixed(10.5), width_hz=fixed(0.3)),
                tilt=0.09,
                pan=0.05,
                roll=0.06,
                pedestal=0.08,
            ),
            noise("miss", "Missing", 0.8, 1, tilt=0.04, roll=0.03, pan=0.02),
        ),
    ),
    Preset(
        name="Rumble in waves",
        tags=("ground", "event"),
        line="Something large, far away: the ground swells and is quiet again.",
        layers=(
            beats("rumble", "Rumble", 5.5, 0.7, 6.0, _SWELLING, pedestal=0.7, tilt=0.22, roll=0.18, truck=0.5),
            beats("far", "Far away", 0.9, 1.4, 0.7, _ONE, tilt=0.14, pan=0.12, pedestal=0.6),
        ),
    ),
    Preset(
        name="Close tremor",
        tags=("ground", "wild"),
        line="The ground itself shakes, hard, across and up and down.",
        layers=(
            beats(
                "shake", "Ground", 4.2, 0.5, 5.0, _ONE, truck=2.4, pedestal=2.2, dolly=1.6, tilt=0.5, roll=0.6, pan=0.35
            ),
            beats("sway", "Sway", 1.1, 1.2, 1.4, _ONE, truck=2.6, dolly=1.4, roll=0.45),
        ),
    ),
    Preset(
        name="Thud",
        tags=("hit", "event"),
        length_s=2.0,
        line="Something heavy comes down: at the clip's start, and at every cue.",
        layers=(
            layer(
                "thud",
                "Thud",
                Hit(ring_hz=fixed(4.0), settle_s=fixed(0.6), same_way=True),
                pedestal=3.0,
                tilt=1.3,
                roll=0.4,
                dolly=0.8,
            ),
        ),
    ),
    Preset(
        name="Blow against the camera",
        tags=("hit", "event", "wild"),
        length_s=2.0,
        line="Struck from the side: it whips round and rings out, at every cue.",
        layers=(
            layer(
                "blow",
                "Blow",
                Hit(ring_hz=fixed(3.0), settle_s=fixed(0.55), falls="not at all"),
                pan=1.9,
                roll=1.3,
                tilt=0.8,
                truck=2.0,
            ),
            layer(
                "rattle",
                "Rattle",
                Hit(ring_hz=fixed(11.0), settle_s=fixed(0.3), falls="not at all"),
                pan=0.25,
                tilt=0.3,
                roll=0.2,
            ),
        ),
    ),
    Preset(
        name="Passing shock",
        tags=("hit", "event", "ground"),
        length_s=4.0,
        line="A wave through the ground lifts and tips the camera, and is gone.",
        layers=(
            layer(
                "wave",
                "Wave",
                Hit(ring_hz=fixed(1.3), settle_s=fixed(1.5), wave_m_s=fixed(120.0), same_way=True),
                pedestal=4.0,
                truck=2.5,
                tilt=0.9,
                roll=0.9,
            ),
            layer(
                "tail",
                "Tail",
                Hit(ring_hz=fixed(5.0), settle_s=fixed(2.2), wave_m_s=fixed(100.0)),
                pedestal=0.4,
                tilt=0.15,
                roll=0.12,
            ),
        ),
    ),
    Preset(
        name="Heavy stomp",
        tags=("hit", "walk", "event"),
        line="Something huge walks by: the ground jumps at each of its steps.",
        layers=(
            layer(
                "stomp",
                "Stomp",
                Hit(
                    ring_hz=fixed(3.6),
                    settle_s=fixed(0.5),
                    answers="no cues",
                    rhythm_hz=fixed(0.75),
                    uneven=fixed(0.25),
                    same_way=True,
                ),
                pedestal=3.0,
                tilt=0.9,
                roll=0.4,
                truck=1.0,
            ),
        ),
    ),
    *BLENDS,
)


def key_of(name: str) -> str:
    """Return the key of a shipped preset: `small-boat`."""
    return "-".join(re.findall(r"[a-z0-9]+", name.lower()))


BUILT: dict[str, Preset] = {key_of(preset.name): with_body_levers(preset) for preset in _PRESETS}


def main() -> None:
    """Write one file per preset, their order, and the rigs."""
    FOLDER.mkdir(exist_ok=True)
    for key, preset in BUILT.items():
        (FOLDER / f"{key}{ENDING}").write_text(write_preset(preset) + "\n", encoding="utf-8")
    INDEX.write_text(json.dumps(list(BUILT), indent=1) + "\n", encoding="utf-8")
    RIG_FILE.write_bytes(RIGS_DATA.dump_json(RIGS, indent=1) + b"\n")


if __name__ == "__main__":
    main()

"""Builds the demo shots. Run by `make shots`; a test compares the files with its result."""

from __future__ import annotations

import json
import zlib
from collections.abc import Callable

import numpy as np
from pydantic import TypeAdapter

from tools.demo import deck, dunes, jetty, kite
from tools.demo.courier import CHEST_M, STEP_HZ, place_m
from tools.demo.paintings import PAINTINGS
from tools.demo.plates import INDEX
from zittern.core.edits.table import Command, apply
from zittern.core.numbers.curves import Curve
from zittern.core.numbers.param import Number, fixed, keyed, on_curve
from zittern.core.shot.mounts import Mount
from zittern.core.shot.shot import Shot, Subject, new_shot
from zittern.core.shot.through_variant import as_stored
from zittern.demo.build import SHIPPED
from zittern.formats import shot_json
from zittern.store.shipped import shipped_presets, shipped_rigs

__all__ = [
    "SHOTS",
    "empty_dune",
    "jetty_walk",
    "jetty_walk_handheld",
    "kite_pass",
    "lamp_close",
    "main",
    "mast_fall",
    "signal_run",
    "sled_run",
    "surge_plates",
]

_FRAMES = 192
_FPS = 24


def jetty_walk() -> Shot:
    """Follows the courier along the jetty: a keyed move without any shake, 8 s."""
    camera = Mount(
        id="camera",
        name="Camera",
        x_m=keyed((1, 0.5), (74, 0.32), (136, -0.3), (192, -0.42)),
        y_m=keyed((1, 1.55), (74, 1.42), (136, 1.36), (192, 1.5)),
        z_m=keyed((1, 0.7), (74, -3.3), (136, -6.9), (192, -9.9)),
        pan_deg=keyed((1, 3.0), (74, 4.5), (136, -3.0), (192, -6.5)),
        tilt_deg=keyed((1, -5.5), (74, -4.0), (136, -2.0), (192, -3.5)),
    )
    return _edited(
        new_shot("Jetty walk", last_frame=_FRAMES, set_id=jetty.SET_ID, subject=_courier_subject(), mounts=(camera,))
    )


def jetty_walk_handheld() -> Shot:
    """Return the same move on a shoulder, in step with the courier.

    The steps act through the shoulder, and the hands add a little.
    """
    shot = jetty_walk().replace(name="Jetty walk, handheld")
    steps = {"follows": "a cadence", "cadence_hz": STEP_HZ, "uneven": 0.35}
    return _edited(
        shot,
        {"type": "use_rig", "rig": shipped_rigs()["shoulder"]},
        {"type": "add_handheld"},
        {
            "type": "set_values",
            "values": [
                {"at": "layer:sway-1.weight", "value": keyed((1, 0.7), (74, 1.0), (136, 1.0), (192, 0.6)).model_dump()}
            ],
        },
        {"type": "add_layer", "source": "gait"},
        {
            "type": "set_values",
            "values": [{"at": f"layer:gait-1.source.{name}", "value": value} for name, value in steps.items()],
        },
        {
            "type": "set_values",
            "values": [{"at": "layer:gait-1.target", "value": "camera"}, {"at": "layer:gait-1.name", "value": "Steps"}],
        },
    )


def lamp_close() -> Shot:
    """Return a long lens on a lamp, hand-held, with breathing; a loop."""
    camera = Mount(id="camera", name="Camera", x_m=fixed(0.5), y_m=fixed(1.5), z_m=fixed(-0.4))
    shot = new_shot(
        "Lamp close",
        last_frame=240,
        set_id=dunes.SET_ID,
        subject=_lamp_subject(),
        mounts=(camera,),
        focal_mm=fixed(135.0),
    )
    looped = [{"at": f"layer:{kind}-1.source.loop", "value": True} for kind in ("drift", "breath", "tremor")]
    names = [
        {"at": f"layer:{kind}-1.name", "value": name}
        for kind, name in (("drift", "Standing"), ("breath", "Breathing"), ("tremor", "Holding the weight"))
    ]
    return _edited(
        shot,
        {"type": "aim_camera", "frame": 1},
        {"type": "add_layer", "source": "drift"},
        {"type": "add_layer", "source": "breath"},
        {"type": "add_layer", "source": "tremor"},
        {"type": "set_values", "values": [*looped, *names]},
        {"type": "scale_swings", "layers": ["tremor-1"], "factor": 0.5},
    )


def signal_run() -> Shot:
    """To the signal in a hurry: brisk steps over the whole shot, breath and panic on separate lanes.

    One dial drives their amounts. The second variant is a blend of one body that goes from standing to running.
    """
    walk = jetty_walk()
    camera = walk.mounts[0].replace(
        z_m=keyed((1, 1.6), (60, -0.4), (120, -5.4), (192, -9.9)), x_m=keyed((1, 0.5), (74, 0.3), (192, -0.42))
    )
    shot = walk.replace(name="Signal run", mounts=(camera,))
    clips = (
        {**_preset("brisk-walk")},
        {**_preset("exhausted-breath"), "first_frame": 40, "last_frame": 192},
        {**_preset("close-tremor"), "first_frame": 84, "last_frame": 156},
    )
    named = (("clip-2", "Breath"), ("clip-3", "Panic"))
    lanes = [
        {"at": f"lane:lane-{n}.name", "value": name} for n, name in ((1, "Whole shot"), (2, "Breath"), (3, "Panic"))
    ]
    ramps = [
        {"at": f"clip:{clip}.{field}", "value": 16}
        for clip, _ in named
        for field in ("ramp_in_frames", "ramp_out_frames")
    ]
    texts = {
        "clip:clip-1.amount": "0.7 + 0.4 * panic / 100",
        "clip:clip-2.amount": "0.3 + panic / 100",
        "clip:clip-3.amount": "smoothstep(20, 90, panic)",
    }
    hurried = _edited(
        shot,
        *({"type": "place_preset", **clip} for clip in clips),
        {
            "type": "set_values",
            "values": [*({"at": f"clip:{clip}.name", "value": name} for clip, name in named), *ramps, *lanes],
        },
        {"type": "add_dial", "name": "panic", "unit": "%"},
        {
            "type": "set_values",
            "values": [
                {
                    "at": "dial:panic.value",
                    "value": keyed((1, 0), (60, 25), (112, 100), (150, 90), (192, 30)).model_dump(),
                }
            ],
        },
        {"type": "set_formula", "formulas": [{"at": at, "text": text} for at, text in texts.items()]},
    )
    return as_stored(_one_body(hurried))


def _one_body(shot: Shot) -> Shot:
    """Return another variant: a blend in place of the steps and the panic, with its position on a keyed dial."""
    tried = _edited(
        shot, {"type": "add_variant", "name": "Stand to run", "note": "one body that speeds up, with its breath"}
    )
    steps, panic = (next(each.id for each in tried.clips() if each.name == name) for name in ("Brisk walk", "Panic"))
    paces = keyed((1, 20), (48, 55), (120, 100), (192, 85)).model_dump()
    return _edited(
        tried,
        {"type": "remove_clip", "clip": steps},
        {"type": "remove_clip", "clip": panic},
        {"type": "place_preset", **_preset("stand-to-walk-to-run")},
        {"type": "set_values", "values": [{"at": "dial:pace.value", "value": paces}]},
    )


def sled_run() -> Shot:
    """Over the ripples of the sand towards the sled, and quiet near it: one preset cross-fades to another."""
    frames = np.array([1.0, 36.0, 72.0, 108.0, 168.0])
    x, z = np.array([-8.0, -4.6, -1.6, 0.4, 1.3]), np.array([-24.0, -20.2, -16.6, -13.9, -12.9])
    height = dunes.height_m(x, z) + np.array([1.3, 1.3, 1.25, 1.15, 1.1])
    tracks = {
        name: keyed(*zip(frames.tolist(), values.tolist(), strict=True))
        for name, values in (("x_m", x), ("y_m", height), ("z_m", z))
    }
    camera = Mount(id="camera", name="Camera", **tracks)
    sled = Subject(
        name="Sled",
        object="sled",
        height_m=0.7,
        x_m=fixed(3.1),
        y_m=fixed(float(dunes.height_m(3.1, -11.0)) + 0.3),
        z_m=fixed(-11.0),
    )
    shot = new_shot(
        "Sled run",
        last_frame=168,
        set_id=dunes.SET_ID,
        subject=sled,
        mounts=(camera,),
        focal_mm=keyed((1, 28.0), (108, 35.0), (168, 50.0)),
    )
    return _edited(
        shot,
        *({"type": "aim_camera", "frame": float(frame), "key": True} for frame in frames),
        {"type": "use_rig", "rig": shipped_rigs()["vehicle mount"]},
        {"type": "place_preset", **_preset("washboard")},
        {"type": "set_values", "values": [{"at": "layer:road-1.target", "value": "camera"}]},
        {"type": "cross_fade_to", **_preset("shoulder-standing"), "clip": "clip-1", "frame": 96, "within_frames": 36},
        {"type": "set_values", "values": [{"at": "lane:lane-1.name", "value": "Ground"}]},
    )


def mast_fall() -> Shot:
    """Low on the deck while the signal mast comes down.

    Return a hand-held shot that is hit twice, each time with the delay of the shock through the planks.
    """
    camera = Mount(
        id="camera", name="Camera", x_m=keyed((1, 0.2), (168, -0.15)), y_m=fixed(0.38), z_m=keyed((1, 0.6), (168, 0.15))
    )
    mast = Subject.at("Signal mast", (deck.FOOT_M[0] - 1.6, 2.6, deck.FOOT_M[2])).replace(height_m=deck.TOP_M)
    shot = new_shot(
        "Mast fall", last_frame=168, set_id=deck.SET_ID, subject=mast, mounts=(camera,), focal_mm=fixed(24.0)
    )
    x, _, z = deck.FOOT_M
    cues = [
        {"frame": 1.0 + deck.HITS_S * _FPS, "name": "Mast", "strength": 1.6, "place_m": (x - 3.4, 0.0, z)},
        {"frame": 1.0 + deck.BOUNCES_S[0] * _FPS, "name": "Mast again", "strength": 0.6, "place_m": (x - 6.4, 0.0, z)},
    ]
    struck = {"ring_hz": 4.2, "settle_s": 0.8, "wave_m_s": 60.0, "at_start": False}
    return _edited(
        shot,
        {"type": "aim_camera", "frame": 1},
        {"type": "set_move", "frame": 1, "values": {"tilt_deg": 11.0, "pan_deg": -3.0}},
        {"type": "add_handheld"},
        {"type": "scale_swings", "layers": ["sway-1", "shake-1"], "factor": 0.6},
        {"type": "add_cues", "cues": cues},
        {"type": "add_layer", "source": "hit"},
        {"type": "scale_swings", "layers": ["hit-1"], "factor": 4.0},
        {
            "type": "set_values",
            "values": [{"at": f"layer:hit-1.source.{name}", "value": value} for name, value in struck.items()],
        },
        {"type": "set_values", "values": [{"at": "layer:hit-1.name", "value": "Struck deck"}]},
    )


def kite_pass() -> Shot:
    """Return a shot in which an operator with a long lens follows the kite through two turns, with lead room.

    Late at each turn, swinging past a little.
    """
    ground = Mount(
        id="camera",
        name="Feet",
        kind="ground",
        x_m=keyed((1, -0.6), (216, 0.7)),
        y_m=fixed(1.55),
        z_m=keyed((1, 0.5), (216, -0.6)),
    )
    before, after = ([1.0 + (turn + by) * _FPS for turn in kite.TURNS_S] for by in (-0.3, 0.9))
    across = keyed((1, 33.3), (before[0], 33.3), (after[0], 66.7), (before[1], 66.7), (after[1], 33.3))
    chases = {
        "across_percent": across.model_dump(),
        "up_percent": 45.0,
        "reaction_s": 0.28,
        "anticipation_s": 0.3,
        "pan_hz": 0.75,
        "pan_damping": 0.55,
        "tilt_hz": 0.7,
    }
    shot = new_shot(
        "Kite pass",
        last_frame=216,
        set_id=kite.SET_ID,
        subject=_kite_subject(216),
        mounts=(ground,),
        focal_mm=fixed(60.0),
    )
    return _edited(
        shot,
        {"type": "use_rig", "rig": shipped_rigs()["shoulder"]},
        {"type": "set_values", "values": [{"at": "mount:shoulder.operator", "value": chases}]},
        {"type": "add_handheld"},
        {"type": "add_layer", "source": "breath"},
        {
            "type": "set_values",
            "values": [
                {"at": "layer:breath-1.target", "value": "camera"},
                {"at": "layer:breath-1.name", "value": "Breathing"},
            ],
        },
    )


def empty_dune() -> Shot:
    """Return a set, a lamp, a camera at eye height: without keys or layers."""
    camera = Mount(id="camera", name="Camera", y_m=fixed(1.6))
    return _edited(
        new_shot("Empty dune", last_frame=144, set_id=dunes.SET_ID, subject=_lamp_subject(), mounts=(camera,))
    )


def _lamp_subject() -> Subject:
    x, y, z = dunes.LAMP_M
    return Subject(name="Lamp", object="lamp", height_m=0.5, x_m=fixed(x), y_m=fixed(y), z_m=fixed(z))


def _kite_subject(last_frame: int) -> Subject:
    """Return the kite, keyed four times a second."""
    frames = np.arange(1, last_frame + 6, 6, dtype=np.float64)
    place = kite.place_m((frames - 1) / _FPS)

    def track(column: int) -> Number:
        return on_curve(Curve.of(zip(frames.tolist(), place[:, column].tolist(), strict=True)))

    return Subject(name="Kite", object="kite", height_m=2.0, x_m=track(0), y_m=track(1), z_m=track(2))


def _preset(key: str) -> dict[str, object]:
    return {"preset": shipped_presets()[key], "key": key}


def _edited(shot: Shot, *commands: dict[str, object]) -> Shot:
    """After some commands. The seed follows from the name: always the same, another for each."""
    shot = shot.replace(seed=zlib.crc32(shot.name.encode()))
    for command in commands:
        shot = apply(shot, TypeAdapter(Command).validate_python(command))
    return shot


def _courier_subject() -> Subject:
    """Return the courier's chest, keyed twice a second: the subject is tracked, its steps are not."""
    frames = np.arange(1, _FRAMES + 12, 12, dtype=np.float64)
    place = place_m((frames - 1) / _FPS)

    def track(column: int) -> Number:
        return on_curve(Curve.of(zip(frames.tolist(), place[:, column].tolist(), strict=True)))

    return Subject(name="Courier", object="courier", x_m=track(0), y_m=fixed(CHEST_M), z_m=track(2))


def surge_plates() -> Shot:
    """Painted plates in depth, a storm surge: the camera pushes in slowly from a boat that heaves.

    The sky has too little overscan on purpose: its edge shows, and the check reports the smallest repair.
    """
    camera = Mount(
        id="camera",
        name="Camera",
        x_m=keyed((1, -0.35), (192, 0.35)),
        y_m=fixed(1.4),
        z_m=keyed((1, 0.0), (192, -0.7)),
        pan_deg=keyed((1, 1.2), (192, -1.2)),
    )
    shot = new_shot("Surge, plates", last_frame=_FRAMES, focal_mm=fixed(32.0), mounts=(camera,))
    index = json.loads(INDEX.read_text())
    hung: list[dict[str, object]] = [
        {
            "type": "hang_plates",
            "plates": [{"name": name, **index[name]}],
            "distance_m": away,
            "overscan_percent": overscan,
        }
        for name, (_, away, overscan) in PAINTINGS.items()
    ]
    return _edited(
        shot,
        *hung,
        {"type": "add_layer", "source": "wave"},
        {"type": "set_values", "values": [{"at": "layer:wave-1.name", "value": "Swell"}]},
        *_fixed({"layer:wave-1.source.rate_hz": 0.14}),
        *_swings("wave-1", roll=1.4, pedestal=5.0, truck=4.0, tilt=0.5, pan=0.0),
        {"type": "add_layer", "source": "noise"},
        {"type": "set_values", "values": [{"at": "layer:noise-1.name", "value": "Gusts"}]},
        *_swings("noise-1", pan=0.35, tilt=0.25, roll=0.2, truck=0.8),
    )


def _fixed(values: dict[str, float]) -> list[dict[str, object]]:
    set_ = [{"at": at, "value": value} for at, value in values.items()]
    return [{"type": "set_numbers", "frame": 1, "key": False, "values": set_}]


def _swings(layer: str, **swings: float) -> list[dict[str, object]]:
    return _fixed({f"layer:{layer}.axes.{axis}.swing": value for axis, value in swings.items()})


SHOTS: dict[str, Callable[[], Shot]] = {
    "jetty-walk": jetty_walk,
    "jetty-walk-handheld": jetty_walk_handheld,
    "lamp-close": lamp_close,
    "empty-dune": empty_dune,
    "signal-run": signal_run,
    "sled-run": sled_run,
    "mast-fall": mast_fall,
    "kite-pass": kite_pass,
    "surge-plates": surge_plates,
}


def main() -> None:
    """Write one file per shot."""
    SHIPPED.mkdir(exist_ok=True)
    for slug, make in SHOTS.items():
        with (SHIPPED / f"{slug}.shot.json").open("wb") as file:
            shot_json.write(make(), np.empty(0), (), file)


if __name__ == "__main__":
    main()

"""Draws the figures of docs/motion-models.md from the product's own code (`make figures`): what the code does,
beside the figure it is held to.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

import numpy as np
from scipy import signal

from tools.plot import Line, plot
from zittern.core.axes import AXIS_INFO, axis_index
from zittern.core.motion.evaluate import evaluate
from zittern.core.motion.follow import backlash, base_excited, grounded_damper, step_response
from zittern.core.motion.memory import STEP_S, Grid
from zittern.core.numbers.param import fixed, keyed
from zittern.core.readings.framing import misses_px
from zittern.core.shot.clips import Clip
from zittern.core.shot.cues import Cue
from zittern.core.shot.lanes import Lane
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.operator import HoldFraming
from zittern.core.shot.shot import Subject, new_shot
from zittern.core.sources.breath import Breath
from zittern.core.sources.drift import Drift
from zittern.core.sources.gait import WAYS, Gait
from zittern.core.sources.hit import Hit
from zittern.core.sources.noise import Noise
from zittern.core.sources.road import CLASSES, SUSPENSIONS, Road, amplitudes_m
from zittern.core.sources.source import SourceDoc
from zittern.core.sources.tremor import Tremor
from zittern.core.units import Array

__all__ = ["FIGURES", "main"]

OUT = Path(__file__).parent.parent / "docs/figures"
_PLUM, _OCHRE, _PETROL, _BLUE, _MOSS, *_ = (info.ink[0].upper() for info in AXIS_INFO)
_TIMES = np.arange(0.0, 60.0, STEP_S)
_FPS = 60


def _motion(source: SourceDoc, seconds: float, axis: str = "pedestal", **fields: object) -> Array:
    """What a source gives on an axis at swing 2. (F,)."""
    board = AxisBoard.swings(pan=2.0, tilt=2.0, roll=2.0, truck=2.0, pedestal=2.0, dolly=2.0)
    layer = Layer(id="one", name="One", source=source, seed=7, axes=board)
    lanes = (Lane.of(Clip(id="main", name="Whole shot", layers=(layer,))),)
    shot = new_shot("Figure", fps=_FPS, last_frame=int(seconds * _FPS), lanes=lanes, **fields)
    return evaluate(shot).layers["one"][:, axis_index(axis)]  # type: ignore[arg-type]


def _spectrum(values: Array, most_hz: float, window: int = 2048) -> tuple[Array, Array]:
    hz, power = signal.welch(values - values.mean(), fs=_FPS, nperseg=min(window, len(values)))
    keep = (hz > 0.0) & (hz <= most_hz)
    return hz[keep], power[keep]


def _steps(seconds: Array) -> Grid:
    """A grid of fine steps alone."""
    return Grid(seconds, np.array([]), STEP_S, STEP_S)


def give_step() -> str:
    """A carried mass after a step of what carries it."""
    t = _TIMES[_TIMES < 3.0]
    lines = []
    for damping, ink in ((0.1, _PLUM), (0.4, _PETROL), (1.0, _OCHRE)):
        got = base_excited(np.where(_TIMES < 0.5, 0.0, 1.0)[:, None], 1.4, damping, _steps(_TIMES))[: len(t), 0]
        lines.append(Line(t, got, f"ζ {damping:g}", ink))
    s = np.arange(0.02, 2.5, 0.12)
    closed = step_response(s, 1.4, 0.4)
    return plot(
        "Springs: step, 1.4 Hz",
        "seconds",
        "travel",
        [*lines, Line(s + 0.5 - STEP_S / 2, closed, "closed form", _PETROL, dots=True)],
    )


def give_transmissibility() -> str:
    """How much of a bob comes through."""
    r = np.geomspace(0.15, 6.0, 60)
    lines = []
    for damping, ink in ((0.15, _PLUM), (0.4, _PETROL), (1.0, _OCHRE)):
        lines.append(
            Line(
                r,
                np.sqrt((1 + (2 * damping * r) ** 2) / ((1 - r * r) ** 2 + (2 * damping * r) ** 2)),
                f"ζ {damping:g}",
                ink,
            )
        )
    some = np.geomspace(0.2, 5.0, 11)
    got = [
        np.max(
            np.abs(
                base_excited(np.sin(2 * np.pi * 1.2 * each * _TIMES)[:, None], 1.2, 0.4, _steps(_TIMES))[
                    len(_TIMES) // 2 :
                ]
            )
        )
        for each in some
    ]
    return plot(
        "Springs: transmissibility", "frequency / natural frequency", "out / in",
        [*lines, Line(some, np.array(got), "our code", _PETROL, dots=True)], True, True,
        [(float(np.sqrt(2.0)), "√2")],
    )  # fmt: skip


def operator() -> str:
    """A subject that sets out, goes on at constant speed, and turns."""
    t = np.arange(0.0, 6.0, STEP_S)
    subject = np.interp(t, [0.0, 1.0, 3.5, 6.0], [0.0, 0.0, 30.0, 5.0])
    late = np.interp(t - 0.25, t, subject)
    lines = [Line(t, subject, "subject")]
    for slack, ink, dash in ((0.0, _PLUM, ""), (3.0, _OCHRE, "6 3")):
        turned = grounded_damper(backlash(late, np.full(len(t), slack))[:, None], 0.9, 0.7, _steps(t))[:, 0]
        lines.append(Line(t, turned, f"camera, slack {slack:g}°", ink, dash=dash))
    lag = 0.25 + 0.7 / (np.pi * 0.9)
    return plot(
        "Operator",
        "seconds; reaction 0.25 s, 0.9 Hz, ζ 0.7",
        "pan, degrees",
        lines,
        marks=[(3.5 + lag, f"turn + {lag:.2f} s")],
    )


def hold() -> str:
    """Where the subject is on screen, before and after."""
    layer = Layer(id="one", name="One", source=Noise(), seed=5, axes=AxisBoard.swings(pan=1.0, tilt=0.8))
    post = Subject(name="Post", x_m=keyed((1, -1.0), (1200, 1.5), (2400, -0.5)), y_m=fixed(1.6), z_m=fixed(-6.0))
    shot = new_shot(
        "Figure",
        fps=_FPS,
        last_frame=3600,
        subject=post,
        lanes=(Lane.of(Clip(id="main", name="Whole shot", layers=(layer,))),),
    )
    lines = []
    for hold_, label, ink in ((None, "without", _OCHRE), (HoldFraming(), "held below 0.4 Hz", _PLUM)):
        made = shot.replace(hold=hold_)
        hz, power = _spectrum(misses_px(made, evaluate(made))[:, 0], 8.0)
        lines.append(Line(hz, power, label, ink))
    return plot("Hold framing: drift of the subject", "Hz", "px² / Hz", lines, True, True, [(0.4, "0.4 Hz")])


def gait() -> str:
    """Up and down once a step, from side to side once in two."""
    lines = []
    for axis, ink in (("pedestal", _MOSS), ("truck", _BLUE), ("roll", _PETROL)):
        hz, power = _spectrum(_motion(Gait(), 120.0, axis), 14.0)
        lines.append(Line(hz, np.maximum(power, 1e-6), axis, ink))
    return plot(
        "Gait: walking, firm ground", "Hz", "power", lines, True, True, [(1.9, "1.9 Hz (Winter 1991)"), (0.95, "half")]
    )


def cadence() -> str:
    """Step rate by speed along the path."""
    walk, run = WAYS["walk"], WAYS["run"]
    slow, fast = np.linspace(0.4, 2.2, 40), np.linspace(2.0, 6.0, 40)
    published = Line(np.array([1.4, 3.0, 5.0]), np.array([1.9, 2.75, 3.0]), "published", dots=True)
    lines = [
        Line(slow, walk.rate_hz * (slow / walk.speed_m_s) ** walk.power, "walk", _MOSS),
        Line(fast, run.rate_hz * (fast / run.speed_m_s) ** run.power, "run", _OCHRE),
        published,
    ]
    return plot("Gait: steps by speed", "m/s", "steps a second", lines)


def road_profile() -> str:
    """Spectrum of the road itself against the classes of the standard."""
    n = np.geomspace(0.012, 2.8, 120)
    edges = np.exp(np.linspace(np.log(0.011), np.log(2.83), 121))
    lines = []
    for name, ink in (("A", _MOSS), ("C", _PETROL), ("E", _OCHRE)):
        lines.append(Line(n, CLASSES[name] * 1e-6 * (n / 0.1) ** -2.0, f"{name}, ISO 8608", ink))
        density = amplitudes_m(name, n) ** 2 / 2.0 / np.diff(edges)
        lines.append(Line(n[::8], density[::8], f"{name}, ours", ink, dots=True))
    return plot("Road", "cycles a metre", "m³", lines, True, True)


def road_body() -> str:
    """What of the road comes to the body."""
    hz = np.geomspace(0.2, 25.0, 160)
    inks = zip(SUSPENSIONS.items(), (_PLUM, _PETROL, _OCHRE), strict=True)
    lines = [Line(hz, np.abs(springs.response(hz)), name, ink) for (name, springs), ink in inks]
    return plot("Road: quarter car", "Hz", "body / road", lines, True, True, [(1.1, "1.1 Hz")])


def road_motion() -> str:
    """Heave and pitch at 12 m/s."""
    lines = []
    for axis, ink in (("pedestal", _MOSS), ("tilt", _OCHRE)):
        hz, power = _spectrum(_motion(Road(), 240.0, axis), 15.0)
        lines.append(Line(hz, np.maximum(power, 1e-6), axis, ink))
    return plot("Road: class C, 12 m/s, soft springs", "Hz", "power", lines, True, True, [(1.1, "body")])


def hit() -> str:
    """A ring and its envelope."""
    source = Hit(at_start=False)
    values = _motion(source, 3.0, "pedestal", cues=(Cue(id="cue", frame=31.0, name="Hit"),))
    t = np.arange(len(values)) / _FPS
    settle, ring = source.settle_s.constant or 1.0, source.ring_hz.constant or 1.0
    sigma, w = 3.0 / settle, 2 * np.pi * ring
    after = np.clip(t - 0.5, 0.0, None)
    peak = np.exp(-sigma * np.arctan(w / sigma) / w) * w / np.hypot(w, sigma)
    wrap = np.where(
        t >= 0.5,
        np.max(np.abs(values)) / np.max(np.abs(np.exp(-sigma * after) * np.sin(w * after))) * np.exp(-sigma * after),
        0.0,
    )
    lines = [
        Line(t, values, "ring", _MOSS),
        Line(t, wrap, "exp(−3 s / settle)", dash="4 3"),
        Line(t, -wrap, "", dash="4 3"),
    ]
    return plot(
        "Hit: one blow",
        "seconds",
        f"cm (first peak {peak:.2f} of the envelope)",
        lines,
        marks=[(0.5 + settle, "settled to 5 %")],
    )


def quiet() -> str:
    """Sources of a standing body."""
    parts = (
        (Drift(), "drift", _PETROL),
        (Breath(), "breath", _MOSS),
        (Noise(), "noise", _PLUM),
        (Tremor(), "tremor", _OCHRE),
    )
    lines = []
    for source, label, ink in parts:
        hz, power = _spectrum(_motion(source, 400.0, "tilt"), 20.0, 8192)
        lines.append(Line(hz, np.maximum(power, 1e-5), label, ink))
    return plot("Standing, breathing, holding", "Hz", "power", lines, True, True, [(8.0, "8"), (12.0, "12 Hz")])


FIGURES: dict[str, Callable[[], str]] = {
    "give-step": give_step, "give-transmissibility": give_transmissibility, "operator": operator, "hold": hold,
    "gait": gait, "cadence": cadence,
    "road-profile": road_profile, "road-body": road_body, "road-motion": road_motion, "hit": hit, "quiet": quiet,
}  # fmt: skip


def main() -> None:
    """One SVG a figure."""
    OUT.mkdir(parents=True, exist_ok=True)
    for name, draw in FIGURES.items():
        (OUT / f"{name}.svg").write_text(draw())
        print(f"{name}.svg")


if __name__ == "__main__":
    main()

"""THE TABLE of sources of motion. The recipe for another one is in docs/architecture.md."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Annotated, Literal, Union

from pydantic import Field

from zittern.core.numbers.looks import FieldLook, Look, described
from zittern.core.sources.breath import Breath
from zittern.core.sources.cycle import Cycle
from zittern.core.sources.drift import Drift
from zittern.core.sources.formulas import Formulas
from zittern.core.sources.gait import Gait
from zittern.core.sources.hand_keys import HandKeys
from zittern.core.sources.hit import Hit
from zittern.core.sources.noise import Noise
from zittern.core.sources.road import Road
from zittern.core.sources.source import SourceDoc
from zittern.core.sources.take import Take
from zittern.core.sources.tremor import Tremor
from zittern.core.sources.wave import Wave

__all__ = ["SOURCES", "Kind", "Source", "SourceRow", "row_of"]


@dataclass(frozen=True, slots=True)
class SourceRow:
    """A source: its title, description, default swings and the display of its fields.

    Default swings (deg, cm, %) are those of a new layer.
    """

    make: type[SourceDoc]
    title: str
    imitates: str
    swings: dict[str, float]
    looks: tuple[Look, ...]

    @property
    def kind(self) -> str:
        """Its name in documents."""
        kind: str = self.make.model_fields["kind"].default
        return kind

    @property
    def fields(self) -> tuple[FieldLook, ...]:
        """Its fields as a form shows them."""
        return described(self.make, self.looks)


def _rate(step: float = 0.02) -> Look:
    return Look("rate_hz", "rate", "Hz", step=step, scales=True)


_LOOP = Look("loop", "loop", hint="The first frame follows the last without a jump")
_PHASES = Look("phase_deg", "phase", "°", step=1.0, digits=0, group="phase")
_PER_MINUTE = 60.0

SOURCES: tuple[SourceRow, ...] = (
    SourceRow(
        Noise,
        "Noise",
        "irregular handheld sway",
        {"pan": 0.5, "tilt": 0.4, "roll": 0.2, "truck": 1.0, "pedestal": 0.8, "dolly": 0.5},
        (_rate(), Look("octaves", "octaves"), Look.percent("persistence", "persistence"), _LOOP),
    ),
    SourceRow(
        Wave,
        "Wave",
        "regular motion: a moored boat, a swing, an engine",
        {"pan": 0.5, "tilt": 0.3, "pedestal": 1.0},
        (
            replace(_rate(), only=("beats", False)),
            Look("rate_hz", "rate", "bpm", times=_PER_MINUTE, step=1.0, scales=True, only=("beats", True)),
            Look("beats", "in beats", hint="Read the rate in beats a minute"),
            Look("shape", "shape"),
            _PHASES,
        ),
    ),
    SourceRow(
        Drift,
        "Drift",
        "sway of a standing person",
        {"pan": 0.7, "tilt": 0.5, "roll": 0.3, "truck": 1.5, "pedestal": 0.5, "dolly": 1.2},
        (_rate(step=0.01), _LOOP),
    ),
    SourceRow(
        Tremor,
        "Tremor",
        "muscles that hold a weight, or nerves",
        {"pan": 0.16, "tilt": 0.2, "roll": 0.06, "pedestal": 0.05},
        (Look("centre_hz", "centre", "Hz", step=0.05, digits=1), Look("width_hz", "width ±", "Hz", digits=1), _LOOP),
    ),
    SourceRow(
        Breath,
        "Breath",
        "the breathing of the operator",
        {"tilt": 0.3, "pedestal": 1.2, "roll": 0.06, "dolly": 0.2},
        (
            Look("rate_hz", "breaths", "/min", times=_PER_MINUTE, step=0.2, digits=1),
            Look.percent("exertion", "exertion"),
            _LOOP,
        ),
    ),
    SourceRow(
        Gait,
        "Gait",
        "steps of the operator, by a cadence or by the speed of the path",
        {"pan": 0.25, "tilt": 0.3, "roll": 0.45, "truck": 2.2, "pedestal": 2.4, "dolly": 0.8},
        (
            Look("way", "walk or run"),
            Look("follows", "follows", hint="The path: its speed sets the step rate; no steps when stationary"),
            Look(
                "cadence_hz",
                "cadence",
                "/min",
                times=_PER_MINUTE,
                step=0.5,
                digits=0,
                hint="Steps a minute, where it follows a cadence",
            ),
            Look("legs", "legs", titles={"usual": "average"}),
            Look("surface", "ground"),
            Look.percent("limp", "limp"),
            Look.percent("uneven", "uneven"),
        ),
    ),
    SourceRow(
        Road,
        "Road",
        "wheels or runners on uneven ground, and a body on springs",
        {"pan": 0.12, "tilt": 0.3, "roll": 0.3, "truck": 0.6, "pedestal": 1.6, "dolly": 0.4},
        (
            Look(
                "roughness",
                "road",
                hint="ISO 8608: A is new tarmac, C a country road, E a field track, H barely passable",
            ),
            Look("follows", "follows", hint="The path: its speed is that of the wheels; none when stationary"),
            Look("speed_m_s", "speed", "m/s", step=0.05, digits=1, scales=True, hint="Where it follows a set speed"),
            Look("springs", "springs", titles={"hardly any": "stiff"}),
            Look("wheelbase_m", "wheelbase", "m", step=0.01, digits=1),
            Look("ripples", "ripples", hint="Washboard: waves across the track, half a metre or nearly a metre long"),
            Look("high_pass_hz", "high-pass", "Hz", step=0.005, hint="Hills slower than this are removed; 0 keeps all"),
        ),
    ),
    SourceRow(
        Hit,
        "Hit",
        "hits and steps: the camera rings at each cue, or in a rhythm",
        {"pan": 0.35, "tilt": 0.6, "roll": 0.4, "truck": 0.8, "pedestal": 1.6, "dolly": 0.8},
        (
            Look("ring_hz", "ring", "Hz", step=0.02, digits=1, scales=True),
            Look("settle_s", "settles", "s", step=0.01, scales=True, hint="Decay to 5 %, in seconds"),
            Look("answers", "answers"),
            Look(
                "wave_m_s",
                "wave speed",
                "m/s",
                step=1.0,
                digits=0,
                scales=True,
                hint="A cue with a position arrives later with distance",
            ),
            Look("falls", "distance falloff"),
            Look("at_start", "at the start", hint="Hit at clip start"),
            Look(
                "rhythm_hz",
                "beats",
                "/min",
                times=_PER_MINUTE,
                step=0.5,
                digits=0,
                hint="Repeat rate; 0 = off",
            ),
            Look.percent("uneven", "uneven"),
            Look(
                "same_way",
                "same way",
                hint="All hits move down and forward, like a step; off: random direction",
            ),
            Look.percent("way_spread", "axis spread", hint="Random reduction of a hit on each axis, up to this part"),
        ),
    ),
    SourceRow(
        Cycle, "Cycle", "a few keys drawn once and repeated", {"pedestal": 1.5, "tilt": 0.35}, (_rate(), _PHASES)
    ),
    SourceRow(HandKeys, "Keys", "curves by hand, on top of everything", {}, (Look("tracks", "key", group="keys"),)),
    SourceRow(
        Take,
        "Take",
        "a recorded take: a file of samples, or a shipped one",
        {},
        (
            Look.percent("gain", "gain", scales=True),
            Look(
                "drift_hz",
                "high-pass",
                "Hz",
                step=0.005,
                hint="High-pass cutoff; 0 removes only the mean",
            ),
            Look("offset_s", "begins at", "s", step=0.02, hint="Start offset"),
            Look("loop", "loop", hint="Cross-fades to its start"),
            Look("fade_s", "fade", "s", step=0.01, hint="Loop cross-fade, or fades at both ends"),
        ),
    ),
    SourceRow(
        Formulas,
        "Formula",
        "a formula for each axis",
        {},
        (Look("tracks", "value", group="formulas"),),
    ),
)

if TYPE_CHECKING:
    Source = SourceDoc
    Kind = str
else:
    # Both follow from the table: a source is listed there and nowhere else.
    Source = Annotated[Union[tuple(row.make for row in SOURCES)], Field(discriminator="kind")]  # noqa: UP007
    Kind = Literal[tuple(row.kind for row in SOURCES)]


def row_of(kind: str) -> SourceRow:
    """Return the row of a kind. Raises KeyError."""
    return {row.kind: row for row in SOURCES}[kind]

"""Builders of the rigs that ship. None of them moves a picture that stands still."""

from __future__ import annotations

from zittern.core.numbers.param import fixed
from zittern.core.presets.rigs import Rig
from zittern.core.shot.mounts import Mount
from zittern.core.shot.springs import Springs

__all__ = ["RIGS"]

# The length of the crane's arm, in metres.
_CRANE_M = 3.0


RIGS: tuple[Rig, ...] = (
    Rig(
        name="tripod",
        line="a head on legs: damped rotation, fixed position",
        mounts=(
            Mount(
                id="head",
                name="Head",
                kind="head",
                springs=Springs(shift=False, turn_hz=7.0, turn_damping=0.35, turn_stop_deg=2.0),
            ),
        ),
    ),
    Rig(
        name="shoulder",
        line="turns about a shoulder 30 cm behind the sensor, hands steady it in front",
        mounts=(
            Mount(
                id="shoulder",
                name="Shoulder",
                kind="free",
                pivot_m=(0.0, -0.05, 0.3),
                springs=Springs(
                    shift_hz=2.4,
                    shift_damping=0.5,
                    shift_stop_cm=12.0,
                    turn_hz=2.2,
                    turn_damping=0.55,
                    turn_stop_deg=12.0,
                ),
            ),
            Mount(id="hands", name="Hands", kind="hands", pivot_m=(0.0, -0.04, 0.06)),
        ),
    ),
    Rig(
        name="hand-held low",
        line="hangs from both arms, well below the shoulders",
        mounts=(
            Mount(
                id="arms",
                name="Arms",
                kind="free",
                pivot_m=(0.0, 0.6, 0.25),
                springs=Springs(
                    shift_hz=1.3,
                    shift_damping=0.4,
                    shift_stop_cm=18.0,
                    turn_hz=0.9,
                    turn_damping=0.35,
                    turn_stop_deg=15.0,
                ),
            ),
            Mount(id="hands", name="Hands", kind="hands", pivot_m=(0.0, 0.08, 0.05)),
        ),
    ),
    Rig(
        name="stabiliser",
        line="a sprung arm and a balanced head: floats, and overshoots after abrupt moves",
        mounts=(
            Mount(
                id="arm",
                name="Arm",
                kind="arm",
                springs=Springs(turn=False, shift_hz=0.55, shift_damping=0.7, shift_stop_cm=35.0),
            ),
            Mount(
                id="gimbal",
                name="Gimbal",
                kind="head",
                pivot_m=(0.0, 0.1, 0.0),
                springs=Springs(shift=False, turn_hz=0.6, turn_damping=0.8, turn_stop_deg=25.0),
            ),
        ),
    ),
    Rig(
        name="crane arm",
        line="a column three metres behind the lens, an arm, a head at its end",
        mounts=(
            Mount(id="column", name="Column", kind="ground", z_m=fixed(_CRANE_M)),
            Mount(
                id="arm",
                name="Arm",
                kind="arm",
                length_m=fixed(_CRANE_M),
                springs=Springs(shift=False, turn_hz=1.1, turn_damping=0.12, turn_stop_deg=4.0),
            ),
            Mount(id="head", name="Head", kind="head"),
        ),
    ),
    Rig(
        name="vehicle mount",
        line="a body on its springs, and a bracket that gives a little",
        mounts=(
            Mount(
                id="body",
                name="Body",
                kind="ground",
                pivot_m=(0.0, -0.6, 0.8),
                springs=Springs(
                    shift_hz=1.3,
                    shift_damping=0.3,
                    shift_stop_cm=15.0,
                    turn_hz=1.5,
                    turn_damping=0.3,
                    turn_stop_deg=8.0,
                ),
            ),
            Mount(
                id="bracket",
                name="Bracket",
                kind="arm",
                springs=Springs(shift=False, turn_hz=9.0, turn_damping=0.15, turn_stop_deg=3.0),
            ),
            Mount(id="head", name="Head", kind="head"),
        ),
    ),
)

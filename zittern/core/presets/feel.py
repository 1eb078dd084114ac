"""The starting handheld feel: a gentle slow layer and a finer fast one, sized for the lens it is put on."""

from __future__ import annotations

from zittern.core.axes import ROTATIONS
from zittern.core.motion.facts import scope_at
from zittern.core.numbers.param import fixed
from zittern.core.shot.layers import AxisBoard, Layer
from zittern.core.shot.seeds import drawn
from zittern.core.shot.shot import DEFAULT_FOCAL_MM, DEFAULT_SENSOR_MM, Shot
from zittern.core.sources.noise import Noise

__all__ = ["HANDHELD", "HIP_M", "SHOULDER_M", "WRIST_M", "handheld", "held_clips", "lens_factor"]

# Swings at the default lens: the sum moves the picture by about 1 % of its width.
_SLOW = {"pan": 0.55, "tilt": 0.45, "roll": 0.3, "truck": 1.2, "pedestal": 1.0, "dolly": 0.6}
_FAST = {"pan": 0.12, "tilt": 0.14, "roll": 0.08, "truck": 0.15, "pedestal": 0.25, "dolly": 0.1}
_SLOW_HZ = 0.45
_FAST_HZ = 2.3
# A very long or very wide lens is not followed all the way, or the feel would vanish or burst.
_LEAST_FACTOR, _MOST_FACTOR = 0.1, 2.0

# Distance from the lens to its joint, behind and below, meters: a camera in the hands, on a shoulder, at the hip.
WRIST_M, SHOULDER_M, HIP_M = (0.12, 0.0), (0.25, 0.1), (0.1, 0.6)
# Names of its two layers.
HANDHELD = ("Slow sway", "Fine shake")


def held_clips(shot: Shot) -> tuple[str, ...]:
    """Return ids of the clips that shake the camera as a person does.

    With layers that turn about a joint, or with the layers of the starting feel.
    """

    def shakes_like_hand(layer: Layer) -> bool:
        shakes = any(axis in ROTATIONS for axis in layer.moving_axes)
        return shakes and not layer.mute and (any(layer.lever_m) or layer.name in HANDHELD)

    return tuple(clip.id for clip in shot.clips() if not clip.mute and any(map(shakes_like_hand, clip.layers)))


def lens_factor(shot: Shot) -> float:
    """Scale of rotations that keeps their size on screen what it is at the default lens."""
    focal = shot.lens_at(scope_at(shot, shot.first_frame))
    factor = (DEFAULT_FOCAL_MM / DEFAULT_SENSOR_MM) / (focal / shot.sensor_mm)
    return min(max(factor, _LEAST_FACTOR), _MOST_FACTOR)


def handheld(shot: Shot, ids: tuple[str, str]) -> tuple[Shot, tuple[Layer, Layer]]:
    """Return the slow and the fast layer for a shot, and the shot that they drew their seeds from."""
    shot, seeds = drawn(shot, 2)
    factor = lens_factor(shot)

    def board(swings: dict[str, float]) -> AxisBoard:
        return AxisBoard.swings(
            **{axis: value * factor if axis in ROTATIONS else value for axis, value in swings.items()}
        )

    slow = Noise(rate_hz=fixed(_SLOW_HZ), octaves=2, persistence=fixed(0.4))
    # On a lens that zooms it keeps its size on screen.
    zooms = shot.focal_mm.constant is None
    fast = Noise(rate_hz=fixed(_FAST_HZ), octaves=2, persistence=fixed(0.5))
    return shot, (
        Layer(
            id=ids[0], name=HANDHELD[0], source=slow, axes=board(_SLOW), seed=seeds[0], steady=zooms, lever_m=SHOULDER_M
        ),
        Layer(
            id=ids[1], name=HANDHELD[1], source=fast, axes=board(_FAST), seed=seeds[1], steady=zooms, lever_m=WRIST_M
        ),
    )

"""The courier: coat, hat, letter bag; a walk along -Z, and where the courier is at any time."""

from __future__ import annotations

import numpy as np

from tools.demo.glb import Piece
from tools.demo.meshes import Mesh, blob, box, cylinder, joined, srgb
from zittern.core.units import Array

__all__ = ["CHEST_M", "SPEED_M_S", "START_Z_M", "courier", "place_m"]

START_Z_M = -2.6
START_X_M = -0.1
SPEED_M_S = 1.35
STEP_HZ = 1.9
CHEST_M = 1.25
_BOB_M = 0.022
_HIP_M = 0.88
_LEG_SWING_DEG = 27.0
_ARM_SWING_DEG = 20.0

_COAT, _COAT_DARK, _HAT, _SKIN = srgb("#1F3A5A"), srgb("#172C45"), srgb("#B4472E"), srgb("#B98A66")
_BAG, _BOOT, _SCARF = srgb("#7A4A22"), srgb("#2B2420"), srgb("#D9B45B")


def place_m(times_s: Array) -> Array:
    """Feet of the courier.

    (F,) seconds -> (F, 3) metres: straight on, bobbing at the rate of the steps, weaving a little.
    """
    bob = _BOB_M * np.abs(np.sin(np.pi * STEP_HZ * times_s))
    weave = START_X_M + 0.05 * np.sin(2.0 * np.pi * 0.11 * times_s)
    return np.stack([weave, bob, START_Z_M - SPEED_M_S * times_s], axis=1)


def courier(times_s: Array) -> Piece:
    """Return the figure with its walk."""
    stride = np.sin(np.pi * STEP_HZ * times_s)
    still = np.zeros_like(stride)

    def swing(degrees: float) -> Array:
        return np.stack([still, degrees * stride, still], axis=1)

    limbs = (
        _leg("left leg", -0.11, swing(_LEG_SWING_DEG)),
        _leg("right leg", 0.11, swing(-_LEG_SWING_DEG)),
        _arm("left arm", -0.27, swing(-_ARM_SWING_DEG)),
        _arm("right arm", 0.27, swing(_ARM_SWING_DEG)),
    )
    sway = np.stack([3.0 * stride, np.full_like(stride, -3.0), 1.5 * np.sin(np.pi * STEP_HZ * times_s + 0.6)], axis=1)
    return Piece("courier", children=(Piece("coat", _torso(), angles_deg=sway), *limbs), position_m=place_m(times_s))


def _torso() -> Mesh:
    return joined(
        [
            cylinder((0, 0.62, 0), (0, 1.0, 0), 0.34, 0.25, 9, _COAT),
            cylinder((0, 1.0, 0), (0, 1.42, 0), 0.25, 0.21, 9, _COAT),
            cylinder((0, 0.97, 0), (0, 1.03, 0), 0.265, 0.262, 9, _BOOT),
            cylinder((0, 1.40, 0), (0, 1.50, 0), 0.13, 0.11, 8, _SCARF),
            box((0.07, 0.42, 0.03), _SCARF).turned(roll=8).moved((0.06, 1.22, 0.235)),
            blob((0.115, 0.14, 0.12), _SKIN).moved((0, 1.58, 0)),
            cylinder((0, 1.63, 0), (0, 1.66, 0), 0.25, 0.23, 10, _HAT),
            cylinder((0, 1.66, 0), (0, 1.86, 0), 0.16, 0.03, 10, _HAT),
            box((0.34, 0.26, 0.14), _BAG).turned(roll=-4).moved((0.16, 0.98, 0.28)),
            box((0.35, 0.09, 0.15), srgb("#8C5A2E")).turned(roll=-4).moved((0.16, 1.08, 0.285)),
            box((0.05, 0.66, 0.03), _BAG).turned(roll=38).moved((0.0, 1.2, 0.232)),
        ]
    )


def _leg(name: str, x: float, angles: Array) -> Piece:
    mesh = joined(
        [
            cylinder((0, 0, 0), (0, -0.46, 0), 0.1, 0.075, 7, _COAT_DARK),
            cylinder((0, -0.44, 0), (0, -0.84, 0), 0.085, 0.08, 7, _BOOT),
            box((0.13, 0.09, 0.28), _BOOT).moved((0, -0.835, -0.05)),
        ]
    )
    return Piece(name, mesh, at=(x, _HIP_M, 0.0), angles_deg=angles)


def _arm(name: str, x: float, angles: Array) -> Piece:
    mesh = joined(
        [
            cylinder((0, 0, 0), (np.sign(x) * 0.05, -0.54, -0.03), 0.085, 0.07, 7, _COAT),
            blob((0.06, 0.08, 0.06), _SKIN, 7, 4).moved((np.sign(x) * 0.05, -0.6, -0.03)),
        ]
    )
    return Piece(name, mesh, at=(x, 1.36, 0.0), angles_deg=angles)

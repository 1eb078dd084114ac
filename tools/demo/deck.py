"""The set `saltmarsh-deck`.

The deck of a tide station on the open marsh, and a signal mast that falls across it.
"""

from __future__ import annotations

import numpy as np

from tools.demo.glb import Piece
from tools.demo.jetty import far_hills, flag, sky, times_s, water
from tools.demo.meshes import Mesh, blob, box, cylinder, joined, srgb, tube
from zittern.core.units import Array

__all__ = ["BOUNCES_S", "FOOT_M", "HITS_S", "SET_ID", "TOP_M", "fall_deg", "pieces"]

SET_ID = "saltmarsh-deck"
_SEED = 88
# Position and height of the mast, the frame of its release, and its angle then.
FOOT_M, TOP_M = (2.6, 0.0, -7.5), 7.2
_GOES_S, _LEAN_DEG, _GRAVITY = 0.6, 7.0, 9.81
_FLAT_DEG, _BOUNCE = 88.0, 0.22
_STEP_S = 1.0 / 240.0

_WOOD = (srgb("#8D6B47"), srgb("#7A5A3A"), srgb("#9A7A55"), srgb("#6E5138"), srgb("#A08461"))
_POST, _ROPE, _RED, _WHITE, _IRON = srgb("#574839"), srgb("#C4A66C"), srgb("#B33A2B"), srgb("#E9E4D8"), srgb("#34373C")


def _fallen() -> tuple[Array, Array, tuple[float, ...]]:
    """Return a pole about its foot, theta'' = 3 g / (2 length) sin(theta), which bounces a little where it lands.

    (N,) seconds, (N,) degrees, landings in seconds.
    """
    angle, speed, at, landings = np.radians(_LEAN_DEG), 0.0, _GOES_S, []
    seconds, degrees = [0.0, _GOES_S], [_LEAN_DEG, _LEAN_DEG]
    while at < 12.0:
        speed += 1.5 * _GRAVITY / TOP_M * np.sin(angle) * _STEP_S
        angle += speed * _STEP_S
        at += _STEP_S
        if angle >= np.radians(_FLAT_DEG):
            angle = np.radians(_FLAT_DEG)
            if speed > 0.25:
                landings.append(at)
            speed = -_BOUNCE * speed if speed > 0.25 else 0.0
        seconds.append(at)
        degrees.append(float(np.degrees(angle)))
    return np.array(seconds), np.array(degrees), tuple(landings)


_TIMES, _ANGLES, _LANDINGS = _fallen()
# When the mast strikes the deck, and when it comes down again after its bounce.
HITS_S = _LANDINGS[0]
BOUNCES_S = _LANDINGS[1:]


def fall_deg(times: Array) -> Array:
    """Return the angle of the falling mast, from upright. (F,)."""
    return np.interp(times, _TIMES, _ANGLES)


def pieces() -> list[Piece]:
    """All set pieces, named; the same every time."""
    rng = np.random.default_rng(_SEED)
    times = times_s()
    still = np.zeros_like(times)
    fall = np.stack([still, still, fall_deg(times)], axis=1)
    return [
        Piece("sky", sky(), unlit=True),
        Piece("water", water(rng)),
        Piece("hills", far_hills(rng)),
        Piece("deck", _deck(rng)),
        Piece("rail", _rail(rng)),
        Piece("hut", _hut(rng).moved((-4.2, 0.0, -12.5))),
        Piece("mast foot", cylinder((0, -0.6, 0), (0, 0.55, 0), 0.24, 0.2, 8, _IRON).moved(FOOT_M)),
        Piece("signal mast", _mast(), at=FOOT_M, angles_deg=fall),
        Piece("barrels", _barrels(rng).moved((-0.9, 0.0, -4.6)), position_m=_hop(times, 0.05)),
        Piece("letter crate", _crate().turned(pan=24), position_m=np.array([0.9, 0.0, -3.6]) + _hop(times, 0.07)),
    ]


def _hop(times: Array, height_m: float) -> Array:
    """Return the jump of objects on the deck after a strike. (F, 3)."""
    since = np.clip(times - HITS_S, 0.0, None)
    up = np.clip(height_m * 4.0 * (since / 0.24) * (1.0 - since / 0.24), 0.0, None) * (since > 0.0)
    return np.stack([np.zeros_like(up), up, np.zeros_like(up)], axis=1)


def _deck(rng: np.random.Generator) -> Mesh:
    parts = []
    for x in np.arange(-7.0, 7.01, 0.3):
        for z0, z1 in ((3.0, -4.0), (-4.0, -11.0), (-11.0, -16.0)):
            end = z1 + rng.uniform(-0.03, 0.03)
            plank = (
                box((0.275, 0.06, z0 - end), _WOOD[int(rng.integers(len(_WOOD)))], "+x-x+y+z")
                .speckled(rng, 0.08)
                .turned(roll=rng.uniform(-0.6, 0.6))
            )
            parts.append(
                plank.moved((float(x) + rng.uniform(-0.01, 0.01), -0.03 + rng.uniform(-0.008, 0.006), (z0 + end) / 2))
            )
    parts += [
        cylinder((x, -2.0, z), (x, -0.06, z), 0.16, 0.14, 7, _POST)
        for x in (-6.6, 0.0, 6.6)
        for z in (2.5, -6.0, -15.5)
    ]
    return joined(parts)


def _rail(rng: np.random.Generator) -> Mesh:
    sides = [[(x, z) for z in np.arange(1.0, -16.1, -2.4)] for x in (-7.0, 7.0)]
    places = [*sides[0], *((x, -16.0) for x in np.arange(-4.6, 7.0, 2.4)), *sides[1][::-1]]
    parts, tops = [], []
    for x, z in places:
        top = np.array([x + rng.uniform(-0.05, 0.05), 1.0 + rng.uniform(-0.06, 0.06), z])
        parts.append(
            cylinder(
                (float(x), -0.2, float(z)),
                (float(top[0]), float(top[1]) + 0.1, float(z)),
                0.09,
                0.075,
                6,
                _POST,
                (False, True),
            ).speckled(rng, 0.15)
        )
        tops.append(top)
    for a, b in zip(tops[:-1], tops[1:], strict=True):
        u = np.linspace(0.0, 1.0, 6)[:, None]
        line = a + (b - a) * u
        line[:, 1] -= 0.22 * 4.0 * (u * (1 - u))[:, 0]
        parts.append(tube(line, np.full(6, 0.025), 3, _ROPE, (False, False)))
    return joined(parts)


def _hut(rng: np.random.Generator) -> Mesh:
    walls = box((3.6, 2.6, 3.0), srgb("#B9B2A2")).speckled(rng, 0.06).moved((0, 1.3, 0))
    roof = cylinder((0, 2.6, 0), (0, 4.2, 0), 3.0, 0.12, 4, srgb("#A8452F")).turned(pan=45).speckled(rng, 0.1)
    return joined(
        [
            walls,
            roof,
            box((0.8, 1.8, 0.08), _POST).moved((0.6, 0.9, 1.53)),
            box((0.8, 0.7, 0.08), srgb("#E7C77A")).moved((-0.8, 1.5, 1.53)),
        ]
    )


def _mast() -> Mesh:
    """Upright over its foot; it falls to the left."""
    return joined(
        [
            cylinder((0, 0.1, 0), (0, TOP_M - 0.3, 0), 0.14, 0.07, 8, _POST),
            cylinder((-0.1, TOP_M - 1.6, -1.3), (-0.1, TOP_M - 1.6, 1.3), 0.05, 0.05, 6, _POST),
            blob((0.15, 0.15, 0.15), _RED, 8, 5).moved((0, TOP_M - 0.2, 0)),
            flag(0.8, 0.5, _RED, -0.5, TOP_M - 2.1),
            flag(0.5, 0.44, _WHITE, -0.4, TOP_M - 2.7),
            *(
                cylinder((0, h, 0), (0, h + 0.12, 0), 0.16 - h * 0.009, 0.16 - h * 0.009, 8, _ROPE)
                for h in (1.6, 3.2, 4.6)
            ),
            tube(np.array([[0.1, TOP_M - 0.5, 0.1], [0.35, 3.4, 0.5], [0.2, 0.4, 0.3]]), np.full(3, 0.018), 4, _ROPE),
        ]
    )


def _barrels(rng: np.random.Generator) -> Mesh:
    def barrel(x: float, z: float) -> list[Mesh]:
        staves = tube(
            np.array([[x, 0.0, z], [x, 0.36, z], [x, 0.72, z]]), np.array([0.24, 0.3, 0.24]), 10, _WOOD[1]
        ).speckled(rng, 0.1)
        return [staves, *(cylinder((x, h, z), (x, h + 0.05, z), 0.285, 0.285, 10, _IRON) for h in (0.14, 0.52))]

    return joined([*barrel(0.0, 0.0), *barrel(-0.7, -0.35)])


def _crate() -> Mesh:
    boards = [box((0.56, 0.1, 0.56), _WOOD[n % 2 * 2]).moved((0, 0.06 + 0.115 * n, 0)) for n in range(4)]
    return joined(
        [
            *boards,
            box((0.3, 0.02, 0.2), _WHITE).turned(pan=15).moved((0.02, 0.47, 0.0)),
            box((0.06, 0.03, 0.06), _RED).moved((0.06, 0.48, 0.02)),
        ]
    )

"""The set `saltmarsh-jetty`.

A plank jetty towards a tide station, with posts, ropes, reeds, a signal mast, hills and sky.

The deck is at y = 0 and runs along -Z; the water is at y = -0.9.
"""

from __future__ import annotations

import itertools

import numpy as np

from tools.demo.courier import courier
from tools.demo.glb import Piece
from tools.demo.meshes import Colour, Mesh, blob, box, cylinder, joined, sheet, srgb, tube
from zittern.core.units import Array

__all__ = ["DURATION_S", "SET_ID", "far_hills", "flag", "kite", "pieces", "sky", "times_s", "water"]

SET_ID = "saltmarsh-jetty"
DURATION_S = 12.0
_RATE_HZ = 24
_SEED = 20261124
_WATER_Y = -0.9
_HALF_WIDTH = 1.15
_POST_GAP = 2.4
_NEAR_Z, _FAR_Z = 8.0, -46.0

_WOOD = (srgb("#8D6B47"), srgb("#7A5A3A"), srgb("#9A7A55"), srgb("#6E5138"), srgb("#A08461"))
_POST, _ROPE, _WATER, _DEEP = srgb("#574839"), srgb("#C4A66C"), srgb("#6A908A"), srgb("#4C716D")
_REED, _REED_DRY, _SAND, _HILL = srgb("#7D9468"), srgb("#B5AC72"), srgb("#C9B583"), srgb("#8D9C86")
_WALL, _ROOF, _WHITE, _RED = srgb("#B9B2A2"), srgb("#A8452F"), srgb("#E9E4D8"), srgb("#B33A2B")


def times_s() -> Array:
    """Key times of the set's animation."""
    return np.arange(int(DURATION_S * _RATE_HZ) + 1) / _RATE_HZ


def pieces() -> list[Piece]:
    """All set pieces, named; the same every time."""
    rng = np.random.default_rng(_SEED)
    return [
        Piece("sky", sky(), unlit=True),
        Piece("water", water(rng)),
        Piece("hills", far_hills(rng)),
        Piece("planks", _planks(rng)),
        Piece("posts", _posts(rng)),
        Piece("ropes", _ropes()),
        Piece("reeds", _reeds(rng)),
        Piece("signal mast", _mast().moved((2.3, 0.0, -19.0))),
        Piece("tide station", _station(rng).moved((-1.2, 0.0, _FAR_Z - 3.0))),
        Piece("skiff", _skiff().turned(pan=24).moved((-4.6, _WATER_Y, -11.0))),
        Piece("crates", _crates().moved((0.72, 0.0, -15.6))),
        Piece("kite", kite().turned(pan=-20, tilt=-25, roll=14).moved((-16.0, 21.0, -75.0))),
        courier(times_s()),
    ]


def sky() -> Mesh:
    """Return a dome, light at the horizon."""
    stops = np.array([-0.06, 0.0, 0.05, 0.16, 0.4, 1.0])
    inks = np.array(
        [srgb("#A9B5AE"), srgb("#E3D9C0"), srgb("#D5D3C4"), srgb("#AFC0C3"), srgb("#86A3B2"), srgb("#5F849C")]
    )
    dome = blob((900.0, 900.0, 900.0), (1.0, 1.0, 1.0), 20, 44)
    height = dome.positions[:, 1] / 900.0
    return Mesh(dome.positions, np.stack([np.interp(height, stops, inks[:, c]) for c in range(3)], axis=1))


def water(rng: np.random.Generator) -> Mesh:
    """Return the marsh at high tide, darker along the jetty."""

    def axis(reach: float) -> Array:
        near = np.linspace(-21.0, 21.0, 25)
        far = np.geomspace(21.0, reach, 7)[1:]
        return np.concatenate([-far[::-1], near, far])

    xs, zs = axis(700.0), axis(700.0) - 14.0
    x, z = np.meshgrid(xs, zs)
    ripple = 0.05 * np.sin(0.9 * x + 1.7 * z) + 0.04 * np.sin(2.3 * x - 0.8 * z) + rng.normal(0.0, 0.02, x.shape)
    depth = np.clip(0.5 + 0.3 * np.sin(0.11 * x + 0.07 * z) + rng.normal(0.0, 0.16, x.shape), 0.0, 1.0)
    shade = np.where((np.abs(x - 0.9) < 1.9) & (z > _FAR_Z) & (z < _NEAR_Z), 0.55, 1.0)
    haze = np.clip(np.hypot(x, z) / 420.0, 0.0, 1.0)[:, :, None] ** 0.8
    colour = (np.array(_DEEP) + depth[:, :, None] * (np.array(_WATER) - np.array(_DEEP))) * shade[:, :, None]
    return sheet(xs, zs, _WATER_Y + ripple, colour * (1 - haze) + np.array(srgb("#B9C2B6")) * haze)


def far_hills(rng: np.random.Generator) -> Mesh:
    """Three ridges in the haze."""
    rows = []
    for distance, height, colour in ((150.0, 9.0, _SAND), (230.0, 20.0, _HILL), (380.0, 46.0, srgb("#A5B1AA"))):
        angle = np.linspace(-2.0, 2.0, 64)
        tops = height * (0.35 + 0.65 * np.abs(np.sin(2.7 * angle + distance) * np.cos(1.3 * angle))) + rng.uniform(
            0.0, height * 0.12, len(angle)
        )
        if distance < 200.0:
            tops = np.where(np.abs(angle + 0.75) < 0.5, tops, 0.4)
        ring = np.stack([distance * np.sin(angle), np.zeros_like(angle), -distance * np.cos(angle)], axis=1)
        foot, back = ring * 0.9, ring * 1.12
        foot[:, 1], ring[:, 1], back[:, 1] = _WATER_Y - 0.5, tops * 0.75, tops
        for low, high in ((foot, ring), (ring, back)):
            quads = np.stack([low[:-1], low[1:], high[1:], high[:-1]], axis=1)
            triangles = np.concatenate([quads[:, [0, 1, 2]], quads[:, [0, 2, 3]]]).reshape(-1, 3)
            rows.append(Mesh(triangles, np.tile(np.array(colour), (len(triangles), 1))).speckled(rng, 0.1))
    return joined(rows)


def _planks(rng: np.random.Generator) -> Mesh:
    parts = []
    for z in np.arange(_NEAR_Z, _FAR_Z, -0.25):
        width = 2.0 * _HALF_WIDTH + rng.uniform(-0.08, 0.12)
        colour = _WOOD[int(rng.integers(len(_WOOD)))]
        plank = (
            box((width, 0.05, 0.225), colour, "+x-x+y+z")
            .speckled(rng, 0.08)
            .turned(pan=rng.uniform(-1.2, 1.2), roll=rng.uniform(-0.5, 0.5))
        )
        parts.append(plank.moved((rng.uniform(-0.04, 0.04), -0.025 + rng.uniform(-0.008, 0.006), float(z))))
    for x in (-0.8, 0.8):
        parts.append(box((0.14, 0.2, _NEAR_Z - _FAR_Z), _POST).moved((x, -0.16, (_NEAR_Z + _FAR_Z) / 2)))
    return joined(parts)


def _post_places() -> list[tuple[float, float]]:
    return [
        (side * (_HALF_WIDTH + 0.06), float(z))
        for z in np.arange(_NEAR_Z - 1.0, _FAR_Z, -_POST_GAP)
        for side in (-1.0, 1.0)
    ]


def _post_top(x: float, z: float) -> Array:
    """Return the top of the post that holds the rope: posts lean by fixed random angles."""
    lean = np.sin(12.9898 * x + 78.233 * z)
    return np.array([x + 0.05 * lean, 1.0 + 0.1 * np.sin(3.1 * z + x), z + 0.04 * np.cos(5.0 * z)])


def _posts(rng: np.random.Generator) -> Mesh:
    parts = []
    for x, z in _post_places():
        top = _post_top(x, z)
        up = (top - np.array([x, _WATER_Y - 1.0, z])) / np.linalg.norm(top - np.array([x, _WATER_Y - 1.0, z]))
        tip = top + 0.12 * up
        parts.append(
            cylinder((x, _WATER_Y - 1.0, z), (tip[0], tip[1], tip[2]), 0.105, 0.085, 6, _POST, (False, True)).speckled(
                rng, 0.18
            )
        )
        low, high = top - 0.07 * up, top + 0.04 * up
        parts.append(
            cylinder(
                (low[0], low[1], low[2]), (high[0], high[1], high[2]), 0.112, 0.112, 6, _ROPE, (False, True)
            ).speckled(rng, 0.12)
        )
    return joined(parts)


def _ropes() -> Mesh:
    parts = []
    for side in (-1.0, 1.0):
        tops = [_post_top(x, z) for x, z in _post_places() if np.sign(x) == side]
        for a, b in itertools.pairwise(tops):
            u = np.linspace(0.0, 1.0, 6)[:, None]
            line = a + (b - a) * u
            line[:, 1] -= 0.3 * 4.0 * (u * (1 - u))[:, 0]
            parts.append(tube(line, np.full(6, 0.026), 3, _ROPE, (False, False)))
    return joined(parts)


def _reeds(rng: np.random.Generator) -> Mesh:
    parts = []
    for _ in range(90):
        side = rng.choice([-1.0, 1.0])
        x, z = side * rng.uniform(2.6, 26.0), rng.uniform(_FAR_Z - 20.0, 6.0)
        for _ in range(int(rng.integers(4, 8))):
            dx, dz, height = rng.normal(0, 0.22), rng.normal(0, 0.22), rng.uniform(0.8, 1.9)
            colour = _REED if rng.random() < 0.65 else _REED_DRY
            foot = (float(x + dx), _WATER_Y - 0.1, float(z + dz))
            tip = (float(x + dx * 1.8 + 0.15), _WATER_Y + float(height), float(z + dz * 1.6))
            wide = 0.06 if rng.random() < 0.5 else -0.06
            blade = np.array([foot, (foot[0] + wide, foot[1], foot[2] + 0.03), tip])
            parts.append(Mesh(blade, np.tile(np.array(colour), (3, 1))))
    return joined(parts)


def flag(width: float, height: float, colour: Colour, x: float, y: float) -> Mesh:
    """Return a stiff flag at a position next to a mast, meters."""
    return box((width, height, 0.03), colour).turned(pan=12).moved((x, y, 0.0))


def _mast() -> Mesh:
    return joined(
        [
            cylinder((0, _WATER_Y - 1.0, 0), (0, 6.4, 0), 0.13, 0.07, 8, _POST),
            cylinder((-1.0, 5.2, 0), (1.0, 5.2, 0), 0.05, 0.05, 6, _POST),
            blob((0.14, 0.14, 0.14), _RED, 8, 5).moved((0, 6.5, 0)),
            flag(0.8, 0.5, _RED, -0.5, 4.85),
            flag(0.5, 0.44, _WHITE, 0.55, 4.9),
            flag(0.36, 0.3, srgb("#2F4B6E"), 0.75, 4.3),
            cylinder((0, 6.2, 0), (1.9, _WATER_Y, 1.2), 0.015, 0.015, 4, _ROPE),
            cylinder((0, 6.2, 0), (1.6, _WATER_Y, -1.6), 0.015, 0.015, 4, _ROPE),
        ]
    )


def _station(rng: np.random.Generator) -> Mesh:
    walls = box((5.2, 3.0, 4.4), _WALL).speckled(rng, 0.06).moved((0, 1.5, 0))
    roof = cylinder((0, 3.0, 0), (0, 5.2, 0), 4.3, 0.15, 4, _ROOF).turned(pan=45).speckled(rng, 0.1)
    parts = [walls, roof, box((8.0, 0.2, 7.0), _WOOD[1]).moved((0.4, -0.12, 0))]
    parts += [
        box((0.9, 2.0, 0.1), _POST).moved((1.2, 1.0, 2.24)),
        box((1.0, 0.9, 0.1), srgb("#E7C77A")).moved((-1.1, 1.7, 2.24)),
    ]
    parts += [
        cylinder((x, _WATER_Y - 1.0, z), (x, 0.0, z), 0.16, 0.14, 7, _POST)
        for x in (-2.9, 0.4, 3.6)
        for z in (-2.8, 2.8)
    ]
    parts += [
        cylinder((2.9, 3.2, 0.4), (2.9, 6.0, 0.4), 0.05, 0.03, 6, _POST),
        flag(0.9, 0.5, srgb("#D9B45B"), 3.35, 5.7),
    ]
    return joined(parts)


def _skiff() -> Mesh:
    hull, inner = srgb("#6A4630"), srgb("#A98B5E")
    return joined(
        [
            box((1.1, 0.34, 2.6), hull).moved((0, 0.12, 0)),
            cylinder((0, 0.12, -1.3), (0, 0.3, -2.2), 0.5, 0.05, 4, hull),
            box((0.86, 0.04, 2.3), inner).moved((0, 0.3, 0)),
            box((0.95, 0.05, 0.3), hull).moved((0, 0.36, 0.2)),
            cylinder((0.5, 0.35, 1.2), (1.0, 0.42, -1.6), 0.03, 0.03, 5, inner),
        ]
    )


def _crates() -> Mesh:
    return joined(
        [
            box((0.5, 0.45, 0.5), _WOOD[2]).turned(pan=14).moved((0, 0.225, 0)),
            box((0.4, 0.32, 0.4), _WOOD[0]).turned(pan=-20).moved((-0.02, 0.61, 0.02)),
            box((0.42, 0.05, 0.1), _RED).turned(pan=-20).moved((-0.02, 0.78, 0.02)),
            cylinder((-0.1, 0.0, 0.62), (-0.1, 0.5, 0.62), 0.19, 0.19, 10, _POST),
        ]
    )


def kite() -> Mesh:
    """Return the kite that draws the sled."""
    sail = np.array(
        [
            [[0, 2.2, 0], [-1.5, 0.4, 0], [0, 0.4, -0.4]],
            [[0, 2.2, 0], [0, 0.4, -0.4], [1.5, 0.4, 0]],
            [[0, -2.4, 0], [0, 0.4, -0.4], [-1.5, 0.4, 0]],
            [[0, -2.4, 0], [1.5, 0.4, 0], [0, 0.4, -0.4]],
        ]
    )
    inks = np.repeat(np.array([_RED, _WHITE, _WHITE, _RED]), 3, axis=0)
    tail = np.stack([0.5 * np.sin(np.linspace(0, 7, 12)), np.linspace(-2.4, -8.0, 12), np.zeros(12)], axis=1)
    return joined([Mesh(sail.reshape(-1, 3), inks), tube(tail, np.full(12, 0.07), 4, _RED)])

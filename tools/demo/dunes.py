"""The set `saltmarsh-dunes`.

Dunes above the marsh, a lamp on a post, the kite-drawn sled at rest, grass, posts and a far shore.
"""

from __future__ import annotations

import numpy as np

from tools.demo.glb import Piece
from tools.demo.jetty import far_hills, sky
from tools.demo.meshes import Mesh, blob, box, cylinder, joined, sheet, srgb, tube
from zittern.core.units import Array

__all__ = ["LAMP_M", "SET_ID", "pieces"]

SET_ID = "saltmarsh-dunes"
# Centre of the lamp's flame.
LAMP_M = (0.0, 1.62, -6.0)
_SEED = 71

_SAND, _SAND_SHADE, _GRASS, _GRASS_DRY = srgb("#D8C492"), srgb("#B79F6E"), srgb("#8A9A5F"), srgb("#B8A868")
_WOOD, _IRON, _GLASS, _FLAME = srgb("#6B5138"), srgb("#34373C"), srgb("#F3DFA0"), srgb("#FFF1C4")
_ROPE, _RED, _WHITE = srgb("#C4A66C"), srgb("#B33A2B"), srgb("#E9E4D8")


def pieces() -> list[Piece]:
    """All set pieces, named; the same every time."""
    rng = np.random.default_rng(_SEED)
    return [
        Piece("sky", sky(), unlit=True),
        Piece("shore", far_hills(rng)),
        Piece("sand", _sand(rng)),
        Piece("grass", _grass(rng)),
        Piece("fence", _fence(rng)),
        Piece("sled", _sled().turned(pan=-32).moved((3.1, float(height_m(3.1, -11.0)), -11.0))),
        Piece("driftwood", _driftwood().moved((-2.6, float(height_m(-2.6, -8.5)), -8.5))),
        Piece("lamp post", _post().moved((LAMP_M[0], 0.0, LAMP_M[2]))),
        Piece("lamp", _lantern().moved(LAMP_M)),
        Piece("flame", blob((0.035, 0.07, 0.035), _FLAME, 8, 6).moved(LAMP_M), unlit=True),
    ]


def height_m(x: Array | float, z: Array | float) -> Array:
    """Height of the sand. Level around the lamp and the camera."""
    x, z = np.asarray(x, dtype=np.float64), np.asarray(z, dtype=np.float64)
    away = np.clip((np.hypot(x * 0.9, z + 4.0) - 5.0) / 14.0, 0.0, 1.0)
    waves = (
        1.6 * np.sin(0.21 * x + 0.4) * np.cos(0.17 * z)
        + 0.7 * np.sin(0.47 * x - 0.31 * z)
        + 0.12 * np.sin(1.9 * x + 0.8 * z)
    )
    return np.asarray(away * waves, dtype=np.float64)


def _sand(rng: np.random.Generator) -> Mesh:
    near = np.linspace(-24.0, 24.0, 33)
    far = np.geomspace(24.0, 260.0, 7)[1:]
    axis = np.concatenate([-far[::-1], near, far])
    xs, zs = axis, axis - 8.0
    x, z = np.meshgrid(xs, zs)
    y = height_m(x, z)
    y = np.where(np.hypot(x, z) > 90.0, y - (np.hypot(x, z) - 90.0) * 0.03, y)
    slope = np.clip(0.5 + 0.5 * np.gradient(y, axis=1) + rng.normal(0.0, 0.09, x.shape), 0.0, 1.0)[:, :, None]
    haze = np.clip(np.hypot(x, z) / 240.0, 0.0, 1.0)[:, :, None]
    colour = np.array(_SAND_SHADE) + slope * (np.array(_SAND) - np.array(_SAND_SHADE))
    return sheet(xs, zs, y, colour * (1 - 0.6 * haze) + np.array(srgb("#C9C8B4")) * 0.6 * haze)


def _grass(rng: np.random.Generator) -> Mesh:
    parts = []
    for _ in range(110):
        x, z = rng.uniform(-18, 18), rng.uniform(-34, 1)
        if np.hypot(x, z) < 2.2:
            continue
        ground = float(height_m(x, z))
        for _ in range(int(rng.integers(5, 9))):
            foot = np.array([x + rng.normal(0, 0.1), ground - 0.03, z + rng.normal(0, 0.1)])
            tip = foot + np.array([rng.normal(0.14, 0.12), rng.uniform(0.3, 0.75), rng.normal(0, 0.12)])
            blade = np.array([foot, foot + np.array([0.03, 0.0, 0.015]), tip])
            parts.append(Mesh(blade, np.tile(np.array(_GRASS if rng.random() < 0.6 else _GRASS_DRY), (3, 1))))
    return joined(parts)


def _fence(rng: np.random.Generator) -> Mesh:
    parts, tops = [], []
    for i in range(12):
        x, z = -7.0 + 0.55 * i, -13.0 - 0.9 * i + 0.5 * np.sin(i)
        ground = float(height_m(x, z))
        lean = rng.uniform(-0.08, 0.08)
        parts.append(
            cylinder((x, ground - 0.4, z), (x + lean, ground + 1.05, z), 0.07, 0.055, 6, _WOOD, (False, True)).speckled(
                rng, 0.15
            )
        )
        tops.append(np.array([x + lean * 0.9, ground + 0.92, z]))
    for a, b in zip(tops[:-1], tops[1:], strict=True):
        u = np.linspace(0.0, 1.0, 5)[:, None]
        line = a + (b - a) * u
        line[:, 1] -= 0.16 * 4.0 * (u * (1 - u))[:, 0]
        parts.append(tube(line, np.full(5, 0.02), 3, _ROPE, (False, False)))
    return joined(parts)


def _sled() -> Mesh:
    runners = [
        tube(np.array([[s, 0.3, -1.7], [s, 0.06, -1.3], [s, 0.05, 1.3]]), np.full(3, 0.05), 5, _WOOD)
        for s in (-0.55, 0.55)
    ]
    boards = [box((1.3, 0.05, 0.3), _WOOD).moved((0, 0.34, z)) for z in (-0.9, -0.5, -0.1, 0.3, 0.7, 1.1)]
    legs = [cylinder((s, 0.05, z), (s, 0.34, z), 0.035, 0.035, 5, _WOOD) for s in (-0.55, 0.55) for z in (-0.9, 0.9)]
    load = [
        box((0.7, 0.42, 0.6), srgb("#8C5A2E")).moved((0, 0.58, 0.5)),
        box((0.5, 0.3, 0.4), _RED).turned(pan=12).moved((0.05, 0.94, 0.5)),
    ]
    return joined([*runners, *boards, *legs, *load, box((0.02, 0.2, 0.3), _WHITE).moved((0.31, 0.94, 0.5))])


def _driftwood() -> Mesh:
    trunk = tube(
        np.array([[-0.9, 0.1, 0.2], [0.0, 0.16, 0.0], [1.1, 0.1, -0.3]]),
        np.array([0.1, 0.14, 0.06]),
        6,
        srgb("#A0917B"),
    )
    return joined([trunk, cylinder((0.1, 0.2, 0.0), (0.35, 0.75, -0.2), 0.05, 0.02, 5, srgb("#A0917B"))])


def _post() -> Mesh:
    return joined(
        [
            cylinder((-0.34, -0.6, -0.02), (-0.34, 2.3, -0.02), 0.075, 0.06, 7, _WOOD),
            cylinder((-0.36, 2.1, -0.02), (0.06, 2.1, -0.02), 0.03, 0.025, 6, _IRON),
            cylinder((-0.32, 1.75, -0.02), (-0.06, 2.1, -0.02), 0.02, 0.02, 5, _IRON),
            cylinder((0.0, 2.1, 0.0), (0.0, 1.86, 0.0), 0.008, 0.008, 4, _IRON),
            box((0.02, 0.5, 0.32), _RED).moved((-0.34, 1.0, 0.1)),
        ]
    )


def _lantern() -> Mesh:
    bars = [cylinder((x, -0.16, z), (x, 0.14, z), 0.009, 0.009, 4, _IRON) for x in (-0.09, 0.09) for z in (-0.09, 0.09)]
    panes = [
        box((0.005, 0.26, 0.15), _GLASS).moved((-0.092, -0.01, 0)),
        box((0.15, 0.26, 0.005), _GLASS).moved((0, -0.01, -0.092)),
    ]
    frame = [box((0.24, 0.03, 0.24), _IRON).moved((0, -0.17, 0)), box((0.22, 0.02, 0.22), _IRON).moved((0, 0.145, 0))]
    roof = [
        cylinder((0, 0.15, 0), (0, 0.25, 0), 0.15, 0.03, 4, _IRON).turned(pan=45),
        cylinder((0, 0.25, 0), (0, 0.29, 0), 0.02, 0.02, 5, _IRON),
    ]
    wick = cylinder((0, -0.16, 0), (0, -0.07, 0), 0.03, 0.02, 6, srgb("#8A6A3A"))
    return joined([*bars, *panes, *frame, *roof, wick])

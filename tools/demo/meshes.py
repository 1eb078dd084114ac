"""Primitives as coloured triangles.

A mesh is positions (N, 3) in metres and colours (N, 3) in 0..1 linear, three rows a triangle.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from zittern.core.rig import rotations
from zittern.core.units import Array

__all__ = ["Colour", "Mesh", "blob", "box", "cylinder", "joined", "sheet", "srgb", "tube"]

Colour = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Mesh:
    """Coloured triangles."""

    positions: Array
    colours: Array

    def moved(self, by: tuple[float, float, float]) -> Mesh:
        """Shifted, metres."""
        return Mesh(self.positions + np.array(by), self.colours)

    def turned(self, pan: float = 0.0, tilt: float = 0.0, roll: float = 0.0) -> Mesh:
        """Return the mesh rotated about the origin, degrees."""
        turn = rotations.matrices(np.array([[pan, tilt, roll]]))[0]
        return Mesh(self.positions @ turn.T, self.colours)

    def scaled(self, by: float) -> Mesh:
        """Larger or smaller about the origin."""
        return Mesh(self.positions * by, self.colours)

    def speckled(self, rng: np.random.Generator, amount: float) -> Mesh:
        """Each triangle a little lighter or darker."""
        factor = np.repeat(1.0 + rng.uniform(-amount, amount, len(self.colours) // 3), 3)
        return Mesh(self.positions, np.clip(self.colours * factor[:, None], 0.0, 1.0))


def srgb(code: str) -> Colour:
    """Return a colour written as `#rrggbb`, in linear light (IEC 61966-2-1)."""
    parts = [int(code[i : i + 2], 16) / 255.0 for i in (1, 3, 5)]
    r, g, b = ((c / 12.92) if c <= 0.04045 else ((c + 0.055) / 1.055) ** 2.4 for c in parts)
    return r, g, b


def joined(meshes: list[Mesh]) -> Mesh:
    """Return several documents as one."""
    return Mesh(np.concatenate([m.positions for m in meshes]), np.concatenate([m.colours for m in meshes]))


def _mesh_of(triangles: Array, colour: Colour) -> Mesh:
    positions = triangles.reshape(-1, 3)
    return Mesh(positions, np.tile(np.array(colour), (len(positions), 1)))


def _quads(corners: Array) -> Array:
    """(Q, 4, 3) counter-clockwise quads -> (2Q, 3, 3) triangles."""
    return np.concatenate([corners[:, [0, 1, 2]], corners[:, [0, 2, 3]]], axis=1).reshape(-1, 3, 3)


def box(size: tuple[float, float, float], colour: Colour, faces: str = "+x-x+y-y+z-z") -> Mesh:
    """Return a box about the origin; `faces` may omit hidden sides."""
    x, y, z = (np.array(size) / 2.0).tolist()
    quads = np.array(
        [
            [[x, -y, z], [x, -y, -z], [x, y, -z], [x, y, z]], [[-x, -y, -z], [-x, -y, z], [-x, y, z], [-x, y, -z]],
            [[-x, y, z], [x, y, z], [x, y, -z], [-x, y, -z]], [[-x, -y, -z], [x, -y, -z], [x, -y, z], [-x, -y, z]],
            [[-x, -y, z], [x, -y, z], [x, y, z], [-x, y, z]], [[x, -y, -z], [-x, -y, -z], [-x, y, -z], [x, y, -z]],
        ]
    )  # fmt: skip
    shown = [i for i, name in enumerate(("+x", "-x", "+y", "-y", "+z", "-z")) if name in faces]
    return _mesh_of(_quads(quads[shown]), colour)


def cylinder(
    start: tuple[float, float, float],
    stop: tuple[float, float, float],
    r_start: float,
    r_stop: float,
    sides: int,
    colour: Colour,
    closed: tuple[bool, bool] = (True, True),
) -> Mesh:
    """Return a (frustum of a) cone from one point to another."""
    return tube(np.array([start, stop]), np.array([r_start, r_stop]), sides, colour, closed)


def tube(points: Array, radii: Array, sides: int, colour: Colour, closed: tuple[bool, bool] = (True, True)) -> Mesh:
    """Return a tube along points (N, 3) with a radius at each (N,); `closed` says whether its start and its end are."""
    rings = _rings(points, radii, sides)
    around = np.roll(np.arange(sides), -1)
    quads = np.stack([rings[:-1], rings[:-1][:, around], rings[1:][:, around], rings[1:]], axis=2).reshape(-1, 4, 3)
    caps = []
    for ring, centre, flip, wanted in (
        (rings[0], points[0], True, closed[0]),
        (rings[-1], points[-1], False, closed[1]),
    ):
        if not wanted:
            continue
        fan = np.stack([np.tile(centre, (sides, 1)), ring, ring[around]], axis=1)
        caps.append(fan[:, ::-1] if flip else fan)
    return _mesh_of(np.concatenate([_quads(quads), *caps]), colour)


def _rings(points: Array, radii: Array, sides: int) -> Array:
    """(N, sides, 3): circles across the line, right-handed about its direction."""
    ahead = np.gradient(points, axis=0)
    ahead /= np.linalg.norm(ahead, axis=1, keepdims=True)
    helper = np.array([0.0, 0.0, 1.0]) if abs(ahead[0, 1]) > 0.9 else np.array([0.0, 1.0, 0.0])
    across = np.cross(ahead, helper)
    across /= np.linalg.norm(across, axis=1, keepdims=True)
    up = np.cross(ahead, across)
    angle = np.linspace(0.0, 2.0 * np.pi, sides, endpoint=False)
    circle = np.cos(angle)[None, :, None] * across[:, None, :] + np.sin(angle)[None, :, None] * up[:, None, :]
    return np.asarray(points[:, None, :] + circle * radii[:, None, None], dtype=np.float64)


def blob(radii: tuple[float, float, float], colour: Colour, around: int = 10, rings: int = 6) -> Mesh:
    """Return an ellipsoid about the origin."""
    lat = np.linspace(-np.pi / 2, np.pi / 2, rings + 1)
    line = np.stack([np.zeros(rings + 1), np.sin(lat), np.zeros(rings + 1)], axis=1)
    ball = tube(line, np.maximum(np.cos(lat), 1e-4), around, colour)
    return Mesh(ball.positions * np.array(radii), ball.colours)


def sheet(xs: Array, zs: Array, heights: Array, colours: Array) -> Mesh:
    """Return a surface over a grid, seen from above. xs (X,), zs (Z,), heights (Z, X), colours (Z, X, 3)."""
    grid = np.stack(np.broadcast_arrays(xs[None, :], heights, zs[:, None]), axis=2)

    def corners(values: Array) -> Array:
        return np.stack([values[1:, :-1], values[1:, 1:], values[:-1, 1:], values[:-1, :-1]], axis=2).reshape(-1, 4, 3)

    shade = corners(colours)
    flat = np.repeat(_quads(shade).mean(axis=1), 3, axis=0)
    return Mesh(_quads(corners(grid)).reshape(-1, 3), flat)

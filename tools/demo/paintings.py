"""Painted plates of the demo: a storm surge off the marsh, from the sky to the reeds in front."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from PIL import Image

from zittern.core.units import Array

__all__ = ["HEIGHT_PX", "PAINTINGS", "WIDTH_PX"]

WIDTH_PX, HEIGHT_PX = 1600, 900


def _grid() -> tuple[Array, Array]:
    """Across 0 to 1 and up 0 to 1, each (rows, columns)."""
    across = np.linspace(0.0, 1.0, WIDTH_PX)
    up = np.linspace(1.0, 0.0, HEIGHT_PX)
    return np.broadcast_to(across, (HEIGHT_PX, WIDTH_PX)), np.broadcast_to(up[:, None], (HEIGHT_PX, WIDTH_PX))


def _waves(seed: int, x: Array, low: float, high: float, count: int = 24) -> Array:
    """Return a line that goes up and down, of many sines: between -1 and 1 mostly."""
    rng = np.random.default_rng(seed)
    cycles = np.geomspace(low, high, count)
    sizes = cycles**-0.8
    phases = rng.uniform(0.0, 2.0 * np.pi, count)
    total: Array = np.zeros(x.shape)
    for size, each, phase in zip(sizes, cycles, phases, strict=True):
        total += size * np.sin(2.0 * np.pi * each * x + phase)
    return np.asarray(total / np.sqrt(np.sum(sizes**2) / 2.0) / 2.0)


def _mixed(share: Array, low: tuple[int, int, int], high: tuple[int, int, int]) -> Array:
    return np.asarray(np.asarray(low) + np.clip(share, 0.0, 1.0)[..., None] * (np.asarray(high, dtype=float) - low))


def _painted(colour: Array, cover: Array | None = None) -> Image.Image:
    rgb = np.clip(colour, 0.0, 255.0)
    if cover is None:
        return Image.fromarray(rgb.astype(np.uint8))
    alpha = np.clip(cover, 0.0, 1.0)[..., None] * 255.0
    return Image.fromarray(np.concatenate([rgb, alpha], axis=2).astype(np.uint8))


def _edge(up: Array, line: Array, soft: float = 0.002) -> Array:
    """1 below a line, 0 above it."""
    return np.asarray(np.clip((line - up) / soft + 0.5, 0.0, 1.0))


def sky() -> Image.Image:
    """Clouds in bands, dark above, a pale gap along the horizon."""
    x, up = _grid()
    bent = up + 0.05 * _waves(3, x, 0.4, 9.0)
    bands = sum(0.5**n * _waves(10 + n, bent * (3.0 + 2.0 * n) + 0.35 * x, 0.3, 6.0) for n in range(4))
    light = np.exp(-(((up - 0.36) / 0.12) ** 2))
    return _painted(_mixed(0.42 + 0.2 * bands - 0.25 * up + 0.55 * light, (52, 60, 74), (214, 206, 184)))


def far_shore() -> Image.Image:
    """Low dunes and a beacon, far out."""
    x, up = _grid()
    ridge = 0.36 + 0.018 * _waves(21, x, 0.8, 40.0)
    cover = _edge(up, ridge)
    mast = (np.abs(x - 0.68) < 0.0012) & (up < 0.46)
    lamp = (np.abs(x - 0.68) < 0.004) & (np.abs(up - 0.463) < 0.006)
    colour = _mixed((ridge - up) * 6.0 + 0.2 * _waves(22, x * 3.0 + up, 1.0, 60.0), (96, 104, 112), (70, 80, 88))
    colour = np.where(lamp[..., None], (244, 222, 160), colour)
    return _painted(colour, np.maximum(cover, (mast | lamp).astype(float)))


def _sea(seed: int, level: float, height: float, low: tuple[int, int, int], high: tuple[int, int, int]) -> Image.Image:
    """Return a swell with foam along its crest."""
    x, up = _grid()
    crest = level + height * _waves(seed, x, 1.0, 26.0)
    below = crest - up
    streaks = 0.5 + 0.35 * _waves(seed + 1, x * 2.0 + 6.0 * below, 1.0, 50.0) - 1.6 * below
    foam = np.exp(-((below / 0.012) ** 2)) * (0.6 + 0.4 * _waves(seed + 2, x, 8.0, 90.0))
    colour = _mixed(streaks, low, high) + foam[..., None] * 90.0
    return _painted(colour, _edge(up, crest, 0.003))


def outer_swell() -> Image.Image:
    """Return the sea behind the posts."""
    return _sea(31, 0.31, 0.02, (34, 62, 70), (92, 124, 124))


def posts() -> Image.Image:
    """Remains of a landing stage after the surge."""
    x, up = _grid()
    colour, cover = np.full((HEIGHT_PX, WIDTH_PX, 3), (58.0, 44.0, 32.0)), np.zeros((HEIGHT_PX, WIDTH_PX))
    rng = np.random.default_rng(41)
    for n, place in enumerate(np.linspace(0.12, 0.86, 9)):
        lean = rng.uniform(-0.04, 0.04)
        top = rng.uniform(0.36, 0.56)
        wide = rng.uniform(0.005, 0.009)
        aside = np.abs(x - place - lean * (up - 0.2))
        inside = _edge(aside, np.full_like(x, wide), 0.0012) * _edge(up, np.full_like(x, top))
        shade = _mixed(0.5 + (x - place) / wide / 2.5, (74, 56, 40), (38, 28, 22))
        colour = np.where((inside > cover)[..., None], shade, colour)
        cover = np.maximum(cover, inside)
        if n % 2:
            rope = top - 0.05 - 0.03 * np.sin(np.pi * np.clip((x - place) / 0.185, 0.0, 1.0))
            hangs = _edge(np.abs(up - rope), np.full_like(x, 0.003), 0.002) * ((x > place) & (x < place + 0.185))
            colour = np.where((hangs > cover)[..., None], (150, 120, 70), colour)
            cover = np.maximum(cover, hangs)
    return _painted(colour, cover)


def near_swell() -> Image.Image:
    """Return the sea in front of the posts."""
    return _sea(51, 0.18, 0.035, (24, 48, 56), (74, 108, 106))


def reeds() -> Image.Image:
    """Reeds bent by the wind, quite near."""
    x, up = _grid()
    cover = np.zeros((HEIGHT_PX, WIDTH_PX))
    colour = np.full((HEIGHT_PX, WIDTH_PX, 3), (52.0, 58.0, 30.0))
    rng = np.random.default_rng(61)
    for _ in range(130):
        foot = rng.uniform(-0.05, 1.0)
        if 0.3 < foot < 0.72 and rng.random() < 0.85:
            continue
        tall, lean, wide = rng.uniform(0.12, 0.34), rng.uniform(0.1, 0.3), rng.uniform(0.0014, 0.0026)
        stem = foot + lean * (up / tall) ** 1.8 * tall
        blade = _edge(np.abs(x - stem), wide * (1.0 - 0.8 * up / tall), 0.0008) * (up < tall)
        tone = _mixed(np.full_like(x, rng.random()), (44, 52, 26), (132, 124, 66))
        colour = np.where((blade > cover)[..., None], tone, colour)
        cover = np.maximum(cover, blade)
    return _painted(colour, cover)


# From the nearest to the rearmost: name, painter, distance (m), overscan (%).
PAINTINGS: dict[str, tuple[Callable[[], Image.Image], float, float]] = {
    "Reeds": (reeds, 2.2, 40.0),
    "Near swell": (near_swell, 5.0, 40.0),
    "Posts": (posts, 8.0, 40.0),
    "Outer swell": (outer_swell, 13.0, 40.0),
    "Far shore": (far_shore, 40.0, 40.0),
    "Storm sky": (sky, 90.0, 6.0),
}

"""Build the shipped takes with random numbers and simple physics, and write them as CSV.

Run by `make takes`; a test compares the files with its result.

They are imitations of recordings, not recordings: a body is a slowly wandering point with a spring that pulls it back;
hands answer late and overshoot; steps and waves are uneven. Each is 24 seconds long, 30 samples a second.
"""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from zittern.core.units import Array
from zittern.formats.take_file import write_take
from zittern.store.takes import SHIPPED

__all__ = ["TAKES", "main"]

_SECONDS, _RATE_HZ = 24.0, 30.0
_TIMES = np.arange(0.0, _SECONDS, 1.0 / _RATE_HZ)


def _wander(rng: np.random.Generator, hz: float, damping: float, size: float) -> Array:
    """Return a mass on a spring pushed about at random, of a given RMS. (N,)."""
    fine = 8
    step = 1.0 / _RATE_HZ / fine
    w = 2.0 * np.pi * hz
    x = v = 0.0
    out = []
    for push in rng.normal(size=len(_TIMES) * fine + fine * 120):
        v += step * (push / np.sqrt(step) - 2.0 * damping * w * v - w * w * x)
        x += step * v
        out.append(x)
    kept = np.array(out[fine * 120 :: fine])[: len(_TIMES)]
    return np.asarray(size * kept / np.std(kept), dtype=np.float64)


def _standing_operator() -> dict[str, Array]:
    """Return a take of a tired person who stands with the camera at the eye."""
    rng = np.random.default_rng(11)
    lean = _wander(rng, 0.3, 0.6, 1.0)
    breath = np.sin(2.0 * np.pi * (0.27 * _TIMES + 0.12 * _wander(rng, 0.05, 0.8, 1.0)))
    return {
        "pan_deg": 0.25 * lean + _wander(rng, 0.9, 0.5, 0.16) + _wander(rng, 6.5, 0.3, 0.03),
        "tilt_deg": _wander(rng, 0.5, 0.5, 0.18) + 0.12 * breath + _wander(rng, 7.0, 0.3, 0.035),
        "roll_deg": 0.2 * lean + _wander(rng, 0.7, 0.6, 0.08),
        "truck_cm": 0.9 * lean + _wander(rng, 1.4, 0.5, 0.12),
        "pedestal_cm": 0.45 * breath + _wander(rng, 0.8, 0.6, 0.2),
        "dolly_cm": _wander(rng, 0.35, 0.6, 0.7),
    }


def _walking() -> dict[str, Array]:
    """Return a take of a person who walks and looks through the camera."""
    rng = np.random.default_rng(12)
    pace = 1.75 + 0.08 * _wander(rng, 0.1, 0.8, 1.0)
    step = 2.0 * np.pi * np.cumsum(pace) / _RATE_HZ
    size = 1.0 + 0.2 * _wander(rng, 0.4, 0.7, 1.0)
    return {
        "pan_deg": 0.5 * size * np.sin(0.5 * step + 0.7) + _wander(rng, 0.6, 0.5, 0.35),
        "tilt_deg": 0.4 * size * np.sin(step + 0.9) + _wander(rng, 0.7, 0.5, 0.3),
        "roll_deg": 0.7 * size * np.sin(0.5 * step) + _wander(rng, 0.5, 0.6, 0.15),
        "truck_cm": 2.2 * size * np.sin(0.5 * step + 0.2) + _wander(rng, 0.4, 0.6, 0.6),
        "pedestal_cm": -2.0 * size * np.cos(step) + 0.5 * np.cos(2.0 * step + 0.4) + _wander(rng, 0.5, 0.6, 0.3),
        "dolly_cm": 0.8 * size * np.sin(step + 1.4) + _wander(rng, 0.3, 0.6, 0.8),
    }


def _boat() -> dict[str, Array]:
    """Return a take of a person in a small boat that crosses its own wake."""
    rng = np.random.default_rng(13)
    swell, chop = _wander(rng, 0.28, 0.12, 1.0), _wander(rng, 0.9, 0.15, 1.0)
    late = np.roll(swell, 12)
    return {
        "pan_deg": 0.5 * _wander(rng, 0.12, 0.5, 1.0) + 0.2 * chop,
        "tilt_deg": 1.1 * swell + 0.4 * chop + _wander(rng, 2.2, 0.4, 0.1),
        "roll_deg": 1.6 * late + 0.5 * _wander(rng, 0.7, 0.2, 1.0),
        "truck_cm": 2.0 * late + _wander(rng, 0.6, 0.5, 0.6),
        "pedestal_cm": 5.0 * swell + 1.4 * chop,
        "dolly_cm": 1.2 * _wander(rng, 0.4, 0.4, 1.0),
    }


TAKES: dict[str, Callable[[], dict[str, Array]]] = {
    "standing-tired": _standing_operator,
    "walking-along": _walking,
    "small-boat": _boat,
}


def main() -> None:
    """One CSV a take."""
    SHIPPED.mkdir(exist_ok=True)
    for name, make in TAKES.items():
        path = SHIPPED / f"{name}.csv"
        path.write_text(write_take(_TIMES, make()))
        print(f"{path}: {path.stat().st_size} bytes")


if __name__ == "__main__":
    main()

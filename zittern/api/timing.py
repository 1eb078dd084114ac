"""Durations of the parts of an answer, in its Server-Timing header (W3C)."""

from __future__ import annotations

import time

__all__ = ["Timing"]


class Timing:
    """Milliseconds of the steps of a task, in sequence."""

    def __init__(self) -> None:
        self._last = time.perf_counter()
        self._steps: list[str] = []

    def mark(self, name: str) -> None:
        """Record the end of a step."""
        now = time.perf_counter()
        self._steps.append(f"{name};dur={(now - self._last) * 1e3:.2f}")
        self._last = now

    def headers(self) -> dict[str, str]:
        """Return the headers: `Server-Timing: apply;dur=0.41, evaluate;dur=3.20`."""
        return {"Server-Timing": ", ".join(self._steps)}

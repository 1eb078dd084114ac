"""Line plots as SVG, in the look of the product: paper, ink, rules. For the figures of docs/motion-models.md."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from zittern.core.units import Array

__all__ = ["Line", "plot"]

_WIDTH, _HEIGHT = 640, 300
_LEFT, _RIGHT, _TOP, _BOTTOM = 64, 16, 34, 46
_PAPER, _RULE, _INK, _GRAPHITE = "#F4F0E6", "#D8CDB6", "#20242F", "#5F6470"
_DASHED = f'stroke="{_GRAPHITE}" stroke-dasharray="3 3"'
_TICKS = 6


@dataclass(frozen=True, slots=True)
class Line:
    """x, y (N,). dots: marks in place of a line, for figures from elsewhere. dash: of the line."""

    x: Array
    y: Array
    label: str
    ink: str = _INK
    dots: bool = False
    dash: str = ""


def plot(
    title: str,
    across: str,
    up: str,
    lines: Sequence[Line],
    log_x: bool = False,
    log_y: bool = False,
    marks: Sequence[tuple[float, str]] = (),
) -> str:
    """An SVG. marks: values of x with a line from top to bottom, and what it says."""
    xs = _Scale.over(np.concatenate([line.x for line in lines]), (_LEFT, _WIDTH - _RIGHT), log_x)
    ys = _Scale.over(np.concatenate([line.y for line in lines]), (_HEIGHT - _BOTTOM, _TOP), log_y, room=0.06)
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {_WIDTH} {_HEIGHT}" font-family="IBM Plex Sans, '
        f'sans-serif" font-size="11" fill="{_INK}">',
        f'<rect width="{_WIDTH}" height="{_HEIGHT}" fill="{_PAPER}"/>',
        f'<text x="{_LEFT}" y="18" font-size="13" font-weight="600">{title}</text>',
        *(_tick(xs.at(value), (_TOP, _HEIGHT - _BOTTOM), _named(value), True) for value in xs.ticks()),
        *(_tick(ys.at(value), (_LEFT, _WIDTH - _RIGHT), _named(value), False) for value in ys.ticks()),
        f'<text x="{(_LEFT + _WIDTH - _RIGHT) / 2}" y="{_HEIGHT - 8}" text-anchor="middle" '
        f'fill="{_GRAPHITE}">{across}</text>',
        f'<text transform="translate(14 {(_TOP + _HEIGHT - _BOTTOM) / 2}) rotate(-90)" text-anchor="middle" '
        f'fill="{_GRAPHITE}">{up}</text>',
        *(_mark(xs.at(value), text) for value, text in marks),
        *(_drawn(line, xs, ys) for line in lines),
        *_legend(lines),
        "</svg>",
    ]
    return "\n".join(parts) + "\n"


@dataclass(frozen=True, slots=True)
class _Scale:
    low: float
    high: float
    ends: tuple[float, float]
    log: bool

    @classmethod
    def over(cls, values: Array, ends: tuple[float, float], log: bool, room: float = 0.0) -> _Scale:
        low, high = float(np.min(values)), float(np.max(values))
        if log:
            return cls(float(np.log10(low)), float(np.log10(high)), ends, True)
        more = room * (high - low or 1.0)
        return cls(low - more, high + more, ends, False)

    def at(self, value: Array | float) -> Array:
        place = np.log10(value) if self.log else np.asarray(value, dtype=np.float64)
        return np.asarray(self.ends[0] + (place - self.low) / (self.high - self.low) * (self.ends[1] - self.ends[0]))

    def ticks(self) -> list[float]:
        if self.log:
            return [10.0**power for power in range(int(np.ceil(self.low - 1e-9)), int(np.floor(self.high + 1e-9)) + 1)]
        rough = (self.high - self.low) / _TICKS
        step = min(
            (each * 10.0 ** np.floor(np.log10(rough)) for each in (1, 2, 5, 10)), key=lambda each: abs(each - rough)
        )
        return [float(each) for each in np.arange(np.ceil(self.low / step), np.floor(self.high / step) + 1) * step]


def _named(value: float) -> str:
    return f"{value + 0.0:.4g}".replace("-0", "0") if abs(value) < 1e-12 else f"{value:.4g}"


def _tick(at: Array, ends: tuple[float, float], text: str, upright: bool) -> str:
    if upright:
        line = f'<line x1="{at:.1f}" x2="{at:.1f}" y1="{ends[0]}" y2="{ends[1]}" stroke="{_RULE}"/>'
        return line + f'<text x="{at:.1f}" y="{ends[1] + 14}" text-anchor="middle" fill="{_GRAPHITE}">{text}</text>'
    line = f'<line y1="{at:.1f}" y2="{at:.1f}" x1="{ends[0]}" x2="{ends[1]}" stroke="{_RULE}"/>'
    return line + f'<text y="{at + 4:.1f}" x="{ends[0] - 5}" text-anchor="end" fill="{_GRAPHITE}">{text}</text>'


def _mark(at: Array, text: str) -> str:
    line = f'<line x1="{at:.1f}" x2="{at:.1f}" y1="{_TOP}" y2="{_HEIGHT - _BOTTOM}" {_DASHED}/>'
    return line + f'<text x="{at + 4:.1f}" y="{_HEIGHT - _BOTTOM - 6}" fill="{_GRAPHITE}">{text}</text>'


def _drawn(line: Line, xs: _Scale, ys: _Scale) -> str:
    points = list(zip(xs.at(line.x).tolist(), ys.at(line.y).tolist(), strict=True))
    if line.dots:
        return "".join(
            f'<circle cx="{x:.1f}" cy="{y:.1f}" r="3" fill="none" stroke="{line.ink}" stroke-width="1.4"/>'
            for x, y in points
        )
    path = " ".join(f"{x:.1f},{y:.1f}" for x, y in points)
    dash = f' stroke-dasharray="{line.dash}"' if line.dash else ""
    return (
        f'<polyline points="{path}" fill="none" stroke="{line.ink}" stroke-width="1.5" stroke-linejoin="round"{dash}/>'
    )


def _legend(lines: Sequence[Line]) -> list[str]:
    out = []
    at = _WIDTH - _RIGHT
    for line in reversed(lines):
        at -= 6.2 * len(line.label) + 34
        sign = f'<circle cx="{at + 10}" cy="14" r="3" fill="none" stroke="{line.ink}"/>'
        if not line.dots:
            dash = f' stroke-dasharray="{line.dash}"' if line.dash else ""
            sign = f'<line x1="{at}" x2="{at + 20}" y1="14" y2="14" stroke="{line.ink}" stroke-width="1.5"{dash}/>'
        out.append(f'{sign}<text x="{at + 25}" y="18">{line.label}</text>')
    return out

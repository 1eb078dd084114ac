"""Colors of the axes as a style sheet of the page, from the table of axes: `make types` writes it."""

from __future__ import annotations

from pathlib import Path

from zittern.core.axes import AXIS_INFO

__all__ = ["OUT", "inks"]

OUT = Path(__file__).parent.parent / "web/src/app/axis-inks.css"
_ON_LIGHT = ':root,\n[data-theme="paper"],\n[data-theme="wall"]'
_ON_DARK = '[data-theme="paper-night"]'


def inks() -> str:
    """Return the style sheet: one variable per axis, on light and on dark paper."""
    rules = []
    for selector, paper in ((_ON_LIGHT, 0), (_ON_DARK, 1)):
        lines = "".join(f"  --ink-{info.name}: {info.ink[paper]};\n" for info in AXIS_INFO)
        rules.append(f"{selector} {{\n{lines}}}\n")
    return "/* Made by `make types` from the table of axes. */\n" + "\n".join(rules)


if __name__ == "__main__":
    OUT.write_text(inks())

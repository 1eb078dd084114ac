"""Takes that ship with the product."""

from __future__ import annotations

from pathlib import Path

from zittern.core.errors import NotFound

__all__ = ["SHIPPED", "take_file", "take_names"]

SHIPPED = Path(__file__).parent.parent / "demo" / "takes"


def take_names() -> list[str]:
    """Their names."""
    return sorted(path.stem for path in SHIPPED.glob("*.csv"))


def take_file(name: str) -> Path:
    """Return the CSV of one. Raises NotFound."""
    if name in take_names():
        return SHIPPED / f"{name}.csv"
    raise NotFound(f"no take is called {name!r}; there are {', '.join(take_names())}")

"""Writes the shipped sets. Run by `make sets`; a test compares the files with its result."""

from __future__ import annotations

from collections.abc import Callable

from tools.demo import deck, dunes, jetty, kite
from tools.demo.glb import write_set
from zittern.store.sets import SHIPPED

__all__ = ["SETS", "main"]

SETS: dict[str, Callable[[], bytes]] = {
    jetty.SET_ID: lambda: write_set(jetty.pieces(), jetty.times_s()),
    deck.SET_ID: lambda: write_set(deck.pieces(), jetty.times_s()),
    kite.SET_ID: lambda: write_set(kite.pieces(jetty.times_s()), jetty.times_s()),
    dunes.SET_ID: lambda: write_set(dunes.pieces(), jetty.times_s()),
}


def main() -> None:
    """One GLB a set."""
    SHIPPED.mkdir(exist_ok=True)
    for set_id, make in SETS.items():
        path = SHIPPED / f"{set_id}.glb"
        path.write_bytes(make())
        print(f"{path}: {path.stat().st_size} bytes")


if __name__ == "__main__":
    main()

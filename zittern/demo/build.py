"""Puts the demo project into a library when it is missing. What the user changed is never touched."""

from __future__ import annotations

from pathlib import Path

from zittern.store.library import Library

__all__ = ["PROJECT", "SHIPPED", "SLUGS", "ensure_demo"]

SHIPPED = Path(__file__).parent / "shots"

PROJECT = ("saltmarsh-post", "Saltmarsh Post")
SLUGS = (
    "jetty-walk",
    "jetty-walk-handheld",
    "lamp-close",
    "empty-dune",
    "signal-run",
    "sled-run",
    "mast-fall",
    "kite-pass",
    "surge-plates",
)


def ensure_demo(library: Library) -> bool:
    """Add missing shots; return whether any was missing."""
    slug, name = PROJECT
    there = library.slugs()
    missing = [each for each in SLUGS if each not in there]
    if slug not in {project.slug for project in library.projects()}:
        library.add_project(name, slug)
    if not missing:
        return False
    from zittern.formats import shot_json  # only now: a second start reads none of them

    for each in missing:
        library.add_shot(slug, shot_json.read((SHIPPED / f"{each}.shot.json").read_bytes()), "Demo shot", each)
    return True

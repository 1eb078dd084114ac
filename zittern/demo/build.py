"""Puts the demo project into a library when it is missing. What the user changed is never touched."""

from __future__ import annotations

from zittern.demo.shots import jetty_walk, jetty_walk_handheld
from zittern.store.library import Library

__all__ = ["PROJECT", "SHOTS", "ensure_demo"]

PROJECT = ("saltmarsh-post", "Saltmarsh Post")
SHOTS = {"jetty-walk": jetty_walk, "jetty-walk-handheld": jetty_walk_handheld}


def ensure_demo(library: Library) -> bool:
    """Adds what is missing; True when anything was."""
    slug, name = PROJECT
    made = slug not in {project.slug for project in library.projects()}
    if made:
        library.add_project(name, slug)
    there = {entry.slug for entry in library.shots()}
    for shot_slug, make in SHOTS.items():
        if shot_slug not in there:
            library.add_shot(slug, make(), "Demo shot", shot_slug)
            made = True
    return made

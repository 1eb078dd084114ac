"""A shot of the jetty whose layers and single mount tests know: the bare walk with a handheld feel, a little
stronger than it starts.
"""

from __future__ import annotations

from tests.core.making import edited
from tools.demo.shots import jetty_walk
from zittern.core.numbers.param import keyed
from zittern.core.shot.shot import Shot
from zittern.demo.build import PROJECT
from zittern.store.library import Library

__all__ = ["SLUG", "add_swaying", "jetty_walk_swaying"]

SLUG = "jetty-walk-swaying"


def jetty_walk_swaying() -> Shot:
    """Two layers, one of them with a keyed weight."""
    return edited(
        jetty_walk().replace(name="Jetty walk, swaying"),
        {"type": "add_handheld"},
        {"type": "scale_swings", "layers": ["sway-1"], "factor": 1.2},
        {
            "type": "set_values",
            "values": [
                {"at": "layer:sway-1.weight", "value": keyed((1, 0.7), (74, 1.0), (136, 1.0), (192, 0.6)).model_dump()}
            ],
        },
    )


def add_swaying(library: Library) -> None:
    """Puts it into the demo project."""
    library.add_shot(PROJECT[0], jetty_walk_swaying(), "Demo shot", SLUG)

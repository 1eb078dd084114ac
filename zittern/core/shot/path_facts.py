"""Names of the facts of the path, with a line for people. Computed in `motion.facts`."""

from __future__ import annotations

__all__ = ["FACTS_TOLD", "FACT_NAMES"]

FACTS_TOLD: dict[str, str] = {
    "speed": "speed of the camera along its path, metres per second",
    "height": "how high the camera is, metres",
    "distance": "distance of the subject, metres; 0 without one",
    "bearing": "bearing of the subject, degrees to the left of the view direction; 0 without one",
}
FACT_NAMES: frozenset[str] = frozenset(FACTS_TOLD)

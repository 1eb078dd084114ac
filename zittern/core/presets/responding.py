"""Blows that fit a place in a shot.

They respond to the cues there, and start with their clip only without cues.
"""

from __future__ import annotations

from zittern.core.shot.layers import Span
from zittern.core.shot.shot import Shot
from zittern.core.sources.source import SourceDoc

__all__ = ["responding"]


def responding(shot: Shot, source: SourceDoc, span: Span) -> SourceDoc:
    """Return a source for a span."""
    among_cues = any(span[0] <= cue.frame < span[1] + 1.0 for cue in shot.cues)
    return source.responding() if among_cues else source

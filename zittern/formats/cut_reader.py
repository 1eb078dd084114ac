"""Run by itself, with limits.

Reads an OpenTimelineIO document from standard input and prints what is in it as plain JSON. Its reader is not our code,
and the file may come from anywhere.
"""

from __future__ import annotations

import json
import sys
from typing import Any

from zittern.formats.reader_process import limit_myself, one_line_fault

__all__ = ["MOST_BYTES", "MOST_S", "main"]

MOST_BYTES, MOST_S = 2**30, 10


def main() -> None:
    """Print {"items": [...]} or {"fault": text}."""
    limit_myself(MOST_BYTES, MOST_S)
    import opentimelineio as otio

    try:
        document = otio.adapters.read_from_string(sys.stdin.buffer.read().decode("utf-8-sig"), "otio_json")
    except UnicodeDecodeError:
        print(json.dumps({"fault": "its text is not UTF-8"}))
        return
    except (otio.exceptions.OTIOError, ValueError, RuntimeError) as error:
        print(json.dumps({"fault": one_line_fault(error)}))
        return
    if not isinstance(document, otio.schema.Timeline):
        holds = type(document).__name__ if isinstance(document, otio.core.SerializableObject) else "plain JSON"
        print(json.dumps({"fault": f"expected a timeline, found {holds}"}))
        return
    print(json.dumps({"items": list(_items(otio, document.tracks, ()))}))


def _items(otio: Any, parent: Any, above: tuple[str, ...]) -> Any:
    """Each item of each track: kind, name, neighbours, times."""
    # To index a composition costs its length each time.
    items = list(parent)
    for n, item in enumerate(items):
        kind = type(item).__name__
        name = item.name or ""
        if isinstance(item, otio.schema.Clip):
            yield _clip(otio, item, [*items[max(n - 1, 0) : n], *items[n + 1 : n + 2]], above)
        elif isinstance(item, otio.core.Composition):
            yield from _items(otio, item, (*above, kind if not name else f"{kind} {name}"))
        else:
            yield {"kind": kind, "name": name}


def _clip(otio: Any, clip: Any, beside: list[Any], above: tuple[str, ...]) -> dict[str, Any]:
    """Return the description of a clip. beside: its neighbors."""
    media = clip.media_reference
    missing = media is None or isinstance(media, otio.schema.MissingReference)
    available = None if missing else media.available_range
    return {
        "kind": "Clip",
        "name": clip.name or "",
        "media": "" if missing else str(getattr(media, "target_url", "") or media.name or ""),
        "missing": missing,
        "source": _range(clip.source_range),
        "available": _range(available),
        # The timeline's stack of tracks is no nesting.
        "nested": list(above[1:]),
        "transitions": [each.name or "cross-fade" for each in beside if isinstance(each, otio.schema.Transition)],
        "effects": [_effect(otio, each) for each in clip.effects],
    }


def _effect(otio: Any, effect: Any) -> dict[str, Any]:
    freeze = isinstance(effect, otio.schema.FreezeFrame)
    linear = isinstance(effect, otio.schema.LinearTimeWarp)
    scalar = float(effect.time_scalar) if linear else None
    return {"name": effect.name or type(effect).__name__, "freeze": freeze, "scalar": scalar}


def _range(given: Any) -> list[float] | None:
    """Start and duration in frames, and the rate they are counted in."""
    if given is None:
        return None
    start, duration = given.start_time, given.duration
    return [float(start.value), float(start.rate), float(duration.value), float(duration.rate)]


if __name__ == "__main__":
    main()

"""Differences between two documents of a shot, part by part, for a client that has the first of them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from typing import TypeVar

from zittern.core.documents.doc import Doc
from zittern.core.shot.clips import Clip
from zittern.core.shot.lanes import Lane
from zittern.core.shot.shot import Shot

__all__ = ["SAME", "changes"]

# Represents an unchanged part: its key, under this name.
SAME = "same"
_T = TypeVar("_T", bound=Doc)
# Lists of parts, and the field that identifies a part.
_LISTS = {"mounts": "id", "dials": "name", "cues": "id", "variants": "id"}


def changes(before: Shot, after: Shot) -> dict[str, object]:
    """Fields of the shot that differ.

    Lists contain each part completely, or as `{"same": KEY}` where the earlier document has it, at any position; lanes
    and clips that differ are described field by field, with their own parts in the same way.
    """
    out: dict[str, object] = {}
    for name in type(after).model_fields:
        value, old = getattr(after, name), getattr(before, name)
        if value is old or value == old:
            continue
        if name in _LISTS:
            out[name] = _changed_parts(value, old, _LISTS[name], lambda part: part)
        elif name == "lanes":
            out[name] = _lanes(before, after)
        else:
            out[name] = value
    return out


def _lanes(before: Shot, after: Shot) -> list[object]:
    clips = [clip for lane in before.lanes for clip in lane.clips]
    layers = [layer for clip in clips for layer in clip.layers]

    def clip_told(clip: Clip) -> dict[str, object]:
        return {**_fields(clip, "layers"), "layers": _changed_parts(clip.layers, layers, "id", lambda layer: layer)}

    def lane_told(lane: Lane) -> dict[str, object]:
        return {**_fields(lane, "clips"), "clips": _changed_parts(lane.clips, clips, "id", clip_told)}

    return _changed_parts(after.lanes, before.lanes, "id", lane_told)


def _changed_parts(parts: Iterable[_T], known: Sequence[_T], key: str, told: Callable[[_T], object]) -> list[object]:
    """Each part, or that it is the same as one that is known."""
    by_key = {getattr(part, key): part for part in known}
    out: list[object] = []
    for part in parts:
        name = getattr(part, key)
        old = by_key.get(name)
        same = old is part or (old is not None and old.fingerprint == part.fingerprint)
        out.append({SAME: name} if same else told(part))
    return out


def _fields(doc: Doc, but: str) -> dict[str, object]:
    return {name: getattr(doc, name) for name in type(doc).model_fields if name != but}

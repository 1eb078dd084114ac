"""Cut lists (OpenTimelineIO): which frames of a shot its clip in the cut shows, and how long they last there."""

from __future__ import annotations

import math
from dataclasses import dataclass
from pathlib import PurePath
from typing import Any

from zittern.core.edits.conforming import ConformToCut
from zittern.core.errors import FormatError
from zittern.core.shot.shot import Shot
from zittern.formats.cut_reader import MOST_S
from zittern.formats.reader_process import ask_reader

__all__ = ["MOST_CUT_BYTES", "conforming"]

MOST_CUT_BYTES = 48 * 2**20
# A time that is so near to a whole frame is on it.
_NEAR = 1e-3


@dataclass(frozen=True, slots=True)
class _Times:
    """In frames of the shot's rate."""

    start: float
    count: float


def conforming(data: bytes, shot: Shot, names: tuple[str, ...], handles: int = 0) -> ConformToCut:
    """Return the command that brings a shot to what its clip in a cut shows.

    names: possible names of the shot in cuts. Raises FormatError for a missing clip, or with the reason why it cannot
    be read.
    """
    items = _read(data)
    wanted = set(map(_plain, names))
    called = [item for item in items if item["kind"] == "Clip" and _names_of(item) & wanted]
    if not called:
        others = sorted({item["name"] for item in items if item["kind"] == "Clip" and item["name"]})
        there = (
            f"it has {', '.join(f'“{each[:40]}”' for each in others[:6])}" if others else "it has no clips with names"
        )
        raise FormatError(f"no clip of this cut is about “{shot.name}”; {there}")
    if len(called) > 1:
        raise FormatError(f"{len(called)} clips of this cut refer to “{shot.name}”; keep only one")
    (clip,) = called
    _refuse(clip)
    return _command(clip, shot, handles)


def _refuse(clip: dict[str, Any]) -> None:
    """Raise FormatError for what cannot be followed."""
    name = clip["name"] or "the clip"
    if len(clip["nested"]) > 1:
        raise FormatError(f"“{name}” is in a nested {clip['nested'][-1]}; flatten it first")
    if clip["transitions"]:
        raise FormatError(f"the transition “{clip['transitions'][0]}” touches “{name}”; take it out of the cut first")
    if clip["missing"] or clip["available"] is None:
        raise FormatError(f"“{name}” has no media with a range, so its frames are unknown; link its media")
    for effect in clip["effects"]:
        if effect["freeze"] or effect["scalar"] == 0.0:
            raise FormatError(f"“{name}” is a freeze frame; a camera that stands still needs no cut")
        if effect["scalar"] is None:
            raise FormatError(f"“{name}” has the effect “{effect['name']}”; only even time warps can be followed")
        if effect["scalar"] < 0.0:
            raise FormatError(
                f"“{name}” runs backwards; reverse the shot (Edit time → reverse), and remove the reversal from the cut"
            )


def _command(clip: dict[str, Any], shot: Shot, handles: int) -> ConformToCut:
    available = _times(clip["available"], shot)
    source = _times(clip["source"] or clip["available"], shot)
    speed = math.prod(effect["scalar"] for effect in clip["effects"])
    first = shot.first_frame + source.start - available.start
    used, lasts = source.count * speed, source.count
    numbers = (first, used, lasts)
    if not all(math.isfinite(each) and abs(each) < 1e7 for each in numbers) or used < _NEAR or lasts < _NEAR:
        raise FormatError("the times of the clip are out of reach")
    whole = [_whole_frame(each) for each in numbers]
    return ConformToCut(
        first_frame=whole[0],
        last_frame=whole[0] + max(whole[1], 1) - 1,
        frames=max(whole[2], 1),
        handles=handles,
    )


def _whole_frame(frames: float) -> int:
    near = round(frames)
    return near if abs(frames - near) <= _NEAR else math.floor(frames)


def _times(given: list[float], shot: Shot) -> _Times:
    start, start_rate, count, count_rate = given
    if not (start_rate > 0.0 and count_rate > 0.0):
        raise FormatError("the clip counts its frames at a rate of 0")
    fps = shot.fps.value
    return _Times(start / start_rate * fps, count / count_rate * fps)


def _names_of(item: dict[str, Any]) -> set[str]:
    media = PurePath(item["media"].replace("\\", "/")).name
    return {_plain(each) for each in (item["name"], media, media.partition(".")[0]) if each}


def _plain(name: str) -> str:
    """Case, blanks and signs between words make no difference."""
    return "-".join("".join(each if each.isalnum() else " " for each in name.casefold()).split())


def _read(data: bytes) -> list[dict[str, Any]]:
    if len(data) > MOST_CUT_BYTES:
        raise FormatError(f"a cut list can have up to {MOST_CUT_BYTES // 2**20} MB")
    answer = ask_reader("zittern.formats.cut_reader", data, MOST_S)
    if answer is None:
        raise FormatError(f"this cut list cannot be read within {MOST_S} s; keep only the clips of this shot in it")
    if "fault" in answer:
        raise FormatError(f"this is not an OpenTimelineIO cut list: {answer['fault']}")
    items: list[dict[str, Any]] = answer["items"]
    return items

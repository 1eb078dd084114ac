"""Reading a shot from JSON, older versions included.

A change of shape adds one step to STEPS and one old file to tests/data.
"""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from typing import Any

from zittern.core.documents.doc import digest
from zittern.core.documents.versions import Step, only_more, parsed, upgraded
from zittern.core.errors import DocumentError, faults_as
from zittern.core.formula.grammar import with_seed
from zittern.core.numbers.curves import MOST_FRAME, MOST_VALUE
from zittern.core.shot.layers import MOST_SEED
from zittern.core.shot.shot import SCHEMA_VERSION, Shot, new_shot
from zittern.core.shot.through_variant import checked
from zittern.core.timebase import frames_in

__all__ = [
    "DIAL_LIMITS", "STEPS", "as_before", "clocked", "limits_renamed", "read_shot", "renamed_fields", "seeded_noise",
    "shot_from", "springs_renamed", "started", "write_shot",
]  # fmt: skip

# Fields of dials before version 16, and their names since.
DIAL_LIMITS = {"least": "minimum", "most": "maximum"}
_SPRINGS = {"give": "springs"}
_SPRINGS_ADDRESS = re.compile(r"^(mount:[A-Za-z][A-Za-z0-9_-]*\.)give(?=\.|$)")
# Limits since version 2: by name of the field, the limit of each of its numbers.
_BOUNDED = {
    "pivot_m": (1e6, 1e6, 1e6),
    "span_frames": (MOST_FRAME, MOST_FRAME),
    "handle_in": (MOST_FRAME, MOST_VALUE),
    "handle_out": (MOST_FRAME, MOST_VALUE),
}


def within_limits(data: Any) -> Any:
    """Upgrade 1 to 2: clamp pivots, spans and handles that are too large to be evaluated."""
    if isinstance(data, list):
        return [within_limits(each) for each in data]
    if not isinstance(data, dict):
        return data
    out = {
        name: _brought_in(value, _BOUNDED[name]) if name in _BOUNDED else within_limits(value)
        for name, value in data.items()
    }
    if "schema_version" in out:
        out["schema_version"] = 2
    span = out.get("span_frames")
    if span is not None and span != data["span_frames"]:
        out["ramp_in_frames"] = out["ramp_out_frames"] = 0.0
    return out


def _brought_in(values: Any, limits: tuple[float, ...]) -> Any:
    if (
        not isinstance(values, list)
        or len(values) != len(limits)
        or not all(isinstance(value, (int, float)) for value in values)
    ):
        return values
    return [min(max(value, -most), most) for value, most in zip(values, limits, strict=True)]


def in_lanes(data: dict[str, Any]) -> dict[str, Any]:
    """2 to 3: clips are on lanes, one lane per clip, so that all add up as before."""
    clips = data.get("clips", [])
    if not isinstance(clips, list):
        raise DocumentError(f"expected a list of clips, got {type(clips).__name__}", "clips")
    rest = {name: value for name, value in data.items() if name != "clips"}
    return rest | {"schema_version": 3, "lanes": [_lane_of(clip, n) for n, clip in enumerate(clips)]}


def _lane_of(clip: Any, n: int) -> dict[str, Any]:
    names = {name: clip[name] for name in ("id", "name") if name in clip} if isinstance(clip, dict) else {}
    return {"id": f"lane-{n}", "name": "Lane", **names, "clips": [clip]}


def with_dials(data: dict[str, Any]) -> dict[str, Any]:
    """3 to 4: shots may have dials and numbers formulas; there were none before."""
    return data | {"schema_version": 4}


def with_origins(data: dict[str, Any]) -> dict[str, Any]:
    """4 to 5: clips and layers may know which preset they came from; none did before."""
    return data | {"schema_version": 5}


def with_cues(data: dict[str, Any]) -> dict[str, Any]:
    """5 to 6: shots may have cues; there were none before."""
    return data | {"schema_version": 6}


def with_rigs(data: dict[str, Any]) -> dict[str, Any]:
    """6 to 7: mounts have kinds and lengths, and may have give, an operator, a ride; none did before."""
    return data | {"schema_version": 7}


def with_clocks(data: dict[str, Any]) -> dict[str, Any]:
    """Upgrade 7 to 8: clips have clocks, shots have a seed.

    The seed follows from the stored text, so that it is the same in every process; noise without a seed stays equal on
    all axes.
    """
    text = json.dumps(data, sort_keys=True)
    out: dict[str, Any] = clocked(seeded_noise(data))
    return out | {"schema_version": 8, "seed": int(digest(text), 16) % (MOST_SEED + 1), "seeds_drawn": 0}


def clocked(value: Any) -> Any:
    """Return a document with the origins of clips, or of a preset, as clocks."""
    if isinstance(value, list):
        return [clocked(each) for each in value]
    if not isinstance(value, dict):
        return value
    out = {name: clocked(each) for name, each in value.items() if name != "origin_frame"}
    if "origin_frame" in value:
        origin = value["origin_frame"]
        out["clock"] = None if origin is None else {"start_frame": origin, "end_frame": None, "later_frames": 0.0}
    return out


def seeded_noise(value: Any) -> Any:
    """Return a document with `noise(x)` as `noise(x, 0)` in all formulas and drafts."""
    if isinstance(value, list):
        return [seeded_noise(each) for each in value]
    if not isinstance(value, dict):
        return value
    out = {name: seeded_noise(each) for name, each in value.items()}
    if out.get("state") == "formula":
        out |= {name: with_seed(out[name]) for name in ("text", "draft") if isinstance(out.get(name), str)}
    return out


def with_measured_motion(data: dict[str, Any]) -> dict[str, Any]:
    """14 to 15: hits kept a random part of their swing, roads their hills, and *steady* scaled roll.

    Documents of then keep that.
    """
    out: dict[str, Any] = as_before(data)
    return out | {"schema_version": 15}


def as_before(value: Any) -> Any:
    """Return a document of a shot or a preset with the fields that keep the motion of version 14."""
    if isinstance(value, list):
        return [as_before(each) for each in value]
    if not isinstance(value, dict):
        return value
    out = {name: as_before(each) for name, each in value.items()}
    if out.get("kind") == "hit":
        out.setdefault("way_spread", 0.4)
    if out.get("kind") == "road":
        out.setdefault("high_pass_hz", 0.0)
    if out.get("steady") is True:
        out.setdefault("steady_roll", True)
    return out


def with_dial_limits(data: dict[str, Any]) -> dict[str, Any]:
    """15 to 16: `least` and `most` of dials become `minimum` and `maximum`."""
    out: dict[str, Any] = limits_renamed(data)
    return out | {"schema_version": 16}


def limits_renamed(data: dict[str, Any]) -> dict[str, Any]:
    """Return a document of a shot or a preset with the new names of the limits of its dials."""
    dials = data.get("dials")
    if not isinstance(dials, list):
        return data
    return data | {"dials": [renamed_fields(each, DIAL_LIMITS) for each in dials]}


def with_springs(data: dict[str, Any]) -> dict[str, Any]:
    """16 to 17: `give` of mounts becomes `springs`, `meant` of shots `ignored`. Layers have the axis focus."""
    out: dict[str, Any] = springs_renamed(renamed_fields(data, {"meant": "ignored"}))
    return out | {"schema_version": 17}


def springs_renamed(value: Any) -> Any:
    """Return a parsed document or command with the present name of a mount's springs, in addresses too."""
    if isinstance(value, list):
        return [springs_renamed(each) for each in value]
    if isinstance(value, dict):
        return {_SPRINGS.get(name, name): springs_renamed(each) for name, each in value.items()}
    return _SPRINGS_ADDRESS.sub(r"\1springs", value) if isinstance(value, str) else value


def renamed_fields(data: Any, names: Mapping[str, str]) -> Any:
    """Return a mapping with new names for some of its keys, in the same order; anything else unchanged."""
    if not isinstance(data, dict):
        return data
    return {names.get(name, name): value for name, value in data.items()}


# STEPS[n] takes a document of version n to version n + 1.
STEPS: dict[int, Step] = {
    1: within_limits,
    2: in_lanes,
    3: with_dials,
    4: with_origins,
    5: with_cues,
    6: with_rigs,
    7: with_clocks,
    # Shots have a loop flag and ignored findings.
    8: only_more(9),
    # Shots have plates, layers have axes of the film back, operators follow targets.
    9: only_more(10),
    # Clips may be blends, with layers in corners.
    10: only_more(11),
    # Shots may have alternatives of their motion; what there was is the main one.
    11: only_more(12),
    # The lens may have distortion and breathing.
    12: only_more(13),
    # Cues may happen at a target, wherever it is.
    13: only_more(14),
    14: with_measured_motion,
    15: with_dial_limits,
    16: with_springs,
}


def read_shot(text: str | bytes) -> Shot:
    """Return a shot from JSON text. Raises DocumentError with the place of the first fault."""
    return shot_from(parsed(text))


def shot_from(data: Any) -> Shot:
    """Return a shot from parsed JSON. Raises DocumentError."""
    data = upgraded(data, "shot", SCHEMA_VERSION, STEPS)
    with faults_as(DocumentError):
        shot = Shot.model_validate(data)
    return checked(shot)


def started(name: str, fields: dict[str, Any], frames: int | None = None, seconds: float | None = None) -> Shot:
    """Return a fresh shot from fields that people gave, of a length in frames or in seconds. Raises DocumentError."""
    with faults_as(DocumentError):
        shot = new_shot(name, **fields)
        if frames is None and seconds is None:
            return shot
        count = frames or frames_in(seconds or 0.0, shot.fps)
        return shot.replace(last_frame=shot.first_frame + count - 1)


def write_shot(shot: Shot) -> str:
    """JSON text of a shot; reading it gives an equal shot. A shot never changes, so its text is made once."""
    text: str | None = shot.__dict__.get("_json")
    if text is None:
        text = shot.__dict__["_json"] = shot.model_dump_json(exclude_defaults=False)
    return text

"""Presets as text, older versions included. A change of shape adds one step to STEPS and one old file to tests/data."""

from __future__ import annotations

from typing import Any

from zittern.core.documents.versions import Step, only_more, parsed, upgraded
from zittern.core.errors import DocumentError, faults_as
from zittern.core.presets.preset import PRESET_VERSION, Preset
from zittern.core.shot.upgrades import as_before, clocked, limits_renamed, seeded_noise, springs_renamed

__all__ = ["ENDING", "STEPS", "read_preset", "upgraded_preset", "write_preset"]

ENDING = ".preset.json"


def with_clock(data: dict[str, Any]) -> dict[str, Any]:
    """3 to 4: its origin becomes a clock, and noise without a seed stays equal on all axes."""
    out: dict[str, Any] = clocked(seeded_noise(data))
    return out | {"schema_version": 4}


def with_measured_motion(data: dict[str, Any]) -> dict[str, Any]:
    """5 to 6: hits, roads and *steady* keep the motion that they had."""
    out: dict[str, Any] = as_before(data)
    return out | {"schema_version": 6}


def with_dial_limits(data: dict[str, Any]) -> dict[str, Any]:
    """6 to 7: `least` and `most` of dials become `minimum` and `maximum`."""
    out: dict[str, Any] = limits_renamed(data)
    return out | {"schema_version": 7}


def with_springs(data: dict[str, Any]) -> dict[str, Any]:
    """7 to 8: `give` of mounts becomes `springs`. Layers have the axis focus."""
    out: dict[str, Any] = springs_renamed(data)
    return out | {"schema_version": 8}


# STEPS[n] takes a document of version n to version n + 1.
STEPS: dict[int, Step] = {
    # Presets may bring dials, and have their own clock.
    1: only_more(2),
    # They may bring a rig.
    2: only_more(3),
    3: with_clock,
    # They may be blends.
    4: only_more(5),
    5: with_measured_motion,
    6: with_dial_limits,
    7: with_springs,
}


def upgraded_preset(data: Any) -> dict[str, Any]:
    """Return a parsed preset of any version as one of the newest. Raises DocumentError."""
    return upgraded(data, "preset", PRESET_VERSION, STEPS)


def read_preset(text: str | bytes) -> Preset:
    """Return the preset in JSON text. Raises DocumentError with the place of the first fault."""
    data = upgraded_preset(parsed(text))
    with faults_as(DocumentError):
        return Preset.model_validate(data)


def write_preset(preset: Preset) -> str:
    """Return indented JSON text; reading it returns an equal preset."""
    return preset.model_dump_json(indent=1)

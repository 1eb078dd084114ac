"""Stored commands of older versions, brought to the present shape. A renamed command or field adds one entry here."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import TypeAdapter

from zittern.core.documents.versions import parsed
from zittern.core.edits.table import Command
from zittern.core.errors import BadInput, faults_as
from zittern.core.presets.files import upgraded_preset
from zittern.core.presets.rigs import Rig
from zittern.core.shot.upgrades import DIAL_LIMITS, renamed_fields, springs_renamed

__all__ = ["FIELDS", "TYPES", "read_command"]

# The present `type` of each one that was renamed.
TYPES: Mapping[str, str] = {
    "go_over": "cross_fade_to",
    "mean_so": "ignore_finding",
}
# The present names of renamed fields, by the present `type`.
FIELDS: Mapping[str, Mapping[str, str]] = {
    "add_dial": DIAL_LIMITS,
    "set_dial": DIAL_LIMITS,
    "ignore_finding": {"meant": "ignored"},
}


def read_command(text: str, rigs: Mapping[str, Rig]) -> Command:
    """Return the command in JSON text of any version; presets in it are upgraded as preset files are.

    rigs: those that ship, by name: commands used to hold the name alone. Raises BadInput, DocumentError.
    """
    data = springs_renamed(_with_presets(parsed(text)))
    if isinstance(data, dict):
        type_ = TYPES.get(str(data.get("type")), data.get("type"))
        data = {**renamed_fields(data, FIELDS.get(str(type_), {})), "type": type_}
        if type_ == "use_rig" and isinstance(name := data.get("rig"), str):
            data["rig"] = rigs.get(name, name)
    with faults_as(BadInput):
        command: Command = TypeAdapter(Command).validate_python(data)
    return command


def _with_presets(data: Any) -> Any:
    if isinstance(data, list):
        return [_with_presets(each) for each in data]
    if not isinstance(data, dict):
        return data
    if data.get("schema_name") == "zittern.preset":
        return upgraded_preset(data)
    return {name: _with_presets(value) for name, value in data.items()}

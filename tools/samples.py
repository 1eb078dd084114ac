"""Values that work for the schemas of the OpenAPI document: what hostile requests start from."""

from __future__ import annotations

import copy
from typing import Any

__all__ = ["KNOWN", "SHOT", "Samples"]

SHOT = "jetty-walk-handheld"
# Values that make the requests mean something; everything else comes from the schema.
KNOWN: dict[str, Any] = {
    "shot": SHOT, "slug": "saltmarsh-post", "layer": "sway-1", "layers": ["sway-1"], "mount": "camera",
    "at": "mount:camera.pan_deg",
    "set_id": "saltmarsh-jetty", "name": "Hostile", "source": "noise", "format": "csv", "frame": 74.0, "job": "<<job>>",
    "revision": "<<head>>",
    "base_revision": "<<head>>", "object": "courier", "copy_of": SHOT, "keep": 1000, "frames": 24, "last_frame": 48,
    "fps": 24, "camera": None,
    "how": "replace", "about_frame": 1.0, "dial": "panic", "text": "1 + sin(t)", "low": 0.0, "high": 1.0, "clip": None,
    "target": None, "step": 1.0,
}  # fmt: skip


class Samples:
    """A value that works for each schema of the document."""

    def __init__(self, document: dict[str, Any]) -> None:
        self._document = document

    def resolve(self, schema: dict[str, Any]) -> dict[str, Any]:
        """Follows a reference."""
        while "$ref" in schema:
            found: Any = self._document
            for part in schema["$ref"].removeprefix("#/").split("/"):
                found = found[part]
            schema = found
        return schema

    def members(self, schema: dict[str, Any]) -> list[dict[str, Any]]:
        """The members of a union, or the schema alone."""
        schema = self.resolve(schema)
        found = schema.get("oneOf") or schema.get("anyOf")
        return [self.resolve(each) for each in found] if found else [schema]

    def of(self, schema: dict[str, Any], name: str = "", depth: int = 0) -> Any:
        """A value that should be accepted."""
        schema = self.resolve(schema)
        if name in KNOWN and not _composed(self.resolve(schema.get("items", schema))):
            known = copy.deepcopy(KNOWN[name])
            return [known] if schema.get("type") == "array" and not isinstance(known, list) else known
        for fixed in ("const", "default"):
            if fixed in schema:
                return copy.deepcopy(schema[fixed])
        if "enum" in schema:
            return schema["enum"][0]
        if schema.get("oneOf") or schema.get("anyOf"):
            return self.of(self.members(schema)[0], name, depth)
        kind = schema.get("type")
        if kind == "object" or "properties" in schema:
            wanted = schema.get("properties", {})
            chosen = {key: each for key, each in wanted.items() if key in schema.get("required", ()) or depth < 4}
            return {key: self.of(each, key, depth + 1) for key, each in chosen.items()}
        if kind == "array":
            if "prefixItems" in schema:
                return [self.of(each, "", depth + 1) for each in schema["prefixItems"]]
            return [self.of(schema["items"], name.rstrip("s"), depth + 1)] if "items" in schema else []
        if kind in ("number", "integer"):
            low, high = schema.get("minimum", schema.get("exclusiveMinimum", 0)), schema.get("maximum", 100)
            return min(max(1, low), high)
        return {"string": "text", "boolean": False, "null": None}.get(str(kind), "text")


def _composed(schema: dict[str, Any]) -> bool:
    return bool(schema.get("oneOf") or schema.get("properties"))

"""A tree of meshes and animated nodes as GLB.

Triangles carry no normals: readers then shade them flat, as they should look.
"""

from __future__ import annotations

import json
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from tools.demo.meshes import Mesh
from zittern.core.rig import rotations
from zittern.core.units import Array
from zittern.formats.gltf_file import glb_head
from zittern.formats.gltf_model import FLOAT

__all__ = ["Piece", "write_set"]

# Component types and buffer targets of the standard.
_BYTE, _SHORT = 5121, 5123
_VERTICES, _CORNERS = 34962, 34963
_MATTE = {"metallicFactor": 0.0, "roughnessFactor": 0.95}
_UNLIT = "KHR_materials_unlit"
_MATERIALS: list[dict[str, Any]] = [
    {"name": "lit", "pbrMetallicRoughness": _MATTE, "doubleSided": True},
    {"name": "unlit", "pbrMetallicRoughness": _MATTE, "doubleSided": True, "extensions": {_UNLIT: {}}},
]


@dataclass(frozen=True, slots=True)
class Piece:
    """A named part of a set. position_m (F, 3) and angles_deg (F, 3) animate it at `times_s`.

    (3,) or none keeps it still.
    """

    name: str
    mesh: Mesh | None = None
    children: tuple[Piece, ...] = ()
    at: tuple[float, float, float] = (0.0, 0.0, 0.0)
    position_m: Array | None = None
    angles_deg: Array | None = None
    unlit: bool = field(default=False)


def write_set(pieces: list[Piece], times_s: Array) -> bytes:
    """Return the GLB of some pieces; the same pieces give the same bytes."""
    writer = _Writer(times_s)
    roots = [writer.add(piece) for piece in pieces]
    return writer.finish(roots)


class _Writer:
    def __init__(self, times_s: Array) -> None:
        self.parts: dict[str, list[dict[str, Any]]] = {
            name: [] for name in ("nodes", "meshes", "accessors", "bufferViews")
        }
        self.channels: list[dict[str, Any]] = []
        self.samplers: list[dict[str, Any]] = []
        self.data = bytearray()
        self.times_s = times_s
        self.times: int | None = None

    def _added(self, kind: str, part: dict[str, Any]) -> int:
        self.parts[kind].append(part)
        return len(self.parts[kind]) - 1

    def _accessor(self, array: np.ndarray, kind: str, component: int, bounds: bool, target: int | None) -> int:
        data = np.ascontiguousarray(array)
        view = {"buffer": 0, "byteOffset": len(self.data), "byteLength": data.nbytes}
        self.data += data.tobytes() + b"\0" * (-data.nbytes % 4)
        made: dict[str, Any] = {
            "bufferView": self._added("bufferViews", view if target is None else view | {"target": target}),
            "componentType": component,
            "count": len(data),
            "type": kind,
        }
        if component == _BYTE:
            made["normalized"] = True
        if bounds:
            flat = data.reshape(len(data), -1)
            made |= {"min": flat.min(axis=0).tolist(), "max": flat.max(axis=0).tolist()}
        return self._added("accessors", made)

    def add(self, piece: Piece) -> int:
        node: dict[str, Any] = {"name": piece.name, "translation": list(piece.at)}
        index = self._added("nodes", node)
        if piece.mesh is not None:
            node["mesh"] = self._mesh(piece.name, piece.mesh, piece.unlit)
        if piece.position_m is not None:
            node["translation"] = [float(v) for v in piece.position_m[0]]
            self._channel(index, "translation", piece.position_m, "VEC3")
        if piece.angles_deg is not None:
            self._channel(index, "rotation", rotations.quaternions(rotations.matrices(piece.angles_deg)), "VEC4")
        if piece.children:
            node["children"] = [self.add(child) for child in piece.children]
        return index

    def _mesh(self, name: str, mesh: Mesh, unlit: bool) -> int:
        colors = np.round(np.concatenate([mesh.colours, np.ones((len(mesh.colours), 1))], axis=1) * 255.0)
        rows = np.concatenate([mesh.positions.astype("<f4").astype(np.float64), colors], axis=1)
        # Corners that triangles of one color share are stored, and later transformed, once.
        shared, corner = np.unique(rows, axis=0, return_inverse=True)
        attributes = {
            "POSITION": self._accessor(shared[:, :3].astype("<f4"), "VEC3", FLOAT, True, _VERTICES),
            "COLOR_0": self._accessor(shared[:, 3:].astype(np.uint8), "VEC4", _BYTE, False, _VERTICES),
        }
        indices = self._accessor(corner.reshape(-1).astype("<u2"), "SCALAR", _SHORT, False, _CORNERS)
        primitive = {"attributes": attributes, "indices": indices, "material": int(unlit)}
        return self._added("meshes", {"name": name, "primitives": [primitive]})

    def _channel(self, node: int, path: str, values: Array, kind: str) -> None:
        if self.times is None:
            self.times = self._accessor(self.times_s.astype("<f4"), "SCALAR", FLOAT, True, None)
        output = self._accessor(values.astype("<f4"), kind, FLOAT, False, None)
        self.samplers.append({"input": self.times, "output": output, "interpolation": "LINEAR"})
        self.channels.append({"sampler": len(self.samplers) - 1, "target": {"node": node, "path": path}})

    def finish(self, roots: list[int]) -> bytes:
        document: dict[str, Any] = {
            "asset": {"version": "2.0", "generator": "Zittern demo"},
            "scene": 0,
            "scenes": [{"nodes": roots}],
            "materials": _MATERIALS,
            "extensionsUsed": [_UNLIT],
            "buffers": [{"byteLength": len(self.data)}],
            **self.parts,
        }
        if self.channels:
            document["animations"] = [{"name": "Set", "channels": self.channels, "samplers": self.samplers}]
        return glb_head(json.dumps(document, separators=(",", ":")).encode(), len(self.data)) + bytes(self.data)

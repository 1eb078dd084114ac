"""Small glTF files for tests, written out by hand so that the reader is not tested with its own writer."""

from __future__ import annotations

import base64
import json
import struct

import numpy as np

CAMERA = {"type": "perspective", "perspective": {"yfov": 0.6, "znear": 0.1, "aspectRatio": 16 / 9}}


class GltfMaker:
    """Collects nodes, cameras and animation channels."""

    def __init__(self, *nodes: dict[str, object], cameras: tuple[dict[str, object], ...] = (CAMERA,)) -> None:
        self.json: dict[str, object] = {"asset": {"version": "2.0"}, "nodes": list(nodes), "cameras": list(cameras)}
        self.data = b""
        self.views: list[dict[str, object]] = []
        self.accessors: list[dict[str, object]] = []
        self.channels: list[dict[str, object]] = []
        self.samplers: list[dict[str, object]] = []

    def accessor(self, values: object, type_: str, component: str = "<f4") -> int:
        array = np.asarray(values, dtype=component)
        code = {"<f4": 5126, "<i2": 5122, "i1": 5120, "<u1": 5121, "<u2": 5123, "<u4": 5125}[component]
        self.views.append({"buffer": 0, "byteOffset": len(self.data), "byteLength": array.nbytes})
        self.data += array.tobytes() + b"\0" * (-array.nbytes % 4)
        extra = {} if code == 5126 or "u" in component else {"normalized": True}
        count = array.shape[0]
        self.accessors.append(
            {"bufferView": len(self.views) - 1, "componentType": code, "count": count, "type": type_, **extra}
        )
        return len(self.accessors) - 1

    def animate(
        self, node: int, path: str, times: object, values: object, interpolation: str = "LINEAR", component: str = "<f4"
    ) -> GltfMaker:
        type_ = {"translation": "VEC3", "scale": "VEC3", "rotation": "VEC4"}[path]
        sampler = {
            "input": self.accessor(times, "SCALAR"),
            "output": self.accessor(values, type_, component),
            "interpolation": interpolation,
        }
        self.samplers.append(sampler)
        self.channels.append({"sampler": len(self.samplers) - 1, "target": {"node": node, "path": path}})
        return self

    def document(self, uri: str | None = None) -> dict[str, object]:
        out = dict(self.json)
        if self.data:
            out["buffers"] = [{"byteLength": len(self.data), **({"uri": uri} if uri else {})}]
            out["bufferViews"], out["accessors"] = self.views, self.accessors
        if self.channels:
            out["animations"] = [{"channels": self.channels, "samplers": self.samplers}]
        return out

    def gltf(self) -> bytes:
        uri = "data:application/octet-stream;base64," + base64.b64encode(self.data).decode()
        return json.dumps(self.document(uri)).encode()

    def glb(self) -> bytes:
        text = json.dumps(self.document()).encode()
        text += b" " * (-len(text) % 4)
        chunks = struct.pack("<II", len(text), 0x4E4F534A) + text
        if self.data:
            chunks += struct.pack("<II", len(self.data), 0x004E4942) + self.data
        return struct.pack("<III", 0x46546C67, 2, 12 + len(chunks)) + chunks

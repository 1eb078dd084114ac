"""A glTF file with its buffers: the GLB container, external and embedded data, the values of accessors."""

from __future__ import annotations

import base64
import json
import struct
from typing import TypeVar

import numpy as np

from zittern.core.errors import FormatError, faults_as
from zittern.core.units import Array, IntArray
from zittern.formats.files import MOST_FILE_BYTES, Sidecars
from zittern.formats.gltf_model import BINARY_CHUNK, FLOAT, GLB_MAGIC, JSON_CHUNK, Accessor, Document, Node

__all__ = ["Gltf", "floats", "glb_head", "load", "mesh_bounds", "whole_numbers"]

_COMPONENTS: dict[int, tuple[type, float]] = {
    5120: (np.int8, 127.0), 5121: (np.uint8, 255.0), 5122: (np.int16, 32767.0), 5123: (np.uint16, 65535.0),
    FLOAT: (np.float32, 1.0),
}  # fmt: skip
_INDICES: dict[int, type] = {5121: np.uint8, 5123: np.uint16, 5125: np.uint32}
_WIDTHS = {"SCALAR": 1, "VEC2": 2, "VEC3": 3, "VEC4": 4, "MAT4": 16}
_T = TypeVar("_T")
_MOST_KEYS = 5_000_000
_MOST_GLB_BYTES = 2**32 - 1


class Gltf:
    """A glTF file with its buffers. `json` is checked; `parent` names each node's parent."""

    def __init__(self, json_: Document, binary: bytes | None, sidecars: Sidecars) -> None:
        self.json = json_
        self._binary = binary
        self._sidecars = sidecars
        self._buffers: dict[int, bytes] = {}
        self.parent = _parents(json_.nodes)

    def above(self, node: int) -> list[int]:
        """Return a node and all its parents, the root first."""
        chain = [node]
        while chain[-1] in self.parent:
            chain.append(self.parent[chain[-1]])
        return chain[::-1]

    def below(self, node: int) -> list[int]:
        """Return a node and all under it, each after its parent."""
        found = [node]
        for each in found:
            found.extend(self.json.nodes[each].children)
        return found

    def buffer(self, index: int) -> bytes:
        """Return a buffer's bytes. Raises FormatError."""
        if index not in self._buffers:
            self._buffers[index] = self._load_buffer(index)
        return self._buffers[index]

    def load_buffers(self) -> None:
        """Load all buffers, so that a truncated or missing one is reported immediately. Raises FormatError."""
        for index in range(len(self.json.buffers)):
            self.buffer(index)

    def _load_buffer(self, index: int) -> bytes:
        where = f"buffers[{index}]"
        buffer = _item(self.json.buffers, index, where)
        if buffer.uri is None:
            if index != 0 or self._binary is None:
                raise FormatError("the buffer has neither data nor a uri", where)
            data = self._binary
        elif buffer.uri.startswith("data:"):
            data = _data_uri(buffer.uri, f"{where}.uri")
        else:
            data = self._sidecars(buffer.uri, f"{where}.uri")
        if len(data) < buffer.byteLength:
            raise FormatError(
                f"{buffer.byteLength} bytes are announced, but only {len(data)} are there; the file is cut off", where
            )
        return data


def load(data: bytes, sidecars: Sidecars) -> Gltf:
    """Read .gltf or .glb, detected by content. Raises FormatError with the place of the fault."""
    if not data:
        raise FormatError("the file is empty")
    binary: bytes | None = None
    if data[:4] == struct.pack("<I", GLB_MAGIC):
        data, binary = _glb_chunks(data)
    try:
        parsed = json.loads(data)
    except (ValueError, RecursionError) as error:
        raise FormatError(f"this is neither GLB nor glTF: {str(error)[:120]}") from error
    if not isinstance(parsed, dict):
        raise FormatError("a glTF file is a JSON object")
    with faults_as(FormatError):
        model = Document.model_validate(parsed)
    if not model.asset.version.startswith("2."):
        raise FormatError(f"glTF 2 is read, got version {model.asset.version[:20]!r}", "asset.version")
    return Gltf(model, binary, sidecars)


def glb_head(text: bytes, size: int) -> bytes:
    """Return a GLB up to its binary data: the JSON `text`, then `size` bytes follow. Raises FormatError.

    The container counts its bytes in 32 bits, so that a file can be too large.
    """
    text += b" " * (-len(text) % 4)
    whole = 12 + 8 + len(text) + 8 + size
    if whole > _MOST_GLB_BYTES:
        raise FormatError(
            f"the file would have {size / 2**30:.1f} GB; a GLB holds 4. Export a part of the shot, or fewer samples"
        )
    header = struct.pack("<IIIII", GLB_MAGIC, 2, whole, len(text), JSON_CHUNK)
    return header + text + struct.pack("<II", size, BINARY_CHUNK)


def mesh_bounds(gltf: Gltf, mesh: int) -> list[tuple[tuple[float, ...], tuple[float, ...]]]:
    """Least and largest corner of each primitive of a mesh, as its positions announce them. Raises FormatError."""
    out: list[tuple[tuple[float, ...], tuple[float, ...]]] = []
    for p, primitive in enumerate(_item(gltf.json.meshes, mesh, f"meshes[{mesh}]").primitives):
        where = f"meshes[{mesh}].primitives[{p}].attributes.POSITION"
        index = primitive.attributes.get("POSITION")
        accessor = None if index is None else _item(gltf.json.accessors, index, where)
        if (
            accessor is None
            or accessor.min is None
            or accessor.max is None
            or len(accessor.min) != 3
            or len(accessor.max) != 3
        ):
            raise FormatError("positions announce their bounds; this file leaves them out", where)
        out.append((accessor.min, accessor.max))
    return out


def floats(gltf: Gltf, index: int, width: str, where: str) -> Array:
    """Return an accessor's values as floats: (N, width), or (N,) for SCALAR. Raises FormatError."""
    accessor = _item(gltf.json.accessors, index, where)
    at = f"accessors[{index}]"
    if accessor.type != width:
        raise FormatError(f"{width} values are expected here, got {accessor.type[:20]}", at)
    if accessor.componentType not in _COMPONENTS:
        raise FormatError(
            f"float or normalized integer values are expected, got component type {accessor.componentType}", at
        )
    if accessor.count > _MOST_KEYS:
        raise FormatError(f"{accessor.count} values; up to {_MOST_KEYS} are read", at)
    if accessor.sparse is not None:
        raise FormatError("sparse accessors are not read for camera motion; save without them", at)
    if accessor.componentType != FLOAT and not accessor.normalized:
        raise FormatError("whole numbers are read only when normalized", at)
    values = _raw(gltf, accessor, at)
    if not np.all(np.isfinite(values)):
        raise FormatError("a value is not a finite number", at)
    return values[:, 0] if width == "SCALAR" else values


def whole_numbers(gltf: Gltf, index: int, where: str) -> IntArray:
    """Return an accessor of indices: (N,). Raises FormatError."""
    accessor = _item(gltf.json.accessors, index, where)
    at = f"accessors[{index}]"
    if accessor.type != "SCALAR" or accessor.componentType not in _INDICES or accessor.sparse is not None:
        raise FormatError("indices are single unsigned whole numbers", at)
    if accessor.count > _MOST_KEYS:
        raise FormatError(f"{accessor.count} values; up to {_MOST_KEYS} are read", at)
    return _rows(gltf, accessor, _INDICES[accessor.componentType], at)[:, 0].astype(np.int64)


def _raw(gltf: Gltf, accessor: Accessor, where: str) -> Array:
    dtype, divisor = _COMPONENTS[accessor.componentType]
    with np.errstate(invalid="ignore"):  # callers report values that are not finite
        values = _rows(gltf, accessor, dtype, where).astype(np.float64)
    return np.asarray(np.maximum(values / divisor, -1.0) if divisor != 1.0 else values)


def _rows(gltf: Gltf, accessor: Accessor, dtype: type, where: str) -> np.ndarray:
    """Return values as stored in the buffer. (N, columns)."""
    columns = _WIDTHS[accessor.type]
    if accessor.bufferView is None:
        return np.zeros((accessor.count, columns), dtype)
    view = _item(gltf.json.bufferViews, accessor.bufferView, f"{where}.bufferView")
    data = gltf.buffer(view.buffer)
    size = np.dtype(dtype).itemsize * columns
    stride = view.byteStride or size
    needed = accessor.byteOffset + stride * (accessor.count - 1) + size
    if needed > view.byteLength or view.byteOffset + view.byteLength > len(data):
        raise FormatError(
            f"the values reach past the end of the buffer ({needed} of "
            f"{min(view.byteLength, max(0, len(data) - view.byteOffset))} bytes)",
            where,
        )
    start = view.byteOffset + accessor.byteOffset
    return np.ndarray(
        (accessor.count, columns), np.dtype(dtype).newbyteorder("<"), data, start, (stride, np.dtype(dtype).itemsize)
    )


def _glb_chunks(data: bytes) -> tuple[bytes, bytes | None]:
    if len(data) < 20:
        raise FormatError(f"the GLB is cut off after {len(data)} bytes")
    _, version, length = struct.unpack_from("<III", data)
    if version != 2:
        raise FormatError(f"GLB version 2 is read, got {version}")
    if length > len(data):
        raise FormatError(f"the GLB announces {length} bytes, but only {len(data)} are there; the file is cut off")
    chunks: dict[int, bytes] = {}
    at = 12
    while at + 8 <= length:
        size, kind = struct.unpack_from("<II", data, at)
        if at + 8 + size > length:
            raise FormatError("a chunk reaches past the end of the GLB; the file is cut off", f"byte {at}")
        chunks.setdefault(kind, data[at + 8 : at + 8 + size])
        at += 8 + size
    if JSON_CHUNK not in chunks:
        raise FormatError("the GLB has no JSON chunk")
    return chunks[JSON_CHUNK], chunks.get(BINARY_CHUNK)


def _data_uri(uri: str, where: str) -> bytes:
    head, comma, body = uri.partition(",")
    if not comma or not head.endswith(";base64"):
        raise FormatError("embedded data is base64", where)
    if len(body) > MOST_FILE_BYTES * 4 // 3:
        raise FormatError("the embedded data is too large", where)
    try:
        return base64.b64decode(body, validate=True)
    except ValueError as error:  # wrong padding, and characters beyond ASCII
        raise FormatError(f"the embedded data is not base64: {error}", where) from error


def _item(items: tuple[_T, ...], index: int, where: str) -> _T:
    if index >= len(items):
        raise FormatError(f"index {index} does not exist; there are {len(items)}", where)
    return items[index]


def _parents(nodes: tuple[Node, ...]) -> dict[int, int]:
    parent: dict[int, int] = {}
    for i, node in enumerate(nodes):
        for child in node.children:
            _item(nodes, child, f"nodes[{i}].children")
            if child in parent or child == i:
                raise FormatError(
                    f"node {child} has two parents; a node tree has no loops and no sharing", f"nodes[{i}].children"
                )
            parent[child] = i
    # Every node has up to one parent, so an unreachable node is in a cycle.
    reached = [i for i in range(len(nodes)) if i not in parent]
    for i in reached:
        reached.extend(nodes[i].children)
    if len(reached) < len(nodes):
        raise FormatError("the node tree loops back on itself", f"nodes[{min(set(range(len(nodes))) - set(reached))}]")
    return parent

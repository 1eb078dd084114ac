"""The parts of glTF 2.0 that describe cameras and their motion.

Input is validated against them, output consists of them.

Khronos glTF 2.0 specification (ISO/IEC 12113:2022), with its own names. Meshes, materials and all else are passed over.
"""

# ruff: noqa: N815

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

__all__ = [
    "BINARY_CHUNK", "EXTRAS", "FLOAT", "GLB_MAGIC", "JSON_CHUNK", "POINTER", "Accessor", "Animation", "Asset", "Buffer",
    "BufferView", "Camera", "Channel", "Document", "Mesh", "Node", "Perspective", "Sampler", "Scene", "Target",
]  # fmt: skip

# Constants of the binary container: its magic number, and the types of its chunks.
GLB_MAGIC, JSON_CHUNK, BINARY_CHUNK = 0x46546C67, 0x4E4F534A, 0x004E4942
# The component type of 32-bit floats.
FLOAT = 5126
# Channels that drive any value of the file, here the field of view.
POINTER = "KHR_animation_pointer"
# Extras of exported files for data without a glTF field.
EXTRAS = "zittern"
_MOST_ITEMS = 200_000

Index = Annotated[int, Field(ge=0)]
Number = Annotated[float, Field(allow_inf_nan=False)]


class _Part(BaseModel):
    model_config = ConfigDict(extra="ignore", frozen=True, allow_inf_nan=False)


class Node(_Part):
    """A node: its transform, children, and camera or mesh."""

    name: str = ""
    children: tuple[Index, ...] = ()
    camera: Index | None = None
    matrix: Annotated[tuple[Number, ...], Field(min_length=16, max_length=16)] | None = None
    translation: tuple[Number, Number, Number] = (0.0, 0.0, 0.0)
    rotation: tuple[Number, Number, Number, Number] = (0.0, 0.0, 0.0, 1.0)
    scale: tuple[Number, Number, Number] = (1.0, 1.0, 1.0)
    mesh: Index | None = None
    extras: Any = None


class Perspective(_Part):
    """Parameters of a perspective camera."""

    yfov: Number = Field(gt=0.0, lt=np.pi)
    aspectRatio: Number | None = Field(default=None, gt=0.0)
    znear: Number | None = None
    zfar: Number | None = None


class Camera(_Part):
    """A camera."""

    name: str = ""
    type: Literal["perspective", "orthographic"]
    perspective: Perspective | None = None
    extras: Any = None


class Buffer(_Part):
    """A buffer: its length, and the address of its data."""

    uri: str | None = None
    byteLength: Index


class BufferView(_Part):
    """A range of a buffer."""

    buffer: Index
    byteOffset: Index = 0
    byteLength: Index
    byteStride: int | None = Field(default=None, ge=4, le=252)


class Accessor(_Part):
    """Layout of values in a buffer view."""

    bufferView: Index | None = None
    byteOffset: Index = 0
    componentType: int
    normalized: bool = False
    count: int = Field(ge=1, le=50_000_000)
    type: str
    sparse: Any = None
    min: tuple[Number, ...] | None = None
    max: tuple[Number, ...] | None = None


class Target(_Part):
    """The animated property of a node."""

    node: Index | None = None
    path: str
    extensions: dict[str, Any] = {}


class Channel(_Part):
    """Sampler and target of an animation."""

    sampler: Index
    target: Target


class Sampler(_Part):
    """Times and values of an animation channel."""

    input: Index
    output: Index
    interpolation: Literal["LINEAR", "STEP", "CUBICSPLINE"] = "LINEAR"


class Primitive(_Part):
    attributes: dict[str, Index]
    indices: Index | None = None
    mode: int = 4


class Mesh(_Part):
    """A mesh: its primitives."""

    primitives: tuple[Primitive, ...] = ()


class Animation(_Part):
    """An animation: channels and samplers."""

    name: str = ""
    channels: tuple[Channel, ...]
    samplers: tuple[Sampler, ...]


class Asset(_Part):
    """Version of the standard, and the program that wrote the file."""

    version: str
    generator: str = ""


class Scene(_Part):
    """A scene: its root nodes."""

    name: str = ""
    nodes: tuple[Index, ...] = ()


class Document(_Part):
    """The supported parts of a file, with the names of the standard."""

    asset: Asset
    scene: Index | None = None
    scenes: Annotated[tuple[Scene, ...], Field(max_length=_MOST_ITEMS)] = ()
    nodes: Annotated[tuple[Node, ...], Field(max_length=_MOST_ITEMS)] = ()
    cameras: Annotated[tuple[Camera, ...], Field(max_length=_MOST_ITEMS)] = ()
    buffers: Annotated[tuple[Buffer, ...], Field(max_length=_MOST_ITEMS)] = ()
    bufferViews: tuple[BufferView, ...] = ()
    accessors: tuple[Accessor, ...] = ()
    meshes: Annotated[tuple[Mesh, ...], Field(max_length=_MOST_ITEMS)] = ()
    animations: tuple[Animation, ...] = ()
    extensionsUsed: tuple[str, ...] = ()
    extensionsRequired: tuple[str, ...] = ()

    def written(self) -> bytes:
        """Return the JSON text; fields without a value are omitted."""
        return self.model_dump_json(exclude_unset=True).encode()

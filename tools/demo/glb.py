"""A tree of meshes and animated nodes as GLB.

Triangles carry no normals: readers then shade them flat, as they should look.
"""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import pygltflib as gl

from tools.demo.meshes import Mesh
from zittern.core.rig import rotations
from zittern.core.units import Array

__all__ = ["Piece", "write_set"]


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
        lit = gl.PbrMetallicRoughness(metallicFactor=0.0, roughnessFactor=0.95)
        unlit = gl.Material(
            name="unlit", pbrMetallicRoughness=lit, doubleSided=True, extensions={"KHR_materials_unlit": {}}
        )
        self.gltf = gl.GLTF2(
            asset=gl.Asset(version="2.0", generator="Zittern demo"),
            materials=[gl.Material(name="lit", pbrMetallicRoughness=lit, doubleSided=True), unlit],
        )
        self.gltf.extensionsUsed = ["KHR_materials_unlit"]
        self.data = bytearray()
        self.animation = gl.Animation(name="Set")
        self.times_s = times_s
        self.times: int | None = None

    def _accessor(self, array: np.ndarray, kind: str, component: int, bounds: bool, target: int | None) -> int:
        data = np.ascontiguousarray(array)
        self.gltf.bufferViews.append(
            gl.BufferView(buffer=0, byteOffset=len(self.data), byteLength=data.nbytes, target=target)
        )
        self.data += data.tobytes() + b"\0" * (-data.nbytes % 4)
        made = gl.Accessor(
            bufferView=len(self.gltf.bufferViews) - 1,
            componentType=component,
            count=len(data),
            type=kind,
            normalized=component == gl.UNSIGNED_BYTE,
        )
        if bounds:
            flat = data.reshape(len(data), -1)
            made.min, made.max = flat.min(axis=0).tolist(), flat.max(axis=0).tolist()
        self.gltf.accessors.append(made)
        return len(self.gltf.accessors) - 1

    def add(self, piece: Piece) -> int:
        node = gl.Node(name=piece.name, translation=list(piece.at))
        self.gltf.nodes.append(node)
        index = len(self.gltf.nodes) - 1
        if piece.mesh is not None:
            node.mesh = self._mesh(piece)
        if piece.position_m is not None:
            node.translation = [float(v) for v in piece.position_m[0]]
            self._channel(index, "translation", piece.position_m, "VEC3")
        if piece.angles_deg is not None:
            self._channel(index, "rotation", rotations.quaternions(rotations.matrices(piece.angles_deg)), "VEC4")
        node.children = [self.add(child) for child in piece.children]
        return index

    def _mesh(self, piece: Piece) -> int:
        assert piece.mesh is not None
        colours = np.round(np.concatenate([piece.mesh.colours, np.ones((len(piece.mesh.colours), 1))], axis=1) * 255.0)
        rows = np.concatenate([piece.mesh.positions.astype("<f4").astype(np.float64), colours], axis=1)
        # Corners that triangles of one color share are stored, and later transformed, once.
        shared, corner = np.unique(rows, axis=0, return_inverse=True)
        attributes = gl.Attributes(
            POSITION=self._accessor(shared[:, :3].astype("<f4"), "VEC3", gl.FLOAT, True, gl.ARRAY_BUFFER),
            COLOR_0=self._accessor(shared[:, 3:].astype(np.uint8), "VEC4", gl.UNSIGNED_BYTE, False, gl.ARRAY_BUFFER),
        )
        indices = self._accessor(
            corner.reshape(-1).astype("<u2"), "SCALAR", gl.UNSIGNED_SHORT, False, gl.ELEMENT_ARRAY_BUFFER
        )
        primitive = gl.Primitive(attributes=attributes, indices=indices, material=1 if piece.unlit else 0)
        self.gltf.meshes.append(gl.Mesh(name=piece.name, primitives=[primitive]))
        return len(self.gltf.meshes) - 1

    def _channel(self, node: int, path: str, values: Array, kind: str) -> None:
        if self.times is None:
            self.times = self._accessor(self.times_s.astype("<f4"), "SCALAR", gl.FLOAT, True, None)
        output = self._accessor(values.astype("<f4"), kind, gl.FLOAT, False, None)
        self.animation.samplers.append(gl.AnimationSampler(input=self.times, output=output, interpolation="LINEAR"))
        target = gl.AnimationChannelTarget(node=node, path=path)
        self.animation.channels.append(gl.AnimationChannel(sampler=len(self.animation.samplers) - 1, target=target))

    def finish(self, roots: list[int]) -> bytes:
        self.gltf.scenes = [gl.Scene(nodes=roots)]
        self.gltf.scene = 0
        if self.animation.channels:
            self.gltf.animations = [self.animation]
        self.gltf.buffers = [gl.Buffer(byteLength=len(self.data))]
        self.gltf.set_binary_blob(bytes(self.data))
        return b"".join(self.gltf.save_to_bytes())

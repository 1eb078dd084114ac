"""A shot as glTF 2.0 or GLB: every mount, then every layer, then the camera, as nested nodes.

Layers of one place add in axis space, but nested nodes multiply. So the node of layer k carries
inverse(offset of layers 1..k-1) x (offset of layers 1..k): the chain of nodes multiplies to exactly the sum.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pygltflib as gl

from zittern.core.evaluate import Motion
from zittern.core.lens import vfov_deg
from zittern.core.rig import chain, rotations, transforms
from zittern.core.shot.shot import Shot
from zittern.core.units import Array
from zittern.formats.gltf_motion import POINTER
from zittern.formats.gltf_read import EXTRAS

__all__ = ["write_glb", "write_gltf"]

_NEAR_M = 0.05
_FAR_M = 5000.0
# A channel that varies less than float32 can show is written as a still value.
_STILL = 1e-9


def write_glb(shot: Shot, motion: Motion) -> bytes:
    """Binary container, one file."""
    return b"".join(_document(shot, motion).save_to_bytes())


def write_gltf(shot: Shot, motion: Motion) -> bytes:
    """JSON with the data embedded, one file."""
    document = _document(shot, motion)
    document.convert_buffers(gl.BufferFormat.DATAURI)
    text: str = document.gltf_to_json(indent=None)
    return text.encode()


class _Builder:
    """Collects nodes, channels and bytes."""

    def __init__(self, times_s: Array) -> None:
        self.gltf = gl.GLTF2(asset=gl.Asset(version="2.0", generator="Zittern"))
        self.bytes = bytearray()
        self.animation = gl.Animation(name="Shot")
        self._times_s = times_s
        self._times: int | None = None

    def accessor(self, values: Array, kind: str) -> int:
        data = np.ascontiguousarray(values, dtype="<f4")
        view = gl.BufferView(buffer=0, byteOffset=len(self.bytes), byteLength=data.nbytes)
        self.bytes += data.tobytes()
        self.gltf.bufferViews.append(view)
        made = gl.Accessor(bufferView=len(self.gltf.bufferViews) - 1, componentType=gl.FLOAT, count=len(data), type=kind)
        if kind == "SCALAR":
            made.min, made.max = [float(data.min())], [float(data.max())]
        self.gltf.accessors.append(made)
        return len(self.gltf.accessors) - 1

    def channel(self, values: Array, kind: str, target: gl.AnimationChannelTarget) -> None:
        if self._times is None:
            self._times = self.accessor(self._times_s, "SCALAR")
        sampler = gl.AnimationSampler(input=self._times, output=self.accessor(values, kind), interpolation="LINEAR")
        self.animation.samplers.append(sampler)
        self.animation.channels.append(gl.AnimationChannel(sampler=len(self.animation.samplers) - 1, target=target))

    def node(self, name: str, tf: Array, parent: int | None) -> int:
        """A node with a pose at each time, (F, 4, 4). The root keeps its position keyed even when it is still: so the shot's length is kept."""
        node = gl.Node(name=name)
        self.gltf.nodes.append(node)
        index = len(self.gltf.nodes) - 1
        for path, values, kind in (("translation", tf[:, :3, 3], "VEC3"), ("rotation", rotations.quaternions(tf[:, :3, :3]), "VEC4")):
            if np.ptp(values, axis=0).max() <= _STILL and (parent is not None or path != "translation"):
                setattr(node, path, [float(value) for value in values[0]])
            else:
                self.channel(values, kind, gl.AnimationChannelTarget(node=index, path=path))
        if parent is not None:
            self.gltf.nodes[parent].children.append(index)
        return index


def _document(shot: Shot, motion: Motion) -> gl.GLTF2:
    build = _Builder(shot.fps.seconds(motion.frames, shot.first_frame))
    parent: int | None = None
    for mount in shot.mounts:
        parent = build.node(mount.name, chain.local_pose(mount, motion.frames), parent)
        parent = _layer_nodes(build, shot, motion, mount.id, parent)
    parent = _layer_nodes(build, shot, motion, None, parent)
    _camera(build, shot, motion, parent)
    gltf = build.gltf
    gltf.scenes = [gl.Scene(name=shot.name, nodes=[0])]
    gltf.scene = 0
    gltf.animations = [build.animation]
    gltf.buffers = [gl.Buffer(byteLength=len(build.bytes))]
    gltf.set_binary_blob(bytes(build.bytes))
    return gltf


def _layer_nodes(build: _Builder, shot: Shot, motion: Motion, target: str | None, parent: int | None) -> int | None:
    total = np.zeros((len(motion.frames), 7))
    before = transforms.identity(len(motion.frames))
    for _, layer in shot.layers():
        if layer.target != target or layer.id not in motion.layers:
            continue
        total = total + motion.layers[layer.id]
        after = transforms.offset_transforms(total)
        parent = build.node(f"Layer: {layer.name}", _inverse(before) @ after, parent)
        before = after
    return parent


def _camera(build: _Builder, shot: Shot, motion: Motion, parent: int | None) -> None:
    picture = shot.picture
    yfov = np.radians(vfov_deg(motion.pose.focal_mm, shot.sensor_mm, picture.width_px, picture.height_px))
    lens = gl.Perspective(aspectRatio=picture.width_px / picture.height_px, yfov=float(yfov[0]), znear=_NEAR_M, zfar=_FAR_M)
    extras: dict[str, Any] = {EXTRAS: {"sensor_mm": shot.sensor_mm, "focal_mm": float(motion.pose.focal_mm[0]), "width_px": picture.width_px}}
    build.gltf.cameras = [gl.Camera(name="Lens", type="perspective", perspective=lens, extras=extras)]
    node = gl.Node(name=f"{shot.name} camera", camera=0)
    build.gltf.nodes.append(node)
    if parent is not None:
        build.gltf.nodes[parent].children.append(len(build.gltf.nodes) - 1)
    if np.ptp(yfov) > _STILL:
        target = gl.AnimationChannelTarget(path="pointer", extensions={POINTER: {"pointer": "/cameras/0/perspective/yfov"}})
        build.channel(yfov, "SCALAR", target)
        build.gltf.extensionsUsed.append(POINTER)


def _inverse(tf: Array) -> Array:
    """Inverse of rigid poses. (F, 4, 4)."""
    out = transforms.identity(len(tf))
    turned = np.swapaxes(tf[:, :3, :3], 1, 2)
    out[:, :3, :3] = turned
    out[:, :3, 3] = -(turned @ tf[:, :3, 3:])[:, :, 0]
    return out

"""A shot as glTF 2.0 or GLB: every mount, then every layer, then the camera, as nested nodes.

Layers of one mount add in axis space, but nested nodes multiply. So the node of layer k carries
inverse(offset of layers 1..k-1) x (offset of layers 1..k): the chain of nodes multiplies to exactly the sum.

Motion arrives in parts and is written to a temporary file; only at the end it is known which channels move. Memory does
not grow
with the shot.
"""

from __future__ import annotations

import base64
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, field
from typing import IO, Any

import numpy as np

from zittern.core.axes import no_offsets
from zittern.core.motion import chain
from zittern.core.motion.evaluate import Motion
from zittern.core.motion.pose import LENS_SAMPLES
from zittern.core.optics.lens import vfov_deg
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import MountKind
from zittern.core.shot.shot import Shot
from zittern.core.units import Array
from zittern.formats.files import spool_beside
from zittern.formats.gltf_file import glb_head
from zittern.formats.gltf_model import (
    EXTRAS,
    FLOAT,
    POINTER,
    Accessor,
    Animation,
    Asset,
    Buffer,
    BufferView,
    Camera,
    Channel,
    Document,
    Node,
    Perspective,
    Sampler,
    Scene,
    Target,
)  # fmt: skip

__all__ = ["write_glb", "write_gltf"]

_NEAR_M = 0.05
_FAR_M = 5000.0
# A channel that varies less than float32 can show is written as a still value.
_STILL = 1e-9
_FLOAT_BYTES = 4
_KINDS = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4"}
_PLACE = "PLACE-OF-THE-DATA"


def write_glb(shot: Shot, frames: Array, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """Binary container, one file. frames (F,): those of the parts.

    Raises FormatError when it would be larger than such a file can be.
    """
    with spool_beside(file) as spool:
        tracks = _collect(shot, frames, parts, spool)
        document, moving = _document(shot, tracks)
        file.write(glb_head(document.written(), sum(track.bytes for track in moving)))
        for block in _blocks(moving, spool):
            file.write(block)


def write_gltf(shot: Shot, frames: Array, parts: Iterable[Motion], file: IO[bytes]) -> None:
    """JSON with the data embedded, one file. frames (F,): those of the parts."""
    with spool_beside(file) as spool:
        tracks = _collect(shot, frames, parts, spool)
        document, moving = _document(shot, tracks, f"data:application/octet-stream;base64,{_PLACE}")
        before, after = document.written().split(_PLACE.encode())
        file.write(before)
        left = b""
        for block in _blocks(moving, spool):
            left += block
            whole = len(left) - len(left) % 3
            file.write(base64.b64encode(left[:whole]))
            left = left[whole:]
        file.write(base64.b64encode(left))
        file.write(after)


@dataclass
class _Track:
    """One property of one node over all parts, as float32 in the spool: the offsets of its parts, and its range."""

    node: str
    path: str
    columns: int
    places: list[tuple[int, int]] = field(default_factory=list)
    low: Array = field(default_factory=lambda: np.empty(0))
    high: Array = field(default_factory=lambda: np.empty(0))
    first: Array = field(default_factory=lambda: np.empty(0))
    last: Array = field(default_factory=lambda: np.empty(0))

    def add(self, values: Array, spool: IO[bytes]) -> None:
        """values: (F, columns) of the next part."""
        low, high = values.min(axis=0), values.max(axis=0)
        if self.places:
            low, high = np.minimum(low, self.low), np.maximum(high, self.high)
        else:
            self.first = values[0]
        self.low, self.high, self.last = low, high, values[-1]
        data = np.ascontiguousarray(values, dtype="<f4").tobytes()
        self.places.append((spool.tell(), len(data)))
        spool.write(data)

    @property
    def bytes(self) -> int:
        return sum(length for _, length in self.places)

    @property
    def is_static(self) -> bool:
        return bool(np.max(self.high - self.low) <= _STILL)


def _collect(shot: Shot, frames: Array, parts: Iterable[Motion], spool: IO[bytes]) -> list[_Track]:
    """Tracks in order: times, translation and rotation of each node from the ground to the lens, field of view."""
    tracks: dict[tuple[str, str], _Track] = {}

    def add(node: str, path: str, values: Array) -> None:
        tracks.setdefault((node, path), _Track(node, path, values.shape[1])).add(values, spool)

    for motion in parts:
        add("", "times", shot.fps.seconds(motion.frames, shot.first_frame)[:, None])
        for number, (kind, name, tf) in enumerate(_poses(shot, motion)):
            node = f"{number} {kind} {name}"
            add(node, "translation", tf[:, :3, 3])
            quats = rotations.quaternions(tf[:, :3, :3])
            before = tracks.get((node, "rotation"))
            add(node, "rotation", -quats if before is not None and quats[0] @ before.last < 0 else quats)
        picture = shot.picture
        yfov = np.radians(vfov_deg(motion.pose.focal_mm, shot.sensor_mm, picture.width_px, picture.height_px))
        add("", "yfov", yfov[:, None])
        add("", "focal_mm", motion.pose.focal_mm[:, None])
        for name in LENS_SAMPLES:
            values = getattr(motion.pose, name)
            add("", name, values.reshape(len(values), -1))
    return list(tracks.values())


def _poses(shot: Shot, motion: Motion) -> Iterator[tuple[MountKind, str, Array]]:
    """Kind, name and pose in its parent (F, 4, 4) of each node, from the ground to the lens.

    The mounts with all that is on them, the layers, what holds the framing. They multiply to the world pose.
    """
    base = transforms.identity(len(motion.frames))
    carried = chain.RigOffsets(motion.on.carried, motion.on.given)
    for mount in shot.mounts:
        own = chain.step(mount, base, motion.locals_[mount.id], carried)
        yield mount.kind, mount.name, transforms.inverse(base) @ own
        yield from _layer_poses(shot, motion, mount.id)
        base = motion.rig[mount.id]
    yield from _layer_poses(shot, motion, None)
    if chain.HOLD in motion.on.given:
        still = transforms.identity(len(motion.frames))
        yield "free", "Hold framing", chain.with_deflection(still, motion.on.given[chain.HOLD])


def _layer_poses(shot: Shot, motion: Motion, target: str | None) -> Iterator[tuple[MountKind, str, Array]]:
    total = no_offsets(motion.frames)
    before = transforms.identity(len(motion.frames))
    for _, layer in shot.layers():
        if layer.target != target or layer.id not in motion.layers:
            continue
        total = total + motion.layers[layer.id]
        after = transforms.offset_transforms(total)
        yield "free", f"Layer: {layer.name}", transforms.inverse(before) @ after
        before = after


class _Builder:
    """Nodes, and the accessors and channels of what moves. `moving`: the tracks whose bytes follow, in this order."""

    def __init__(self, times: _Track) -> None:
        self.nodes: list[dict[str, Any]] = []
        self.views: list[BufferView] = []
        self.accessors: list[Accessor] = []
        self.samplers: list[Sampler] = []
        self.channels: list[Channel] = []
        self.extensions: list[str] = []
        self.moving: list[_Track] = []
        self._at = 0
        ends = {"min": (float(np.float32(times.low[0])),), "max": (float(np.float32(times.high[0])),)}
        self._times = self._accessor(times, **ends)

    def _accessor(self, track: _Track, **fields: Any) -> int:
        view = BufferView(buffer=0, byteOffset=self._at, byteLength=track.bytes)
        count = track.bytes // _FLOAT_BYTES // track.columns
        made = Accessor(
            bufferView=len(self.views), componentType=FLOAT, count=count, type=_KINDS[track.columns], **fields
        )
        self.views.append(view)
        self.accessors.append(made)
        self.moving.append(track)
        self._at += track.bytes
        return len(self.accessors) - 1

    def channel(self, track: _Track, target: Target) -> None:
        sampler = Sampler(input=self._times, output=self._accessor(track), interpolation="LINEAR")
        self.samplers.append(sampler)
        self.channels.append(Channel(sampler=len(self.samplers) - 1, target=target))

    def samples(self, track: _Track, name: str, times: str) -> dict[str, int]:
        """Accessors of a track that no node can carry, by name, with their times; none for one that stays 0."""
        if track.is_static and not np.any(track.first):
            return {}
        return {name: self._accessor(track), times: self._times}

    def node(self, **fields: Any) -> int:
        """Add a node as child of the previous one."""
        self.nodes.append(fields)
        index = len(self.nodes) - 1
        if index:
            self.nodes[index - 1]["children"] = (index,)
        return index

    def document(self, name: str, camera: Camera, uri: str | None) -> Document:
        """All of it. uri: where the buffer is, when it does not follow in the same file."""
        at = {} if uri is None else {"uri": uri}
        extensions = {"extensionsUsed": tuple(self.extensions)} if self.extensions else {}
        return Document(
            asset=Asset(version="2.0", generator="Zittern"),
            scene=0,
            scenes=(Scene(name=name, nodes=(0,)),),
            nodes=tuple(Node(**fields) for fields in self.nodes),
            cameras=(camera,),
            animations=(Animation(name="Shot", channels=tuple(self.channels), samplers=tuple(self.samplers)),),
            accessors=tuple(self.accessors),
            bufferViews=tuple(self.views),
            buffers=(Buffer(byteLength=self._at, **at),),
            **extensions,
        )


def _document(shot: Shot, tracks: list[_Track], uri: str | None = None) -> tuple[Document, list[_Track]]:
    """Return the JSON, and the tracks whose bytes the buffer holds.

    The root's position is keyed even when it is still: so the shot's length is kept. uri: where the buffer is, when it
    does not follow in the same file.
    """
    times, *rest = tracks
    build = _Builder(times)
    named = {track.path: track for track in rest if not track.node}
    for track in (each for each in rest if each.node):
        if track.path == "translation":
            _, kind, name = track.node.split(" ", 2)
            index = build.node(name=name, extras={EXTRAS: {"mount": kind}})
        if track.is_static and (index > 0 or track.path != "translation"):
            build.nodes[index][track.path] = tuple(float(value) for value in track.first)
        else:
            build.channel(track, Target(node=index, path=track.path))
    build.node(name=f"{shot.name} camera", camera=0)
    if not named["yfov"].is_static:
        pointer = {POINTER: {"pointer": "/cameras/0/perspective/yfov"}}
        build.channel(named["yfov"], Target(path="pointer", extensions=pointer))
        build.extensions.append(POINTER)
    told: dict[str, int] = {}
    for name in LENS_SAMPLES:
        if name == "focus_m" and shot.glass is None and named[name].is_static:
            continue  # no lens that could be focused
        told |= build.samples(named[name], name, f"{name.partition('_')[0]}_times")
    camera = _camera(shot, float(named["yfov"].first[0]), float(named["focal_mm"].first[0]), told)
    return build.document(shot.name, camera, uri), build.moving


def _camera(shot: Shot, yfov: float, focal_mm: float, told: dict[str, int]) -> Camera:
    """told: offset of the samples of data without a glTF field."""
    picture = shot.picture
    lens = Perspective(aspectRatio=picture.width_px / picture.height_px, yfov=yfov, znear=_NEAR_M, zfar=_FAR_M)
    ours = {"sensor_mm": shot.sensor_mm, "focal_mm": focal_mm, "width_px": picture.width_px, **told}
    return Camera(name="Lens", type="perspective", perspective=lens, extras={EXTRAS: ours})


def _blocks(tracks: Iterable[_Track], spool: IO[bytes]) -> Iterator[bytes]:
    """Return the bytes of some tracks, one after another."""
    for track in tracks:
        for at, length in track.places:
            spool.seek(at)
            yield spool.read(length)

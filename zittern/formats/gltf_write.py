"""A shot as glTF 2.0 or GLB: every mount, then every layer, then the camera, as nested nodes; or one node.

Every sample is a key, or few cubic keys follow the samples within a tolerance. Motion arrives in parts and is written
to a temporary file; only at the end it is known which channels move. Memory does not grow with the shot.
"""

from __future__ import annotations

import base64
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from typing import IO, Any

import numpy as np

from zittern.core.motion.evaluate import Motion
from zittern.core.motion.nodes import PosedNode, nodes
from zittern.core.motion.pose import LENS_SAMPLES, Pose
from zittern.core.numbers.reduction import Spline
from zittern.core.optics.lens import vfov_deg
from zittern.core.rig import rotations
from zittern.core.shot.mounts import MountKind
from zittern.core.shot.shot import Shot
from zittern.core.units import Array
from zittern.formats.delivery import Delivery
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
from zittern.formats.reduced import Loss, NodePath, Reducer

__all__ = ["write_glb", "write_gltf"]

_NEAR_M = 0.05
_FAR_M = 5000.0
# A channel that varies less than float32 can show is written as a still value.
_STILL = 1e-9
_FLOAT_BYTES = 4
_KINDS = {1: "SCALAR", 2: "VEC2", 3: "VEC3", 4: "VEC4"}
_PLACE = "PLACE-OF-THE-DATA"


def write_glb(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> Loss | None:
    """Binary container, one file.

    Raises FormatError when it would be larger than such a file can be.
    """
    with spool_beside(file) as spool:
        tracks, loss = _collect(shot, delivery, parts, spool)
        document, moving = _document(shot, tracks)
        file.write(glb_head(document.written(), sum(track.bytes for track in moving)))
        for block in _blocks(moving, spool):
            file.write(block)
    return loss


def write_gltf(shot: Shot, delivery: Delivery, parts: Iterable[Motion], file: IO[bytes]) -> Loss | None:
    """JSON with the data embedded, one file."""
    with spool_beside(file) as spool:
        tracks, loss = _collect(shot, delivery, parts, spool)
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
    return loss


@dataclass
class _Track:
    """One property of one node over all parts, as float32 in the spool: the offsets of its parts, and its range.

    keys: its own times, where it has cubic keys; has_slopes: some are not 0, so that it moves.
    """

    columns: int
    keys: _Track | None = None
    has_slopes: bool = False
    places: list[tuple[int, int]] = field(default_factory=list)
    low: Array = field(default_factory=lambda: np.empty(0))
    high: Array = field(default_factory=lambda: np.empty(0))
    first: Array = field(default_factory=lambda: np.empty(0))
    last: Array = field(default_factory=lambda: np.empty(0))

    def add(self, values: Array, spool: IO[bytes], stored: Array | None = None) -> None:
        """Add the next part. values: (F, columns). stored: their form in the file, if different."""
        low, high = values.min(axis=0), values.max(axis=0)
        if self.places:
            low, high = np.minimum(low, self.low), np.maximum(high, self.high)
        else:
            self.first = values[0]
        self.low, self.high, self.last = low, high, values[-1]
        data = np.ascontiguousarray(values if stored is None else stored, dtype="<f4").tobytes()
        self.places.append((spool.tell(), len(data)))
        spool.write(data)

    def add_keys(self, spline: Spline, spool: IO[bytes]) -> None:
        """Add the next keys, as cubic splines are stored: for each key the slope before, the value, the slope after."""
        if self.keys is None:
            self.keys = _Track(1)
        if len(spline.at):
            self.keys.add(spline.at[:, None], spool)
            stored = np.stack([spline.slope_in, spline.values, spline.slope_out], axis=1).reshape(-1, self.columns)
            self.has_slopes |= bool(np.any(spline.slope_in) or np.any(spline.slope_out))
            self.add(spline.values, spool, stored)

    @property
    def bytes(self) -> int:
        return sum(length for _, length in self.places)

    @property
    def is_static(self) -> bool:
        return not self.has_slopes and bool(np.max(self.high - self.low) <= _STILL)


class _Tracks:
    """Tracks of nodes by number and path, and values of the lens, which belong to no node."""

    def __init__(self, spool: IO[bytes]) -> None:
        self.nodes: list[tuple[MountKind, str]] = []
        self.times = _Track(1)
        self.channels: dict[NodePath, _Track] = {}
        self.lens: dict[str, _Track] = {}
        self._spool = spool

    def add_samples(self, posed: Sequence[PosedNode], yfov: Array) -> None:
        for number, node in enumerate(posed):
            self._channel((number, "translation"), 3).add(node.pose[:, :3, 3], self._spool)
            quats = rotations.quaternions(node.pose[:, :3, :3])
            track = self._channel((number, "rotation"), 4)
            track.add(-quats if track.places and quats[0] @ track.last < 0 else quats, self._spool)
        self._channel((len(posed), "yfov"), 1).add(yfov[:, None], self._spool)

    def add_keys(self, splines: dict[NodePath, Spline]) -> None:
        for channel, spline in splines.items():
            self._channel(channel, spline.values.shape[1]).add_keys(spline, self._spool)

    def add_lens(self, seconds: Array, pose: Pose) -> None:
        self.times.add(seconds[:, None], self._spool)
        for name in ("focal_mm", *LENS_SAMPLES):
            values = getattr(pose, name).reshape(len(seconds), -1)
            self.lens.setdefault(name, _Track(values.shape[1])).add(values, self._spool)

    def _channel(self, channel: NodePath, columns: int) -> _Track:
        return self.channels.setdefault(channel, _Track(columns))


def _collect(shot: Shot, delivery: Delivery, parts: Iterable[Motion], spool: IO[bytes]) -> tuple[_Tracks, Loss | None]:
    tracks = _Tracks(spool)
    # Curves need two keys.
    first, last = delivery.range(shot)
    reducer = Reducer(shot, delivery.reduce, (first, last)) if delivery.reduce and last > first else None
    picture = shot.picture
    for motion in parts:
        posed = list(nodes(shot, motion, delivery.one_camera))
        tracks.nodes = [(node.kind, f"Layer: {node.name}" if node.is_layer else node.name) for node in posed]
        seconds = delivery.seconds(shot, motion.frames)
        if reducer is None:
            yfov = vfov_deg(motion.pose.focal_mm, shot.sensor_mm, picture.width_px, picture.height_px)
            tracks.add_samples(posed, np.radians(yfov))
            tracks.add_lens(seconds, motion.pose)
            continue
        tracks.add_keys(reducer.add(motion, posed))
        # Values that nothing interpolates as curves come at whole frames; the first sample is that before the part.
        rows = np.flatnonzero(motion.frames == np.round(motion.frames))
        rows = rows[rows > 0] if tracks.times.places else rows
        if rows.size:
            tracks.add_lens(seconds[rows], motion.pose.rows_at(rows))
    if reducer is None:
        return tracks, None
    tracks.add_keys(reducer.finish())
    return tracks, reducer.loss


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
        self._times = self._keys(times)

    def _keys(self, times: _Track) -> int:
        return self._accessor(times, min=(float(np.float32(times.low[0])),), max=(float(np.float32(times.high[0])),))

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
        keys, kind = (self._times, "LINEAR") if track.keys is None else (self._keys(track.keys), "CUBICSPLINE")
        self.samplers.append(Sampler(input=keys, output=self._accessor(track), interpolation=kind))
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


def _document(shot: Shot, tracks: _Tracks, uri: str | None = None) -> tuple[Document, list[_Track]]:
    """Return the JSON, and the tracks whose bytes the buffer holds.

    The root's position is keyed even when it is still: so the shot's length is kept. uri: where the buffer is, when it
    does not follow in the same file.
    """
    build = _Builder(tracks.times)
    for number, (kind, name) in enumerate(tracks.nodes):
        index = build.node(name=name, extras={EXTRAS: {"mount": kind}})
        for path in ("translation", "rotation"):
            track = tracks.channels[number, path]
            if track.is_static and (index > 0 or path != "translation"):
                build.nodes[index][path] = tuple(float(value) for value in track.first)
            else:
                build.channel(track, Target(node=index, path=path))
    build.node(name=f"{shot.name} camera", camera=0)
    yfov = tracks.channels[len(tracks.nodes), "yfov"]
    if not yfov.is_static:
        build.channel(yfov, Target(path="pointer", extensions={POINTER: {"pointer": "/cameras/0/perspective/yfov"}}))
        build.extensions.append(POINTER)
    told: dict[str, int] = {}
    for name in LENS_SAMPLES:
        if name == "focus_m" and shot.glass is None and tracks.lens[name].is_static:
            continue  # no lens that could be focused
        told |= build.samples(tracks.lens[name], name, f"{name.partition('_')[0]}_times")
    camera = _camera(shot, float(yfov.first[0]), float(tracks.lens["focal_mm"].first[0]), told)
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

"""A set as a GLB file: whether it can be one, which objects it has, and the path of one of them as a subject."""

from __future__ import annotations

import numpy as np
from pydantic import ValidationError

from zittern.core.edits.poses import WorldPose
from zittern.core.errors import DocumentError, FormatError, faults_as
from zittern.core.numbers.param import Number
from zittern.core.rig import rotations, transforms
from zittern.core.shot.mounts import MOVE_FIELDS
from zittern.core.shot.rides import Ride
from zittern.core.shot.shot import Shot, Subject
from zittern.core.shot.targets import PointTarget
from zittern.core.timebase import frame_grid
from zittern.core.units import Array
from zittern.formats import gltf_file, gltf_motion
from zittern.formats.files import no_sidecars
from zittern.formats.gltf_file import Gltf
from zittern.formats.paths import keys_of

__all__ = ["check_set", "objects", "point_in", "poses_from", "ride_on", "subject_in", "target_on"]

# An object of no size still has one as a subject.
_LEAST_HEIGHT_M = 0.05
# Objects that move by less than this are static.
_STILL_M, _STILL_DEG = 1e-6, 1e-4


def check_set(data: bytes) -> tuple[str, ...]:
    """Return the names of a set's objects. Raises FormatError when the file is no GLB or shows nothing."""
    if data[:4] != b"glTF":
        raise FormatError("a set is a GLB file, with everything in it")
    gltf = gltf_file.load(data, no_sidecars)
    gltf.load_buffers()
    if not any(node.mesh is not None for node in gltf.json.nodes):
        raise FormatError("the file has no mesh in its node tree, so there would be nothing to see", "nodes")
    return objects(gltf)


def objects(gltf: Gltf) -> tuple[str, ...]:
    """Names of the nodes at the top of the tree that have something to show, and of their children."""
    nodes = gltf.json.nodes
    shows = [node.mesh is not None for node in nodes]
    for root in (i for i in range(len(nodes)) if i not in gltf.parent):
        for i in reversed(gltf.below(root)):
            shows[i] = shows[i] or any(shows[child] for child in nodes[i].children)
    return tuple(dict.fromkeys(node.name for node, shown in zip(nodes, shows, strict=True) if node.name and shown))


def subject_in(data: bytes, name: str, shot: Shot) -> Subject:
    """Return an object of a set as the subject of a shot: the middle of its box, keyed where it moves.

    Raises FormatError.
    """
    gltf = gltf_file.load(data, no_sidecars)
    found = _found(gltf, name)
    low, high = _box_m(gltf, found)
    return _followed(gltf, found, (low + high) / 2.0, name, shot)


def target_on(data: bytes, name: str, shot: Shot) -> PointTarget:
    """Return the middle of an object of a set as something to follow, keyed where it moves. Raises FormatError."""
    subject = subject_in(data, name, shot)
    return PointTarget(name=subject.name, object=subject.object, x_m=subject.x_m, y_m=subject.y_m, z_m=subject.z_m)


def point_in(data: bytes, name: str, point_m: tuple[float, float, float], frame: float, shot: Shot) -> Subject:
    """Return a point of an object, picked in the world (metres) at a frame, as the subject.

    It moves with the object. Raises FormatError.
    """
    gltf = gltf_file.load(data, no_sidecars)
    found = _found(gltf, name)
    chain = gltf.above(found)
    tracks, _ = gltf_motion.tracks_of(gltf, chain)
    world = gltf_motion.world_matrices(gltf, chain, tracks, shot.fps.seconds(np.array([frame]), shot.first_frame))[0]
    try:
        local = np.linalg.solve(world, np.array([*point_m, 1.0]))[:3]
    except np.linalg.LinAlgError as error:
        raise FormatError(
            f"the object {name!r} has zero scale there, so no point of it can be followed", "subject.object"
        ) from error
    return _followed(gltf, found, local, f"point on {name}", shot)


def ride_on(data: bytes, name: str, shot: Shot) -> Ride:
    """Return a ride on an object of a set, with its path over the shot.

    Raises FormatError; for an object that does not move too.
    """
    frames = frame_grid(shot.first_frame, shot.last_frame)
    place, angles = _object_poses(data, name, shot, frames)
    if float(np.max(np.ptp(place, axis=0))) < _STILL_M and float(np.max(np.ptp(angles, axis=0))) < _STILL_DEG:
        raise FormatError(f"{name!r} stands still in this set, so nothing rides on it", "ride.object")
    columns = np.concatenate([place, angles], axis=1)
    try:
        return Ride(object=name[:200], **{field: keys_of(frames, columns[:, i]) for i, field in enumerate(MOVE_FIELDS)})
    except ValidationError as error:
        fault = DocumentError.of(error, "ride")
        raise FormatError(f"nothing can ride on {name!r}: {fault.message}", fault.where) from error


def poses_from(data: bytes, name: str, shot: Shot, frame: float, count: int) -> list[WorldPose]:
    """Poses of an object of a set in the world at so many frames, one after another. Raises FormatError."""
    frames = frame + np.arange(count, dtype=np.float64)
    place, angles = _object_poses(data, name, shot, frames)
    rows = zip(frames.tolist(), place.tolist(), angles.tolist(), strict=True)
    with faults_as(FormatError, name[:200]):
        return [
            WorldPose.model_validate({"frame": at, "position_m": position, "angles_deg": turn})
            for at, position, turn in rows
        ]


def _object_poses(data: bytes, name: str, shot: Shot, frames: Array) -> tuple[Array, Array]:
    """Return the center and the angles of an object of a set at some frames.

    (F, 3) meters in the world, and (F, 3) degrees. Raises FormatError.
    """
    gltf = gltf_file.load(data, no_sidecars)
    found = _found(gltf, name)
    low, high = _box_m(gltf, found)
    chain = gltf.above(found)
    tracks, _ = gltf_motion.tracks_of(gltf, chain)
    world = gltf_motion.world_matrices(gltf, chain, tracks, shot.fps.seconds(frames, shot.first_frame))
    try:
        turned = transforms.orthonormal(world[:, :3, :3])
    except np.linalg.LinAlgError as error:
        raise FormatError(f"the object {name!r} has zero scale, so it has no orientation", "ride.object") from error
    return (world @ np.array([*(low + high) / 2.0, 1.0]))[:, :3], rotations.continuous(turned)


def _found(gltf: Gltf, name: str) -> int:
    for i, node in enumerate(gltf.json.nodes):
        if node.name == name:
            return i
    raise FormatError(f"the set has no object {name!r}", "subject.object")


def _followed(gltf: Gltf, node: int, local_m: Array, title: str, shot: Shot) -> Subject:
    """Return a point (3,) in an object's own frame, keyed where the object moves, with the height of the object."""
    frames = frame_grid(shot.first_frame, shot.last_frame)
    chain = gltf.above(node)
    tracks, _ = gltf_motion.tracks_of(gltf, chain)
    world = gltf_motion.world_matrices(gltf, chain, tracks, shot.fps.seconds(frames, shot.first_frame))
    path = (world @ np.array([*local_m, 1.0]))[:, :3]
    low, high = _box_m(gltf, node)
    # Dimension of its bounding box in the world.
    height = float(np.abs(world[0, 1, :3]) @ (high - low))
    across = max(float(np.abs(world[0, axis, :3]) @ (high - low)) for axis in (0, 2))
    name = gltf.json.nodes[node].name or title

    def track(column: int) -> Number:
        return keys_of(frames, path[:, column])

    try:
        return Subject(
            name=title[:120],
            object=name[:200],
            height_m=max(height, _LEAST_HEIGHT_M),
            width_m=across,
            x_m=track(0),
            y_m=track(1),
            z_m=track(2),
        )
    except ValidationError as error:
        fault = DocumentError.of(error, "subject")
        raise FormatError(f"{name!r} cannot be a subject: {fault.message}", fault.where) from error


def _box_m(gltf: Gltf, node: int) -> tuple[Array, Array]:
    """Least and largest corner of all meshes under a node, in the node's own frame, at time 0. (3,), (3,)."""
    corners = []
    start = np.zeros(1)
    every = gltf.below(node)
    tracks, _ = gltf_motion.tracks_of(gltf, every)
    locals_ = dict(zip(every, gltf_motion.still_matrices(gltf, every), strict=True))
    for moving in {each for each, _ in tracks}:
        locals_[moving] = gltf_motion.local_matrices(gltf, moving, tracks, start)[0]
    within = {node: np.eye(4)}
    for each in every:
        mesh = gltf.json.nodes[each].mesh
        tf = within.pop(each)
        for child in gltf.json.nodes[each].children:
            within[child] = tf @ locals_[child]
        if mesh is None:
            continue
        for low, high in gltf_file.mesh_bounds(gltf, mesh):
            grid = np.array(np.meshgrid(*zip(low, high, strict=True))).reshape(3, -1).T
            corners.append(grid @ tf[:3, :3].T + tf[:3, 3])
    if not corners:
        raise FormatError(f"the object {gltf.json.nodes[node].name!r} has no mesh to look at", f"nodes[{node}]")
    points = np.concatenate(corners)
    return points.min(axis=0), points.max(axis=0)

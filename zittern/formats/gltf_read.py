"""A camera anywhere in a glTF node tree, its parents animated too, becomes a move."""

from __future__ import annotations

import numpy as np

from zittern.core.errors import FormatError
from zittern.core.optics.lens import LEAST_FOCAL_MM, MOST_FOCAL_MM, focal_for_vfov_mm
from zittern.core.rig import rotations
from zittern.core.rig.transforms import orthonormal
from zittern.core.shot.mounts import KINDS
from zittern.core.shot.shot import DEFAULT_SENSOR_MM, Picture
from zittern.core.timebase import Fps
from zittern.core.units import Array, deg
from zittern.formats import gltf_file, gltf_motion
from zittern.formats.files import Sidecars
from zittern.formats.gltf_file import Gltf
from zittern.formats.gltf_model import EXTRAS, POINTER
from zittern.formats.paths import Imported, PathFile, PathPart, PathSamples, sample_plan

__all__ = ["read"]

# Required extensions that do not affect the pose of a camera.
_HARMLESS = {
    "KHR_animation_pointer", "KHR_materials_unlit", "KHR_texture_transform", "KHR_lights_punctual",
    "KHR_mesh_quantization", "EXT_texture_webp",
    "KHR_draco_mesh_compression", "EXT_meshopt_compression", "KHR_texture_basisu", "KHR_materials_emissive_strength",
}  # fmt: skip
# A still camera gets the length of a fresh shot.
_STILL_LAST_FRAME = 240


def read(data: bytes, sidecars: Sidecars) -> PathFile:
    """Cameras of a .gltf or .glb. Raises FormatError."""
    gltf = gltf_file.load(data, sidecars)
    gltf.load_buffers()
    unknown = sorted(set(gltf.json.extensionsRequired) - _HARMLESS)
    if unknown:
        raise FormatError(
            f"the file requires {', '.join(unknown)[:200]}, which is not read; save without it", "extensionsRequired"
        )
    skipped = sorted(set(gltf.json.extensionsUsed) - set(gltf.json.extensionsRequired) - {POINTER})
    notices = (f"extensions passed over: {', '.join(skipped)[:200]}",) if skipped else ()
    nodes = _camera_nodes(gltf)
    return PathFile(tuple(nodes), lambda name, fps: _imported(gltf, nodes[name], name, fps), notices)


def _camera_nodes(gltf: Gltf) -> dict[str, int]:
    """Perspective camera nodes by a name that is theirs alone."""
    names: dict[str, int] = {}
    flat = 0
    for i, node in enumerate(gltf.json.nodes):
        if node.camera is None:
            continue
        if node.camera >= len(gltf.json.cameras):
            raise FormatError(
                f"camera {node.camera} does not exist; there are {len(gltf.json.cameras)}", f"nodes[{i}].camera"
            )
        camera = gltf.json.cameras[node.camera]
        if camera.perspective is None:
            flat += 1
            continue
        name = node.name or camera.name or f"camera {i}"
        names[name if name not in names else f"{name} (node {i})"] = i
    if not names:
        what = "only orthographic cameras" if flat else "no camera"
        raise FormatError(f"the file holds {what}; a perspective camera in its node tree is needed", "cameras")
    return names


def _imported(gltf: Gltf, node: int, name: str, fps: Fps) -> Imported:
    chain = gltf.above(node)
    tracks, notices = gltf_motion.tracks_of(gltf, chain)
    for owner, path in tracks:
        if gltf.json.nodes[owner].matrix is not None:
            raise FormatError(
                f"the node has a fixed matrix and an animated {path}; only one of them is allowed",
                f"nodes[{owner}].matrix",
            )
    camera = gltf.json.nodes[node].camera
    assert camera is not None
    lens = gltf_motion.yfov_track(gltf, camera)
    moving = [*tracks.values(), *([lens] if lens else [])]
    keys = np.unique(np.concatenate([track.times_s for track in moving])) if moving else np.empty(0)
    jumps = np.unique(np.concatenate([track.times_s[1:] for track in moving if track.kind == "STEP"] or [np.empty(0)]))
    frames, times, last = sample_plan(keys, jumps, fps)
    pose = gltf_motion.world_matrices(gltf, chain, tracks, times)
    if not moving:
        last = _STILL_LAST_FRAME
        notices.append(f"the camera does not move; the shot gets {last} frames")
    picture, sensor_mm, focal = _lens(gltf, camera, lens.sample(times)[:, 0] if lens else None, len(times))
    samples = PathSamples(
        frames,
        pose[:, :3, 3],
        rotations.continuous(_rotations(pose, node)),
        focal,
        last,
        picture,
        sensor_mm,
        _rig_parts(gltf, chain[:-1], tracks, times),
    )
    return Imported(samples, name, tuple(notices))


def _rig_parts(
    gltf: Gltf, nodes: list[int], tracks: dict[tuple[int, str], gltf_motion.Track], times_s: Array
) -> tuple[PathPart, ...]:
    """Return the mounts and layers of an exported rig, from the ground on; None for other nodes."""
    found = []
    for node in nodes:
        model = gltf.json.nodes[node]
        own = model.extras.get(EXTRAS) if isinstance(model.extras, dict) else None
        kind = own.get("mount") if isinstance(own, dict) else None
        if kind not in KINDS:
            return ()
        local = gltf_motion.local_matrices(gltf, node, tracks, times_s)
        found.append(
            PathPart(
                (model.name or "Mount")[:120].strip() or "Mount",
                kind,
                local[:, :3, 3],
                rotations.continuous(_rotations(local, node)),
            )
        )
    return tuple(found)


def _rotations(pose: Array, node: int) -> Array:
    linear = pose[:, :3, :3]
    if np.any(np.abs(np.linalg.det(linear)) < 1e-12):
        raise FormatError("the camera, or a parent, has zero scale", f"nodes[{node}]")
    return orthonormal(linear)


def _lens(gltf: Gltf, index: int, yfov_rad: Array | None, count: int) -> tuple[Picture, float, Array]:
    camera = gltf.json.cameras[index]
    perspective = camera.perspective
    assert perspective is not None
    where = f"cameras[{index}].perspective"
    own = camera.extras.get(EXTRAS) if isinstance(camera.extras, dict) else None
    own = own if isinstance(own, dict) else {}
    sensor_mm = _own_number(own, "sensor_mm", 1.0, 200.0, DEFAULT_SENSOR_MM)
    width = int(_own_number(own, "width_px", 16, 32768, Picture().width_px))
    aspect = perspective.aspectRatio or Picture().width_px / Picture().height_px
    if not 16 <= width / aspect <= 32768:
        raise FormatError(f"an aspect ratio of {aspect:g} gives no usable picture", f"{where}.aspectRatio")
    height = round(width / aspect)
    picture = Picture(width_px=width, height_px=height)
    angles = np.full(count, perspective.yfov) if yfov_rad is None else yfov_rad
    if np.any((angles <= 0) | (angles >= np.pi)):
        raise FormatError("a field of view is between 0 and 180 degrees", f"{where}.yfov")
    focal = np.array([focal_for_vfov_mm(deg(float(angle)), sensor_mm, width, height) for angle in angles])
    if focal.min() < LEAST_FOCAL_MM or focal.max() > MOST_FOCAL_MM:
        raise FormatError(
            f"the field of view means a focal length of {focal.min():.3g} to {focal.max():.3g} mm; 1 to 10,000 mm are "
            f"possible",
            f"{where}.yfov",
        )
    return picture, sensor_mm, focal


def _own_number(own: dict[str, object], name: str, least: float, most: float, default: float) -> float:
    value = own.get(name)
    return (
        float(value)
        if isinstance(value, (int, float)) and not isinstance(value, bool) and least <= value <= most
        else float(default)
    )

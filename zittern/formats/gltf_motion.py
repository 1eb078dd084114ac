"""Animated nodes sampled at any time: translation, rotation, scale or matrix.

LINEAR, STEP and CUBICSPLINE (glTF 2.0, appendix C).
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import groupby

import numpy as np

from zittern.core.errors import FormatError
from zittern.core.runtime.later import scipy_part
from zittern.core.units import Array
from zittern.formats.gltf_file import Gltf, floats
from zittern.formats.gltf_model import POINTER, Sampler

__all__ = ["Track", "local_matrices", "still_matrices", "tracks_of", "world_matrices", "yfov_track"]

_WIDTH = {"translation": "VEC3", "rotation": "VEC4", "scale": "VEC3", "yfov": "SCALAR"}
# Maximum number of poses of moving nodes for one path: about two seconds of work.
_MOST_POSES = 4_000_000
# A quaternion shorter than this has no direction.
_LEAST_ROTATION = 1e-9


@dataclass(frozen=True, slots=True)
class Track:
    """Keys of one animated property. times_s (K,), rising. values (K, W). tangents in and out (K, W) when cubic."""

    path: str
    times_s: Array
    values: Array
    kind: str
    tangent_in: Array | None = None
    tangent_out: Array | None = None

    def sample(self, times_s: Array) -> Array:
        """(N,) seconds -> (N, W); held outside the keys. Rotations come out normalised."""
        keys = self.times_s
        out: Array
        if len(keys) == 1:
            out = np.repeat(self.values, len(times_s), axis=0)
        elif self.kind == "LINEAR" and self.path == "rotation":
            turns = scipy_part("spatial.transform")
            way = turns.Slerp(keys, turns.Rotation.from_quat(self.values))
            return np.asarray(way(np.clip(times_s, keys[0], keys[-1])).as_quat(), dtype=np.float64)
        else:
            i = np.clip(np.searchsorted(keys, times_s, side="right") - 1, 0, len(keys) - 2)
            span = keys[i + 1] - keys[i]
            u = np.clip((times_s - keys[i]) / span, 0.0, 1.0)[:, None]
            out = self._interpolated(i, u, span[:, None])
        return out / np.linalg.norm(out, axis=1, keepdims=True) if self.path == "rotation" else out

    def _interpolated(self, i: np.ndarray, u: Array, span: Array) -> Array:
        left, right = self.values[i], self.values[i + 1]
        if self.kind == "STEP":
            return np.asarray(np.where(u >= 1.0, right, left), dtype=np.float64)
        if self.kind == "CUBICSPLINE" and self.tangent_in is not None and self.tangent_out is not None:
            u2, u3 = u * u, u * u * u
            return np.asarray(
                (2 * u3 - 3 * u2 + 1) * left
                + span * (u3 - 2 * u2 + u) * self.tangent_out[i]
                + (3 * u2 - 2 * u3) * right
                + span * (u3 - u2) * self.tangent_in[i + 1]
            )
        return np.asarray(left + (right - left) * u)


def tracks_of(gltf: Gltf, nodes: Iterable[int]) -> tuple[dict[tuple[int, str], Track], list[str]]:
    """Tracks by (node, path) for some nodes; where two animations move the same thing, the first counts.

    Raises FormatError.
    """
    wanted = set(nodes)
    tracks: dict[tuple[int, str], Track] = {}
    notices: list[str] = []
    for a, animation in enumerate(gltf.json.animations):
        for c, channel in enumerate(animation.channels):
            node, path = channel.target.node, channel.target.path
            if node not in wanted or path not in ("translation", "rotation", "scale"):
                continue
            if (node, path) in tracks:
                notices.append(
                    f"animation {animation.name or a!r} moves the {path} of node {node} twice; the first is used"
                )
                continue
            tracks[node, path] = _track(
                gltf, animation.samplers, channel.sampler, path, f"animations[{a}].channels[{c}]"
            )
    return tracks, notices


def yfov_track(gltf: Gltf, camera: int) -> Track | None:
    """Animated field of view of a camera (KHR_animation_pointer). Raises FormatError."""
    pointer = f"/cameras/{camera}/perspective/yfov"
    for a, animation in enumerate(gltf.json.animations):
        for c, channel in enumerate(animation.channels):
            extension = channel.target.extensions.get(POINTER)
            if isinstance(extension, dict) and extension.get("pointer") == pointer:
                return _track(gltf, animation.samplers, channel.sampler, "yfov", f"animations[{a}].channels[{c}]")
    return None


def world_matrices(gltf: Gltf, chain: Sequence[int], tracks: dict[tuple[int, str], Track], times_s: Array) -> Array:
    """Product of the poses of a chain of nodes, the outermost first. (N,) seconds -> (N, 4, 4).

    Nodes that stand still are multiplied once. Raises FormatError when a long chain moves over very many frames.
    """
    animated = {node for node, _ in tracks}
    moving = [node for node in chain if node in animated]
    if len(moving) * len(times_s) > _MOST_POSES:
        raise FormatError(
            f"{len(moving)} animated nodes in a chain over {len(times_s)} frames are more than can be read; bake the "
            f"motion to the camera"
        )
    pose = np.eye(4)[None]
    for stands, run in groupby(chain, key=lambda node: node not in animated):
        if stands:
            pose = pose @ _product(still_matrices(gltf, list(run)))
        else:
            for node in run:
                pose = pose @ local_matrices(gltf, node, tracks, times_s)
    return np.asarray(np.broadcast_to(pose, (len(times_s), 4, 4)), dtype=np.float64)


def still_matrices(gltf: Gltf, nodes: Sequence[int]) -> Array:
    """Return tf_parent_node of all static nodes together. (N, 4, 4)."""
    models = [gltf.json.nodes[node] for node in nodes]
    out = np.tile(np.eye(4), (len(nodes), 1, 1))
    quats = np.array([model.rotation for model in models], dtype=np.float64).reshape(-1, 4)
    short = np.flatnonzero(np.linalg.norm(quats, axis=1) < _LEAST_ROTATION)
    if short.size:
        raise FormatError("a rotation has length 0", f"nodes[{nodes[short[0]]}].rotation")
    out[:, :3, :3] = _quat_matrices(quats, "") * np.array([model.scale for model in models]).reshape(-1, 1, 3)
    out[:, :3, 3] = np.array([model.translation for model in models]).reshape(-1, 3)
    for i, model in enumerate(models):
        if model.matrix is not None:
            out[i] = np.array(model.matrix).reshape(4, 4).T
    return out


def _product(matrices: Array) -> Array:
    """Return the product of matrices (N, 4, 4) in their order, neighbours first. -> (4, 4)."""
    while len(matrices) > 1:
        odd = matrices[-1:] if len(matrices) % 2 else matrices[:0]
        matrices = np.concatenate(
            [matrices[:-1:2] @ matrices[1::2] if len(matrices) % 2 == 0 else matrices[:-1:2] @ matrices[1:-1:2], odd]
        )
    return np.asarray(matrices[0], dtype=np.float64)


def local_matrices(gltf: Gltf, node: int, tracks: dict[tuple[int, str], Track], times_s: Array) -> Array:
    """tf_parent_node at each time. (N,) seconds -> (N, 4, 4)."""
    model = gltf.json.nodes[node]
    count = len(times_s)
    if model.matrix is not None:
        return np.tile(np.array(model.matrix).reshape(4, 4).T, (count, 1, 1))

    def part(path: str, still: tuple[float, ...]) -> Array:
        track = tracks.get((node, path))
        return track.sample(times_s) if track else np.tile(np.array(still, dtype=np.float64), (count, 1))

    out = np.tile(np.eye(4), (count, 1, 1))
    quat = part("rotation", model.rotation)
    out[:, :3, :3] = _quat_matrices(quat, f"nodes[{node}].rotation") * part("scale", model.scale)[:, None, :]
    out[:, :3, 3] = part("translation", model.translation)
    return out


def _quat_matrices(quat: Array, where: str) -> Array:
    largest = np.max(np.abs(quat), axis=1, keepdims=True)
    if np.any(largest < _LEAST_ROTATION):
        raise FormatError("a rotation has length 0", where)
    return np.asarray(scipy_part("spatial.transform").Rotation.from_quat(quat / largest).as_matrix(), dtype=np.float64)


def _track(gltf: Gltf, samplers: tuple[Sampler, ...], index: int, path: str, where: str) -> Track:
    if index >= len(samplers):
        raise FormatError(f"sampler {index} does not exist; there are {len(samplers)}", f"{where}.sampler")
    sampler = samplers[index]
    times = floats(gltf, sampler.input, "SCALAR", f"{where}.input")
    values = floats(gltf, sampler.output, _WIDTH[path], f"{where}.output")
    values = values.reshape(len(values), -1)
    if times[0] < 0 or np.any(np.diff(times) <= 0):
        raise FormatError("key times rise from 0 on", f"accessors[{sampler.input}]")
    per_key = 3 if sampler.interpolation == "CUBICSPLINE" else 1
    if len(values) != per_key * len(times):
        raise FormatError(
            f"{per_key * len(times)} values are needed for {len(times)} keys, got {len(values)}",
            f"accessors[{sampler.output}]",
        )
    if path == "rotation" and np.any(np.linalg.norm(values[per_key // 2 :: per_key], axis=1) < 1e-9):
        raise FormatError("a rotation has length 0", f"accessors[{sampler.output}]")
    if per_key == 3:
        return Track(path, times, values[1::3], "CUBICSPLINE", values[0::3], values[2::3])
    return Track(path, times, values, sampler.interpolation)
